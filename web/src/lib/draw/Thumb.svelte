<script lang="ts">
	import type { Schemas } from '../api/client';
	import Fills from './Fills.svelte';
	import Shapes from './Shapes.svelte';

	/** A small drawing, as large as it goes into its frame; what it shows is said beside it. */
	let { picture, width, height }: { picture: Schemas['Picture']; width: number; height: number } = $props();
	const margin = 4;
	const scale = $derived(
		Math.min(
			(width - 2 * margin) / (picture.high[0] - picture.low[0]),
			(height - 2 * margin) / (picture.high[1] - picture.low[1])
		)
	);
	const x = $derived((u: number) => width / 2 + (u - (picture.low[0] + picture.high[0]) / 2) * scale);
	const y = $derived((v: number) => height / 2 - (v - (picture.low[1] + picture.high[1]) / 2) * scale);
</script>

<svg {width} {height} aria-hidden="true" class="thumb shrink-0">
	<Fills />
	<Shapes shapes={picture.shapes} {x} {y} {scale} />
</svg>
