<script lang="ts">
	import type { Snippet } from 'svelte';

	/** A slider through the drawn positions, its number large beside it, and the places worth going back to. */
	let {
		label,
		value = $bindable(),
		min = 0,
		max,
		step = 1,
		valueText,
		figure,
		children
	}: {
		label: string;
		value: number;
		min?: number;
		max: number;
		step?: number;
		valueText: string;
		figure: Snippet;
		children: Snippet;
	} = $props();
</script>

<div class="panel flex items-center gap-4 px-3 py-1.5">
	<label class="flex flex-1 items-center gap-3">
		<span class="font-semibold whitespace-nowrap">{label}</span>
		<input
			type="range"
			class="accent-dye h-6 flex-1"
			aria-label={label}
			aria-valuetext={valueText}
			{min}
			{max}
			{step}
			bind:value
		/>
		<span class="figure min-w-[92px] text-right text-lg font-bold whitespace-nowrap">{@render figure()}</span>
	</label>
	{@render children()}
</div>
