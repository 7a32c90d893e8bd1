<script lang="ts">
	import { Tabs } from 'bits-ui';
	import { api, ask, type AxleName } from '../api/client';
	import PointTable from '../bench/PointTable.svelte';
	import Scrub from '../bench/Scrub.svelte';
	import { number } from '../format';
	import CurveChart from '../plot/CurveChart.svelte';
	import { kindQuery } from '../queries';
	import { fieldOf, nodeOf, type Schema } from '../ui/form';
	import Told from '../ui/Told.svelte';
	import { type Axle, type AxlesBench, type Place, type Side, type TapeAt } from './axlesBench.svelte';
	import AxleView from './AxleView.svelte';
	import FigureForm from './FigureForm.svelte';
	import SpringForm from './SpringForm.svelte';
	import TapeList from './TapeList.svelte';
	import TabBar from '../ui/TabBar.svelte';

	let { bench }: { bench: AxlesBench } = $props();
	const kind = kindQuery(() => 'car');

	const ENDS: AxleName[] = ['front', 'rear'];
	let end = $state<AxleName>('front');
	let tab = $state('tape');
	let chosen = $state('');
	let tape = $state.raw<TapeAt>();
	let travel = $state(0);
	let even = $state(true);
	let side = $state<Side>('left');
	let curve = $state('camber');
	let over = $state<'travel' | 'roll' | 'steering'>('travel');

	const form = $derived(kind.data && nodeOf(kind.data.machine as Schema));
	const whole = $derived(bench.bench(end));
	/** The wheel in hand: the right one only where the sides have parted. */
	const shown = $derived((side === 'right' && whole?.right) || whole);
	const wheelAxle = $derived.by<Axle | undefined>(() => {
		const axle = bench.vehicle[end];
		return axle && side === 'right' && axle.right ? ({ ...axle, linkage: axle.right } as Axle) : axle;
	});
	/** Whether what is done to one side is done to the other. */
	const alike = $derived(even && !bench.vehicle[end].right);
	function workOn(name: AxleName) {
		end = name;
		side = 'left';
		even = !bench.vehicle[name].right;
		chosen = '';
		tape = undefined;
		if (over === 'roll' && !bench.bench(name)?.coupled) over = 'travel';
	}
	const overs = $derived([
		'travel' as const,
		...(shown?.coupled ? ['roll' as const] : []),
		...(shown?.steer.length ? ['steering' as const] : [])
	]);
	/** The frame nearest to the slider's travel. */
	function frameOf(name: AxleName): number {
		const z = bench.bench(name)?.travel ?? [];
		return z.reduce((best, v, i) => (Math.abs(v - travel) < Math.abs((z[best] ?? 0) - travel) ? i : best), 0);
	}
	const along = $derived(overs.includes(over) ? over : 'travel');
	const curves = $derived(
		(along === 'roll' ? shown?.roll_curves : along === 'steering' ? shown?.steer_curves : shown?.curves) ?? []
	);
	const xLabel = $derived(
		{
			roll: 'roll, ° (left wheel up +)',
			travel: 'wheel travel, mm (bump +)',
			steering: shown?.steer_unit === 'mm' ? 'rack, mm (to the left +)' : 'arm of the box, °'
		}[along]
	);
	const values = $derived(
		along === 'roll' ? shown?.roll : along === 'steering' ? shown?.steer : shown?.travel
	);

	function move(name: string, to: Place, of: Side = side) {
		bench.movePoint(end, name, to, alike, of);
	}
	function choose(name: string, of: Side = side) {
		chosen = name;
		side = of;
		tape = undefined;
	}
	async function readPoints(text: string) {
		if (!wheelAxle) return { trouble: '' };
		const asked = await ask(api.POST('/api/points/read', { body: { part: wheelAxle, text } }));
		const axle = asked.data as Axle | undefined;
		const own = side === 'right' && bench.vehicle[end].right;
		if (axle) bench.setAxle(end, own ? ({ ...bench.vehicle[end], right: axle.linkage } as Axle) : axle);
		return asked;
	}
	const writePoints = () => ask(api.POST('/api/points/write', { body: wheelAxle as Axle, parseAs: 'text' }));
	const EXAMPLE = 'lower_outer; 9; 707; 188\nTie rod, inner joint; -122; 372; 258';
	const tabs = { tape: 'Tape', points: 'Points', springs: 'Springs', figures: 'Figures' };
</script>

<main class="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(390px,34%)] gap-2">
	<div class="grid min-h-0 min-w-0 grid-cols-1 grid-rows-[minmax(0,1.1fr)_auto_minmax(0,1fr)] gap-2">
		<div class="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-2">
			{#each ENDS as name (name)}
				{@const b = bench.bench(name)}
				<div class="panel relative min-h-0 min-w-0 overflow-hidden {end === name ? 'ring-dye ring-2' : ''}">
					{#if b}
						<AxleView
							bench={b}
							view="end"
							parts={bench.drawnOf(name)?.views.behind}
							frame={frameOf(name)}
							title="{name === 'front' ? 'Front' : 'Rear'} from behind: {b.title.toLowerCase()}"
							tape={end === name ? tape : undefined}
							chosen={end === name ? chosen : ''}
							{side}
							onchoose={(p, of) => {
								if (end !== name) workOn(name);
								choose(p, of);
							}}
							onmove={(p, to, of) => {
								if (end !== name) workOn(name);
								move(p, to, of);
							}}
						/>
					{:else}<p class="text-quiet p-3">Computing…</p>{/if}
					<Told sentence={bench.trouble[name]} class="absolute inset-x-2 bottom-2 text-sm" />
					{#if end !== name}<button
							class="btn absolute right-1 bottom-1 min-h-7 px-2 text-[13px]"
							onclick={() => workOn(name)}>work on the {name}</button
						>{/if}
				</div>
			{/each}
		</div>
		<Scrub
			label="Wheel travel"
			bind:value={travel}
			min={-120}
			max={120}
			step={2}
			valueText="{number(travel, 0, true)} mm"
		>
			{#snippet figure()}{number(travel, 0, true)} mm{/snippet}
			<button class="btn min-h-7" disabled={travel === 0} onclick={() => (travel = 0)}>as it stands</button>
			<label class="flex items-center gap-2 whitespace-nowrap"
				><input
					type="checkbox"
					class="accent-dye h-5 w-5"
					checked={alike}
					onchange={(e) => {
						even = e.currentTarget.checked;
						if (!even) return;
						side = 'left';
						bench.makeEven(end);
					}}
				/> both sides alike</label
			>
			{#if !alike && whole && !whole.coupled}
				<select class="field w-[96px]" aria-label="Wheel" bind:value={side}>
					<option value="left">left</option><option value="right">right</option>
				</select>
			{/if}
		</Scrub>
		<div class="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)_minmax(0,1fr)_minmax(0,1.2fr)] gap-2">
			{#if shown}
				<div class="panel min-h-0 min-w-0 overflow-hidden">
					<AxleView
						bench={shown}
						view="side"
						parts={whole && shown !== whole ? bench.drawnOf(end)?.right : bench.drawnOf(end)?.views.side}
						frame={frameOf(end)}
						title="From the left"
						{tape}
						{chosen}
						onchoose={(p) => choose(p)}
						onmove={(p, to, goesOn) => move(p, to, goesOn)}
					/>
				</div>
				<div class="panel min-h-0 min-w-0 overflow-hidden">
					<AxleView
						bench={whole ?? shown}
						{side}
						view="plan"
						parts={bench.drawnOf(end)?.views.above}
						frame={frameOf(end)}
						title="From above"
						{tape}
						{chosen}
						onchoose={choose}
						onmove={move}
					/>
				</div>
				<CurveChart
					{curves}
					bind:chosen={curve}
					axis={() => values ?? []}
					xLabel={() => xLabel}
					of="of the {end} axle"
					stands={() => ({ x: 0, word: 'as it stands' })}
					drawn={() =>
						along === 'travel' && travel
							? { at: frameOf(end), word: `at ${number(travel, 0, true)} mm` }
							: undefined}
				>
					{#snippet beside()}
						{#if overs.length > 1}
							<select
								class="field min-h-7 w-[120px] py-0"
								aria-label="Over"
								value={along}
								onchange={(e) => (over = e.currentTarget.value as typeof over)}
							>
								{#each overs as o (o)}<option value={o}>over {o}</option>{/each}
							</select>
						{/if}
					{/snippet}
				</CurveChart>
			{/if}
		</div>
	</div>
	<section class="panel flex min-h-0 flex-col" aria-label="{end} axle">
		<Tabs.Root bind:value={tab} class="flex min-h-0 flex-1 flex-col">
			<div class="border-rule flex items-center justify-between gap-2 border-b px-3 py-1.5">
				<div class="flex gap-1" role="group" aria-label="Axle">
					{#each ENDS as name (name)}
						<button
							class="min-h-8 rounded-[3px] px-2 font-semibold capitalize {end === name
								? 'bg-dye text-on-dye'
								: 'text-quiet'}"
							aria-pressed={end === name}
							onclick={() => workOn(name)}>{name}</button
						>
					{/each}
				</div>
				<TabBar {tabs} label="What of it" />
			</div>
			<div class="min-h-0 flex-1 overflow-y-auto p-3">
				{#if shown}
					{#key end}
						<Tabs.Content value="tape">
							<TapeList
								bench={whole ?? shown}
								axle={bench.vehicle[end]}
								keep="{bench.id}:{end}"
								onaxle={(axle) => bench.setAxle(end, axle)}
								onplace={(place) => {
									tape = place;
									chosen = '';
									travel = 0;
								}}
							/>
						</Tabs.Content>
						<Tabs.Content value="points">
							<PointTable
								points={shown.points}
								axes={['x', 'y', 'z']}
								note="From the wheel centre forward (x), from the centre line to the left (y), from the ground up (z). Drag a point in a drawing, nudge it with the arrow keys, or type it here."
								placeholder={EXAMPLE}
								file="{bench.vehicle.plate || 'vehicle'}-{end}-points"
								{chosen}
								onread={readPoints}
								onwrite={writePoints}
								onchoose={(p) => choose(p)}
								onmove={(p, to) => move(p, to as Place)}
							/>
						</Tabs.Content>
						<Tabs.Content value="springs">
							<SpringForm
								bench={shown}
								axle={bench.vehicle[end]}
								kinds={kind.data?.springs ?? []}
								form={fieldOf(form, end)?.node}
								onaxle={(axle) => bench.setAxle(end, axle)}
							/>
						</Tabs.Content>
						<Tabs.Content value="figures">
							{#if form}<FigureForm
									vehicle={bench.vehicle}
									axle={bench.vehicle[end]}
									{end}
									{form}
									onaxle={(axle) => bench.setAxle(end, axle)}
									onvehicle={(fields) => bench.set(fields)}
								/>{/if}
						</Tabs.Content>
					{/key}
				{/if}
			</div>
		</Tabs.Root>
	</section>
</main>
