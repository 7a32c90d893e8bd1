<script lang="ts">
	import { Tabs } from 'bits-ui';
	import { number } from '../format';
	import Plot, { type Mark, type Series } from '../plot/Plot.svelte';
	import { bikeView, theBike, type BikePrediction } from './bikeBench.svelte';
	import TabBar from '../ui/TabBar.svelte';

	const bench = theBike();
	const p = $derived(bench.prediction as BikePrediction);
	const names = $derived({
		leverage: 'Leverage',
		rear: 'Rear',
		fork: 'Fork',
		...(p.rear_curve.chain_slack ? { chain: 'Chain' } : {}),
		path: 'Path'
	});
	const series = (before: { x: number[]; y: number[] }, after: { x: number[]; y: number[] }): Series[] => [
		{ label: 'as it came', ...before, look: 'chalk' },
		{ label: 'planned', ...after, look: 'scribe' }
	];
	const curves = $derived.by<Series[]>(() => {
		const [b, a, fb, fa] = [p.rear_curve_before, p.rear_curve, p.fork_curve_before, p.fork_curve];
		switch (bikeView.instrument) {
			case 'rear':
				return series({ x: b.travel, y: b.force }, { x: a.travel, y: a.force });
			case 'fork':
				return series({ x: fb.travel, y: fb.force }, { x: fa.travel, y: fa.force });
			case 'path':
				return series({ x: b.travel, y: b.axle_x }, { x: a.travel, y: a.axle_x });
			case 'chain':
				return series(
					{ x: b.travel, y: b.chain_slack ?? b.axle_x },
					{ x: a.travel, y: a.chain_slack ?? a.axle_x }
				);
			default:
				return series({ x: b.travel, y: b.leverage }, { x: a.travel, y: a.leverage });
		}
	});
	const ends = $derived(
		bikeView.instrument === 'fork' ? [p.fork_curve_before, p.fork_curve] : [p.rear_curve_before, p.rear_curve]
	);
	const marks = $derived<Mark[]>([
		{
			x: ends[0]?.laden ?? 0,
			label: `as it came ${number(ends[0]?.laden ?? 0, 0)} mm`,
			look: 'chalk'
		},
		{
			x: ends[1]?.laden ?? 0,
			label: `planned ${number(ends[1]?.laden ?? 0, 0)} mm`,
			look: 'scribe'
		}
	]);
	const yLabel = $derived(
		{
			leverage: 'leverage',
			rear: 'load, N',
			fork: 'force, N',
			chain: 'chain slack, mm',
			path: 'axle forward, mm'
		}[bikeView.instrument]
	);
</script>

<Tabs.Root bind:value={bikeView.instrument} class="panel flex h-full min-h-0 flex-col">
	<TabBar
		tabs={names}
		label="Instrument"
		class="border-rule border-b px-2 py-1 max-[1150px]:gap-0 max-[1150px]:px-1 max-[1150px]:text-[13px]"
		tight
	/>
	<div class="min-h-0 flex-1 p-1">
		<Plot
			series={curves}
			{marks}
			xLabel={bikeView.instrument === 'fork'
				? 'slider travel, mm (lines: rider on)'
				: 'wheel travel, mm (lines: rider on)'}
			{yLabel}
			digits={bikeView.instrument === 'leverage'
				? 2
				: bikeView.instrument === 'chain' || bikeView.instrument === 'path'
					? 1
					: 0}
			label="{names[bikeView.instrument] ?? 'Curve'} over travel"
		/>
	</div>
</Tabs.Root>
