<script lang="ts">
	import type { Schemas } from '../api/client';
	import { number } from '../format';
	import Plot from './Plot.svelte';

	/** Force over length of the spring that was fitted and of the one planned, with where each stands at ride. */
	let { curves, label }: { curves: readonly Schemas['ForceCurve'][]; label: string } = $props();
	/** An axis is told as what it is, then its unit. */
	const unit = (axis: string) => axis.split(', ').at(-1);
	const look = (i: number) => (i === curves.length - 1 ? 'scribe' : 'chalk');
</script>

<Plot
	series={curves.map((c, i) => ({ label: c.label, x: c.length, y: c.force, look: look(i) }))}
	marks={curves.map((c, i) => ({
		x: c.ride_length,
		y: c.ride_force,
		label: `${c.label}: ${number(c.ride_force, 0)} ${unit(c.force_axis)} at ${number(c.ride_length, 0)} ${unit(c.axis)}`,
		look: look(i)
	}))}
	xLabel={curves[0]?.axis ?? ''}
	yLabel={curves[0]?.force_axis ?? ''}
	{label}
/>
