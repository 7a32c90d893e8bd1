<script lang="ts">
	import { Tabs } from 'bits-ui';
	import type { AxleName, Prediction } from '../api/client';
	import ForceCurves from '../plot/ForceCurves.svelte';
	import Plot, { type Mark, type Series } from '../plot/Plot.svelte';
	import { length } from '../format';
	import { settings } from '../settings.svelte';
	import { view } from '../bench/context.svelte';
	import { carView, theCar } from './carBench.svelte';
	import Choose from '../ui/Choose.svelte';
	import TabBar from '../ui/TabBar.svelte';

	const bench = theCar();
	const prediction = $derived(bench.prediction as Prediction);
	const axle = $derived(prediction[view.axle]);
	const ENDS: [AxleName, string][] = [
		['front', 'front'],
		['rear', 'rear']
	];
	let angle = $state<'camber' | 'toe' | 'caster'>('camber');
	const angles = $derived(
		axle.curves.caster_deg ? (['camber', 'toe', 'caster'] as const) : (['camber', 'toe'] as const)
	);
	const shownAngle = $derived(angle === 'caster' && !axle.curves.caster_deg ? 'camber' : angle);

	const curve = $derived<Series[]>([
		{
			label: shownAngle,
			x: axle.curves.travel,
			y:
				(shownAngle === 'camber'
					? axle.curves.camber_deg
					: shownAngle === 'toe'
						? axle.curves.toe_deg
						: axle.curves.caster_deg) ?? [],
			look: 'scribe'
		}
	]);
	const heights = $derived<Mark[]>([
		{ x: axle.travel_before.ride, label: 'as measured', look: 'chalk' },
		{
			x: axle.travel_after.ride,
			label: `planned, ${length(axle.rise, settings.units, { signed: true })} ${settings.units}`,
			look: 'scribe'
		}
	]);
	const names = { springs: 'Springs', angles: 'Angles' } as const;
</script>

<Tabs.Root bind:value={carView.instrument} class="panel flex h-full min-h-0 flex-col">
	<div
		class="border-rule flex items-center justify-between gap-2 border-b px-2 py-1 max-[1150px]:gap-0 max-[1150px]:px-1 max-[1150px]:text-[13px]"
	>
		<TabBar tabs={names} label="Instrument" class="max-[1150px]:gap-0" tight />
		<Choose label="Axle" options={ENDS} value={view.axle} onchoose={(to) => (view.axle = to)} />
	</div>
	<Tabs.Content value="springs" class="min-h-0 flex-1 p-1">
		<ForceCurves curves={axle.springs} label="Force over length of the {view.axle} springs" />
	</Tabs.Content>
	<Tabs.Content value="angles" class="flex min-h-0 flex-1 flex-col p-1">
		<div class="flex gap-1 px-1" role="group" aria-label="Angle">
			{#each angles as name (name)}
				<button
					class="rounded-[3px] px-1.5 {shownAngle === name ? 'bg-wash text-dye font-semibold' : 'text-quiet'}"
					aria-pressed={shownAngle === name}
					onclick={() => (angle = name)}>{name}</button
				>
			{/each}
		</div>
		<div class="min-h-0 flex-1">
			<Plot
				series={curve}
				marks={heights}
				xLabel="wheel travel, mm (bump +)"
				yLabel="{shownAngle}, °"
				digits={2}
				label="{shownAngle} of the {view.axle} wheels over travel"
			/>
		</div>
	</Tabs.Content>
</Tabs.Root>
