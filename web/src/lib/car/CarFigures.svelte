<script lang="ts">
	import type { Schemas } from '../api/client';
	import { length, number } from '../format';
	import { settings } from '../settings.svelte';
	import Told from '../ui/Told.svelte';
	import CarKits from './CarKits.svelte';
	import CarOwnFigures from './CarOwnFigures.svelte';
	import { theCar } from './carBench.svelte';

	const bench = theCar();
	type Row = [string, number, number | null, number | null, number | null, number | null];
	type Axle = Schemas['AxlePrediction'];
	const toClosed = (t: Schemas['Travel']) => (t.damper_closed === null ? null : t.damper_closed - t.ride);
	/** Of an axle: before, and planned. */
	type Pair = (axle: Axle) => [number | null, number | null];
	const own: [string, number, Pair][] = [
		['Wheel rate, N/mm', 1, (a) => [a.wheel_rate_before, a.wheel_rate_after]],
		['Ride frequency, Hz', 2, (a) => [a.frequency_before, a.frequency_after]],
		['Wheel travel to the stop, mm', 0, (a) => [a.travel_before.gap, a.travel_after.gap]],
		['± by what was read', 0, (a) => [a.travel_before.gap_plus_minus, a.travel_after.gap_plus_minus]],
		[
			'Wheel travel to the damper closed, mm',
			0,
			(a) => [toClosed(a.travel_before), toClosed(a.travel_after)]
		],
		[
			'± by the rod that was read',
			0,
			(a) => [a.travel_before.closed_plus_minus, a.travel_after.closed_plus_minus]
		],
		['Camber, °', 2, (a) => [a.angles_before.camber_deg, a.angles_after.camber_deg]],
		['Camber ±', 2, (a) => [null, a.angle_plus_minus.camber_deg]],
		['Toe of a wheel, °', 2, (a) => [a.angles_before.toe_deg, a.angles_after.toe_deg]],
		['Toe ±', 2, (a) => [null, a.angle_plus_minus.toe_deg]],
		['Caster, °', 2, (a) => [a.angles_before.caster_deg, a.angles_after.caster_deg]],
		['Caster ± by its reading', 2, (a) => [null, a.angle_plus_minus.caster_deg]],
		['Trail, mm', 1, (a) => [a.angles_before.trail_mm, a.angles_after.trail_mm]],
		['Roll centre, mm', 0, (a) => [a.angles_before.roll_centre_mm, a.angles_after.roll_centre_mm]]
	];
	/** Of a solid axle. */
	const solid: [string, number, Pair][] = [
		['Axle shifted left, mm', 1, (a) => [null, a.coupled?.shift_left_mm ?? null]],
		['Axle turned front up, °', 2, (a) => [null, a.coupled?.nose_up_deg ?? null]],
		['Axle steered left, °', 2, (a) => [null, a.coupled?.steer_left_deg ?? null]],
		[
			'Steers into a bend, ° per ° of lean',
			3,
			(a) => [a.coupled?.roll_steer_before ?? null, a.coupled?.roll_steer ?? null]
		],
		[
			'Propeller shaft bends at the gearbox, °',
			1,
			(a) => [a.coupled?.shaft?.gearbox_before ?? null, a.coupled?.shaft?.gearbox ?? null]
		],
		[
			'Propeller shaft bends at the pinion, °',
			1,
			(a) => [a.coupled?.shaft?.pinion_before ?? null, a.coupled?.shaft?.pinion ?? null]
		],
		['Propeller shaft longer by, mm', 1, (a) => [null, a.coupled?.shaft?.longer_mm ?? null]],
		[
			'Squat its links carry, %',
			0,
			(a) => [a.coupled?.anti_squat_before ?? null, a.coupled?.anti_squat ?? null]
		],
		['Drag link longer by, mm', 1, (a) => [null, a.coupled?.drag_link_short_mm ?? null]],
		['Steering wheel off centre, °', 1, (a) => [null, a.coupled?.steering_wheel_deg ?? null]]
	];
	/** Rows nobody has a number of are left out. */
	const rows = $derived.by(() => {
		const p = bench.prediction;
		if (!p) return [];
		const filled = ([name, digits, pair]: [string, number, Pair]): Row => [
			name,
			digits,
			...pair(p.front),
			...pair(p.rear)
		];
		const known = (row: Row) => row.slice(2).some((v) => v !== null);
		return [...own, ...solid].map(filled).filter(known);
	});
</script>

{#if bench.prediction}
	{@const p = bench.prediction}
	<CarKits />
	<div class="mt-3"><CarOwnFigures /></div>
	{#each ['front', 'rear'] as const as name (name)}
		{#if Math.abs(p[name].recovered_mm) >= 0.5}
			<p class="mt-3">
				<span class="font-semibold capitalize">{name}:</span>
				<span class="figure font-bold"
					>{length(p[name].recovered_mm, settings.units, { signed: true })} {settings.units}</span
				>
				is sag that goes out with the tired springs,
				<span class="figure font-bold"
					>{length(p[name].rise - p[name].recovered_mm, settings.units, { signed: true })}
					{settings.units}</span
				> is over the vehicle with healthy ones.
			</p>
		{/if}
	{/each}
	<h2 class="head mt-4 mb-1">Heights</h2>
	<table class="w-full">
		<thead>
			<tr class="label text-right"
				><th class="text-left">Reference</th><th>before</th><th>planned</th><th>change</th><th>±</th></tr
			>
		</thead>
		<tbody>
			{#each p.heights.filter((h) => h.kind !== 'arch_to_ground') as h (h.label + h.axle + h.side)}
				<tr class="border-rule figure border-t text-right">
					<td class="py-0.5 text-left font-sans"
						>{h.axle ?? ''} {h.label}, {h.side}{h.measured ? '' : ' (not read)'}</td
					>
					<td class="text-quiet">{length(h.before, settings.units)}</td>
					<td class="font-bold">{length(h.after, settings.units)}</td>
					<td>{length(h.change, settings.units, { signed: true })}</td>
					<td class="text-quiet">{length(h.plus_minus, settings.units)}</td>
				</tr>
			{/each}
		</tbody>
	</table>

	<h2 class="head mt-4 mb-1">Ride and geometry</h2>
	<table class="w-full">
		<thead>
			<tr class="label text-right"><td></td><th colspan="2">Front</th><th colspan="2">Rear</th></tr>
			<tr class="label text-right"><td></td><th>before</th><th>planned</th><th>before</th><th>planned</th></tr
			>
		</thead>
		<tbody class="figure text-right">
			{#each rows as [name, digits, ...values] (name)}
				<tr class="border-rule border-t">
					<td class="py-0.5 text-left font-sans">{name}</td>
					{#each values as v, i (i)}
						<td class={i % 2 ? 'font-bold' : 'text-quiet'}>{v === null ? '–' : number(v, digits)}</td>
					{/each}
				</tr>
			{/each}
		</tbody>
	</table>

	{#each ['front', 'rear'] as const as name (name)}
		{#each p[name].rate_steps as step (step.what)}
			<p class="mt-2">
				<span class="font-semibold capitalize">{name}:</span>
				{step.what}
				<span class="figure font-bold"
					>{length(Math.abs(step.past_ride_mm), settings.units, { digits: 0 })} {settings.units}</span
				>
				{step.past_ride_mm < 0 ? 'before the height it rides at' : 'past ride height'},
				<span class="figure font-bold"
					>{length(step.before_bump_mm, settings.units, { digits: 0 })} {settings.units}</span
				>
				before full bump: from <span class="figure">{number(step.wheel_rate_below, 1)}</span> to
				<span class="figure">{number(step.wheel_rate_above, 1)}</span> N/mm at the wheel.
			</p>
		{/each}
	{/each}

	<h2 class="head mt-4 mb-1">Over the ground</h2>
	<table class="w-full">
		<thead>
			<tr class="label text-right"
				><th class="text-left">Clears a slope of</th><th>before</th><th>planned</th></tr
			>
		</thead>
		<tbody class="figure text-right">
			{#each [['ahead of the front wheels', p.ground.approach_before, p.ground.approach], ['behind the rear wheels', p.ground.departure_before, p.ground.departure], ['over a crest between them', p.ground.breakover_before, p.ground.breakover]] as const as [name, before, after] (name)}
				<tr class="border-rule border-t">
					<td class="py-0.5 text-left font-sans">{name}</td>
					<td class="text-quiet">{before === null ? 'no station there' : `${number(before, 1)}°`}</td>
					<td class="font-bold">{after === null ? '–' : `${number(after, 1)}°`}</td>
				</tr>
			{/each}
		</tbody>
	</table>

	<h2 class="head mt-4 mb-1">On its four corners</h2>
	<p class="text-quiet mb-1">
		Cross weight <span class="figure text-ink font-bold">{number(p.body.cross_after * 100, 1)} %</span>
		<span class="figure">(was {number(p.body.cross_before * 100, 1)} %)</span>, roll
		<span class="figure text-ink font-bold">{number(p.body.roll_deg, 2, true)}°</span> left side up
	</p>
	<Told sentence={p.body.cargo_trouble ?? ''} class="mb-1" />
	<table class="w-full">
		<thead>
			<tr class="label text-right"
				><th class="text-left">Corner</th><th>carries, N</th><th>planned</th><th>rises, {settings.units}</th
				>{#if p.body.with_cargo.length}<th>with cargo</th>{/if}</tr
			>
		</thead>
		<tbody class="figure text-right">
			{#each p.body.corners as c, i (`${c.axle} ${c.side}`)}
				<tr class="border-rule border-t">
					<td class="py-0.5 text-left font-sans">{c.axle} {c.side}{c.by_scales ? ', by the scales' : ''}</td>
					<td class="text-quiet">{number(c.before_n, 0)}</td>
					<td class="font-bold">{number(c.after_n, 0)}</td>
					<td class="font-bold">{length(c.rise_mm, settings.units, { signed: true, digits: 0 })}</td>
					{#if p.body.with_cargo.length}<td class="font-bold"
							>{length(p.body.with_cargo[i] ?? 0, settings.units, { signed: true, digits: 0 })}</td
						>{/if}
				</tr>
			{/each}
		</tbody>
	</table>
	{#each ['front', 'rear'] as const as name (name)}
		{#if p[name].swap_estimate !== null}
			<p class="text-quiet mt-1">
				Rule of thumb for the {name} springs:
				<span class="figure">{number(p[name].swap_estimate ?? 0, 0, true)} mm</span>, first order only; the
				equilibrium above decides.
			</p>
		{/if}
	{/each}
{/if}
