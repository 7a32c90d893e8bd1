<script lang="ts">
	import { Tabs } from 'bits-ui';

	/** Tabs of a panel, by value; stands in a Tabs.Root. */
	let {
		tabs,
		label,
		class: more = '',
		tight = false
	}: { tabs: Record<string, string>; label: string; class?: string; tight?: boolean } = $props();
</script>

<Tabs.List class="flex gap-1 {more}" aria-label={label}>
	{#each Object.entries(tabs) as [value, name] (value)}
		<Tabs.Trigger
			{value}
			class="data-[state=active]:bg-wash data-[state=active]:text-dye rounded-[3px] font-semibold whitespace-nowrap {tight
				? 'min-h-7 px-1.5 max-[1150px]:px-1'
				: 'min-h-8 px-2'}">{name}</Tabs.Trigger
		>
	{/each}
</Tabs.List>
