<script lang="ts">
	import type { Schemas } from '../api/client';
	import { photoAt } from '../bench/photo';

	/** A photograph where the core laid it: three of its corners in the drawing say where it goes. */
	let {
		photograph,
		x,
		y
	}: {
		photograph: Schemas['PlacedPhotograph'];
		x: (u: number) => number;
		y: (v: number) => number;
	} = $props();
	const at = $derived((p: [number, number]) => [x(p[0]), y(p[1])] as const);
	const matrix = $derived.by(() => {
		const [corner, right, down] = [photograph.corner, photograph.right, photograph.down].map((p) =>
			at(p as [number, number])
		) as [readonly [number, number], readonly [number, number], readonly [number, number]];
		const along = [right[0] - corner[0], right[1] - corner[1], down[0] - corner[0], down[1] - corner[1]];
		return [...along, ...corner].map((n) => n.toFixed(4)).join(' ');
	});
</script>

<image
	href={photoAt(photograph.photo)}
	width="1"
	height="1"
	preserveAspectRatio="none"
	transform="matrix({matrix})"
	opacity="0.5"
	data-testid="photograph"
/>
