<script lang="ts">
	import { length, number } from '../format';
	import { settings } from '../settings.svelte';
	import Told from '../ui/Told.svelte';
	import CarKits from './CarKits.svelte';
	import CarOwnFigures from './CarOwnFigures.svelte';
	import { theCar } from './carBench.svelte';

	const bench = theCar();
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
					<td class="py-0.5 text-left font-sans">{h.axle ?? ''} {h.label}, {h.side}</td>
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
			<tr class="label text-right"
				><td class="text-left"></td><th>front before</th><th>planned</th><th>rear before</th><th>planned</th
				></tr
			>
		</thead>
		<tbody class="figure text-right">
			{#each [['Wheel rate, N/mm', 1, p.front.wheel_rate_before, p.front.wheel_rate_after, p.rear.wheel_rate_before, p.rear.wheel_rate_after], ['Ride frequency, Hz', 2, p.front.frequency_before, p.front.frequency_after, p.rear.frequency_before, p.rear.frequency_after], ['Wheel travel to the stop, mm', 0, p.front.travel_before.gap, p.front.travel_after.gap, p.rear.travel_before.gap, p.rear.travel_after.gap], ['Camber, °', 2, p.front.angles_before.camber_deg, p.front.angles_after.camber_deg, p.rear.angles_before.camber_deg, p.rear.angles_after.camber_deg], ['± by the hardpoints', 2, null, p.front.angle_plus_minus.camber_deg, null, p.rear.angle_plus_minus.camber_deg], ['Toe of a wheel, °', 2, p.front.angles_before.toe_deg, p.front.angles_after.toe_deg, p.rear.angles_before.toe_deg, p.rear.angles_after.toe_deg], ['± by the hardpoints ', 2, null, p.front.angle_plus_minus.toe_deg, null, p.rear.angle_plus_minus.toe_deg], ['Caster, °', 2, p.front.angles_before.caster_deg, p.front.angles_after.caster_deg, p.rear.angles_before.caster_deg, p.rear.angles_after.caster_deg], ['Trail, mm', 1, p.front.angles_before.trail_mm, p.front.angles_after.trail_mm, p.rear.angles_before.trail_mm, p.rear.angles_after.trail_mm], ['Roll centre, mm', 0, p.front.angles_before.roll_centre_mm, p.front.angles_after.roll_centre_mm, p.rear.angles_before.roll_centre_mm, p.rear.angles_after.roll_centre_mm], ...(p.front.coupled || p.rear.coupled ? ([['Axle shifted left, mm', 1, null, p.front.coupled?.shift_left_mm ?? null, null, p.rear.coupled?.shift_left_mm ?? null], ['Axle turned nose up, °', 2, null, p.front.coupled?.nose_up_deg ?? null, null, p.rear.coupled?.nose_up_deg ?? null]] as const) : []), ...(p.front.coupled?.drag_link_short_mm != null ? ([['Drag link longer by, mm', 1, null, p.front.coupled.drag_link_short_mm, null, null], ['Steering wheel off centre, °', 1, null, p.front.coupled.steering_wheel_deg, null, null]] as const) : [])] as const as [name, digits, ...values] (name)}
				<tr class="border-rule border-t">
					<td class="py-0.5 text-left font-sans">{name}</td>
					{#each values as v, i (i)}
						<td class={i % 2 ? 'font-bold' : 'text-quiet'}>{v === null ? '–' : number(v, digits)}</td>
					{/each}
				</tr>
			{/each}
		</tbody>
	</table>

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
