<script lang="ts">
	import { Tabs } from 'bits-ui';
	import { api, ask, type Schemas } from '../api/client';
	import PointTable from '../bench/PointTable.svelte';
	import Scrub from '../bench/Scrub.svelte';
	import { number } from '../format';
	import CurveChart from '../plot/CurveChart.svelte';
	import { kindQuery } from '../queries';
	import DocumentForm from '../ui/DocumentForm.svelte';
	import { nodeOf, type Schema } from '../ui/form';
	import Offer from '../ui/Offer.svelte';
	import Told from '../ui/Told.svelte';
	import BikeSide from './BikeSide.svelte';
	import CalliperList from './CalliperList.svelte';
	import { pointsOf, type Place } from './rearPoints';
	import type { Bike, WholeBench } from './wholeBench.svelte';
	import TabBar from '../ui/TabBar.svelte';

	let { bench }: { bench: WholeBench } = $props();
	const kind = kindQuery(() => 'bike');

	let tab = $state('tape');
	let chosen = $state('');
	let tape = $state<string[]>([]);
	/** Which of the drawn positions is on the screen; 0 is full extension. */
	let frame = $state(0);
	let curve = $state('leverage');
	const form = $derived(kind.data && nodeOf(kind.data.machine as Schema));
	const view = $derived(bench.view);
	const last = $derived((view?.poses.length ?? 1) - 1);
	const pose = $derived(view?.poses[Math.min(frame, last)]);
	const readings = $derived(
		new Map((bench.vehicle.tape ?? []).map((t) => [t.key, t.reading as Schemas['Length']]))
	);
	const held = $derived(
		Object.fromEntries(
			(view?.fit.points ?? []).map((q) => [
				q.name,
				{ title: q.title, source: q.source, plusMinus: q.plus_minus, fixed: q.fixed }
			])
		)
	);
	const curves = $derived([...(view?.curves ?? []), ...(view?.fork_curves ?? [])]);
	const ofFork = (of: Schemas['Curve']) => Boolean(view?.fork_curves.some((c) => c.name === of.name));
	const axis = (of: Schemas['Curve']) => (ofFork(of) ? view?.fork_travel : view?.travel) ?? [];
	/** The frame nearest to how it stands on its own weight. */
	const unladen = $derived(
		view ? Math.round((view.rear.sag_mm / Math.max(view.rear.travel_mm, 1)) * last) : 0
	);
	const questions = $derived(bench.trouble ? [] : (view?.questions ?? []));
	const choose = (name: string) => {
		chosen = name;
		tape = [];
	};

	async function readPoints(text: string) {
		const asked = await ask(api.POST('/api/points/read', { body: { part: bench.vehicle, text } }));
		if (asked.data) bench.replace(asked.data as Bike);
		return asked;
	}
	const writePoints = () => ask(api.POST('/api/points/write', { body: bench.vehicle, parseAs: 'text' }));
	const EXAMPLE = 'pivot; 560; 400\nRocker pivot; 470; 330';
	const tabs = { tape: 'Tape', points: 'Points', figures: 'Figures' };
</script>

<main class="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(390px,34%)] gap-2">
	<div class="grid min-h-0 min-w-0 grid-cols-1 grid-rows-[minmax(0,1.6fr)_auto_minmax(0,1fr)] gap-2">
		<div class="panel flex min-h-0 min-w-0 flex-col overflow-hidden">
			<div class="relative min-h-0 flex-1">
				{#if view && pose}
					<p class="absolute top-1.5 left-2 font-semibold">{view.title}</p>
					<BikeSide
						{pose}
						label="Side elevation to scale"
						foot={[
							frame === 0
								? 'hanging: drag a point, or use the arrow keys'
								: 'points are moved at full extension',
							`to scale${bench.vehicle.body?.length ? '' : ' · frame sketched through its known points'}`
						]}
						{tape}
						{chosen}
						{held}
						origin={(name) => pointsOf(bench.vehicle.rear)[name]}
						onchoose={choose}
						onmove={frame === 0 ? (name: string, to: Place) => bench.movePoint(name, to) : undefined}
					/>
				{:else if !bench.trouble}<p class="text-quiet p-3">Computing…</p>{/if}
			</div>
		</div>
		<Scrub
			label="Travel of both ends"
			bind:value={frame}
			max={last}
			valueText="{number(view?.travel[frame] ?? 0, 0)} mm at the rear axle"
		>
			{#snippet figure()}
				{number(view?.travel[Math.min(frame, last)] ?? 0, 0)}
				<span class="text-quiet font-sans text-sm font-normal">mm, rear</span>
			{/snippet}
			<button class="btn min-h-7" disabled={frame === 0} onclick={() => (frame = 0)}>hanging</button>
			<button class="btn min-h-7" disabled={frame === unladen} onclick={() => (frame = unladen)}>
				unladen</button
			>
		</Scrub>
		<div class="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)_minmax(0,1.5fr)] gap-2">
			<div
				role="group"
				class="panel grid min-h-0 content-start gap-2 overflow-y-auto p-2.5"
				aria-label="Both ends"
			>
				{#if view}
					{#each [['Rear', view.rear], ['Front', view.front]] as const as [name, end] (name)}
						<div class="grid grid-cols-[1fr_1fr] gap-x-3">
							<p class="label col-span-2">{name}: {end.title.toLowerCase()}</p>
							<p>
								<span class="figure text-[24px] leading-tight font-bold">{number(end.travel_mm, 0)}</span>
								mm <span class="text-quiet block leading-tight">of travel</span>
							</p>
							<p>
								<span class="figure text-[24px] leading-tight font-bold">{number(end.sag_mm, 0)}</span>
								mm <span class="text-quiet block leading-tight">sag, unladen</span>
							</p>
							<p class="text-quiet col-span-2 mt-0.5 max-[1150px]:text-[13px]">
								{number(end.wheel_rate, 1)} N/mm at the wheel, {number(end.load_n, 0)} N on it
							</p>
						</div>
					{/each}
				{/if}
			</div>
			<CurveChart
				{curves}
				bind:chosen={curve}
				{axis}
				xLabel={(c) => (ofFork(c) ? 'slider travel, mm' : 'rear axle travel from full extension, mm')}
				of="over travel"
				stands={(c) => ({
					x: (ofFork(c) ? view?.front.sag_mm : view?.rear.sag_mm) ?? 0,
					word: 'unladen'
				})}
				drawn={() => (frame ? { at: Math.min(frame, last), word: 'as drawn' } : undefined)}
				fine={1}
			/>
		</div>
	</div>
	<section class="panel flex min-h-0 flex-col" aria-label="Rear end">
		<Tabs.Root bind:value={tab} class="flex min-h-0 flex-1 flex-col">
			<TabBar {tabs} label="What of it" class="border-rule border-b px-3 py-1.5" />
			{#if bench.trouble || questions.length}
				<div class="border-rule grid gap-1 border-b px-3 py-2" aria-live="polite">
					<Told sentence={bench.trouble}>
						{#if view}<p class="text-quiet">The last good drawing stays.</p>{/if}
					</Told>
					{#each questions as question, i (i)}
						<p class="bg-chalk border-fix text-fix border-l-4 p-1.5 font-semibold" role="status">
							{question}
						</p>
					{/each}
					{#if !bench.trouble && view?.eyes_apart_mm}<Offer
							of={bench}
							class="min-h-7 justify-self-start px-2 text-[13px]"
							onclick={() =>
								bench.set({
									damper: { ...bench.vehicle.damper, extended_mm: view?.eyes_apart_mm ?? 0 }
								})}>The damper is {number(view.eyes_apart_mm, 1)} mm</Offer
						>{/if}
				</div>
			{/if}
			<div class="min-h-0 flex-1 overflow-y-auto p-3">
				{#if view}
					<Tabs.Content value="tape">
						<CalliperList
							fit={view.fit}
							{readings}
							keep="machine.{bench.id}"
							onread={(key, reading) => bench.tape(key, reading)}
							onplace={(points) => {
								tape = points;
								chosen = '';
								frame = 0;
							}}
						/>
					</Tabs.Content>
					<Tabs.Content value="points">
						<PointTable
							points={view.fit.points}
							axes={['x', 'z']}
							note="At full extension: forward from the rear axle (x), up from the ground (z). Drag a point in the drawing, nudge it with the arrow keys, or type it here."
							placeholder={EXAMPLE}
							file="{bench.vehicle.plate || 'machine'}-rear-points"
							{chosen}
							onread={readPoints}
							onwrite={writePoints}
							onchoose={(name) => {
								choose(name);
								frame = 0;
							}}
							onmove={(name, to) => bench.movePoint(name, to as Place)}
						/>
					</Tabs.Content>
					<Tabs.Content value="figures">
						<p class="text-quiet mb-2">
							Off its stampings, by calliper, or its maker's sheet. Nothing here is looked up.
						</p>
						{#if form}<DocumentForm
								node={form}
								value={bench.vehicle}
								label="Machine"
								hide={['rear', 'body', 'known', 'archetype', 'wheels', 'tape']}
								onvalue={(to) => bench.replace(to as Bike)}
							/>{/if}
					</Tabs.Content>
				{/if}
			</div>
		</Tabs.Root>
	</section>
</main>
