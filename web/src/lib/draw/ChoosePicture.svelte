<script lang="ts">
	import type { Schemas } from '../api/client';
	import { picturesQuery } from '../queries';
	import Told from '../ui/Told.svelte';
	import Thumb from './Thumb.svelte';

	/** Options of a choice as drawings of what comes of them, each with how it is told from its neighbour. */
	let {
		kind,
		choice,
		options,
		value,
		onpick
	}: {
		kind: string;
		choice: string;
		options: readonly Schemas['OptionView'][];
		value: string;
		onpick: (key: string) => void;
	} = $props();
	const pictures = picturesQuery(
		() => kind,
		() => choice,
		() => true
	);
	let row = $state<HTMLElement>();
	// What is chosen elsewhere, by its name, is in sight here; the page around stays where it is.
	$effect(() => {
		const chosen = row?.children[options.findIndex((o) => o.key === value)];
		if (row && chosen instanceof HTMLElement)
			row.scrollLeft = chosen.offsetLeft - row.offsetLeft - (row.clientWidth - chosen.clientWidth) / 2;
	});
</script>

<!-- Room is kept for the drawings before they come, so that nothing moves away under a hand. -->
<div
	bind:this={row}
	class="-mx-0.5 -mt-1 flex gap-1.5 overflow-x-auto p-0.5 pb-1"
	role="group"
	aria-label="Pictures, {choice}"
>
	{#each options as o (o.key)}
		{@const picture = pictures.data?.[o.key]}
		<button
			type="button"
			class="border-rule grid w-[196px] shrink-0 content-start justify-items-center gap-1 rounded-[3px] border p-1 text-left {value ===
			o.key
				? 'bg-wash border-dye ring-dye ring-2'
				: 'bg-raised'}"
			aria-pressed={value === o.key}
			onclick={() => onpick(o.key)}
		>
			{#if picture}<Thumb {picture} width={184} height={96} />{:else}<span class="block h-[96px]"></span>{/if}
			<span class="w-full text-[13px] leading-tight font-semibold">{o.title}</span>
			{#if o.tell}<span class="text-quiet w-full text-[13px] leading-tight">{o.tell}</span>{/if}
		</button>
	{/each}
</div>
<Told sentence={pictures.error ? `No pictures of these: ${pictures.error.message}` : ''} />
