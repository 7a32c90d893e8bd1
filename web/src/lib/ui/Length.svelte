<script lang="ts">
	import { settings } from '../settings.svelte';
	import { length, otherUnit } from '../format';

	let {
		mm,
		signed = false,
		digits = 0,
		unit = true
	}: { mm: number; signed?: boolean; digits?: number; unit?: boolean } = $props();
</script>

<span class="figure" title={otherUnit(mm, settings.units, signed)}
	>{length(mm, settings.units, { signed, digits })}{#if unit}<span class="text-[0.72em] font-normal"
			>&nbsp;{settings.units}</span
		>{/if}</span
>
