<script lang="ts">
	import { parseDate } from '@internationalized/date';
	import { DateField } from 'bits-ui';
	import { settings } from '../settings.svelte';

	/** A day, typed in the order the shop writes it. */
	let {
		label,
		value,
		onvalue
	}: {
		label: string;
		/** Year, month and day, as documents keep it. */
		value: string | null;
		/** A whole day, or none once it is wiped out: half a day is not told. */
		onvalue: (value: string | null) => void;
	} = $props();

	/** Typed figure by figure, a year is an early one for a while. */
	let early = $state(false);
	const FIRST_YEAR = 1970;
	const day = $derived(value ? parseDate(value.slice(0, 10)) : undefined);
</script>

<DateField.Root
	value={day}
	locale={settings.days}
	granularity="day"
	onValueChange={(to) => {
		const told = to ? to.toString().slice(0, 10) : null;
		early = Boolean(to && to.year < FIRST_YEAR);
		if (!early && told !== value) onvalue(told);
	}}
>
	<div class="grid gap-1">
		<DateField.Label class="label">{label}</DateField.Label>
		<DateField.Input class="field flex items-center" aria-label={label}>
			{#snippet children({ segments })}
				{#each segments as { part, value: text }, i (i)}
					<DateField.Segment
						{part}
						class={part === 'literal'
							? 'text-quiet px-0.5'
							: 'figure aria-[valuetext=Empty]:text-quiet focus-visible:bg-wash rounded-[2px] px-0.5'}
						>{text}</DateField.Segment
					>
				{/each}
			{/snippet}
		</DateField.Input>
		{#if early}<p class="text-fix text-[13px]">Type the year with all its four figures.</p>{/if}
	</div>
</DateField.Root>
