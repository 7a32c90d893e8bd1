<script lang="ts">
	import type { AxleName, Schemas } from '../api/client';
	import { length, number, plusMinus } from '../format';
	import { settings } from '../settings.svelte';
	import { theCar } from './carBench.svelte';
	import CarReadings from './CarReadings.svelte';

	let { proof }: { proof: Schemas['Proof'] | undefined } = $props();
	const bench = theCar();
	const after = $derived(bench.job.prove.after);
	const vehicle = $derived(bench.job.vehicle);
	const asked = $derived({
		front: Object.keys(vehicle.front.targets),
		rear: Object.keys(vehicle.rear.targets)
	}) as Record<AxleName, Schemas['AngleReading']['angle'][]>;
	const measuredStations = $derived([...new Set(bench.job.measure.stations.map((s) => s.station))]);

	function beside(where: {
		axle?: AxleName;
		station?: string;
		side: 'left' | 'right';
		angle?: string;
	}): string {
		const sure = (value: number) => length(value, settings.units);
		const within = (value: number) => plusMinus(value, settings.units);
		if (where.angle && where.axle) {
			const target = vehicle[where.axle].targets[where.angle as 'camber'];
			const is = proof?.angles.find(
				(a) => a.axle === where.axle && a.side === where.side && a.angle === where.angle
			);
			return target
				? `${!is || is.within === null ? '' : is.within ? '✓ ' : '✗ '}${number(target.target_deg, 2, true)} ${target.assumed ? 'usual' : `±${number(target.window_deg, 2)}`}${!is || is.within === null || is.clear ? '' : `, at its edge: read to ±${number(is.plus_minus, 2)}`}`
				: '';
		}
		const is = proof?.heights.find((h) =>
			where.station
				? h.label === where.station && h.side === where.side
				: h.axle === where.axle && h.side === where.side
		);
		if (is)
			return `${is.within ? '✓' : '✗'} ${length(is.residual, settings.units, { signed: true })} of ±${within(is.plus_minus)}`;
		const row = bench.prediction?.heights.find((h) =>
			where.station
				? h.label === where.station && h.side === where.side
				: h.axle === where.axle && h.side === where.side && h.kind === 'hub_to_arch'
		);
		return row ? `${sure(row.after)} ±${within(row.plus_minus)}` : '';
	}
</script>

<CarReadings
	readings={after}
	quantities={[{ id: 'hub_to_arch', name: 'Hub to arch' }]}
	stations={measuredStations}
	angleSides={asked}
	keep="{bench.job.id}.prove"
	questions={proof?.questions}
	{beside}
	onreadings={(readings) => bench.change('prove', { ...bench.job.prove, after: readings })}
/>
{#each proof?.sides ?? [] as side (side.axle)}
	<p class="mt-1 {side.even ? '' : 'text-fix font-semibold'}">
		<span class="capitalize">{side.axle}</span>: left less right
		<span class="figure font-bold"
			>{length(side.after, settings.units, { signed: true })} {settings.units}</span
		>{#if side.before !== null}<span class="text-quiet"
				>, was <span class="figure">{length(side.before, settings.units, { signed: true })}</span></span
			>{/if}
		{side.advice && `: ${side.advice}`}
	</p>
{/each}
