<script lang="ts">
	import { number } from '../format';
	import OverTravel from '../draw/OverTravel.svelte';
	import { page } from '$app/state';
	import { view } from '../bench/context.svelte';
	import { OtherPlan } from '../bench/otherPlan.svelte';
	import OtherPlanField from '../bench/OtherPlanField.svelte';
	import PhotoToggle from '../draw/PhotoToggle.svelte';
	import SaveDrawing from '../draw/SaveDrawing.svelte';
	import Choose from '../ui/Choose.svelte';
	import BikeSide, { type OnScreen } from './BikeSide.svelte';
	import SagBar from './SagBar.svelte';
	import { bikeView, type BikeJob, type BikePrediction, type Condition, type End } from './bikeBench.svelte';
	import { pointsOf, type Place, type Rear } from './rearPoints';

	let {
		prediction: p,
		job,
		rear,
		onsag,
		onlook,
		onpoint
	}: {
		prediction: BikePrediction;
		job: BikeJob;
		/** The rear end as it was found, before its readings pull on it. */
		rear: Rear;
		/** A laden sag dragged or typed, mm. */
		onsag: (end: End, sag: number) => void;
		/** The planned machine is looked at in another condition. */
		onlook: (condition: Condition) => void;
		/** A point of the rear end dragged or nudged, while the machine is measured. */
		onpoint?: (name: string, to: Place) => void;
	} = $props();

	const CONDITIONS: [Condition, string][] = [
		['extended', 'hanging'],
		['unladen', 'unladen'],
		['laden', 'rider on'],
		['full', 'full bump']
	];
	/** What is on the screen: until another condition is drawn, the one before. */
	const condition = $derived<Condition>(
		p.drawing.planned[bikeView.condition]
			? bikeView.condition
			: (CONDITIONS.find(([c]) => p.drawing.planned[c])?.[0] ?? 'extended')
	);
	/** Hanging, the machine that is measured is the one that came: its points hold as they are drawn. */
	const measured = $derived(Boolean(onpoint) && condition === 'extended');
	const pose = $derived((measured ? p.drawing.measured : p.drawing.planned[condition]) ?? p.drawing.measured);
	const other = new OtherPlan<BikePrediction>();
	const planning = $derived(page.params.stage === 'plan');
	/** What another job plans takes the place of the machine as it came. */
	const beside = $derived(planning ? other.prediction?.drawing.planned[condition] : undefined);
	const ghost = $derived(
		beside
			? beside
			: condition === 'unladen'
				? p.drawing.before_unladen
				: condition === 'laden'
					? p.drawing.before_laden
					: undefined
	);
	const held = $derived(
		Object.fromEntries(
			p.fit.points.map((q) => [
				q.name,
				{ title: q.title, source: q.source, plusMinus: q.plus_minus, fixed: q.fixed }
			])
		)
	);
	/** A rider's leg from the seat's edge to the sole, as long as the inseam; it ends on the ground where it reaches. */
	const leg = $derived(job.brief.inseam_mm ? job.brief.inseam_mm + (job.brief.sole_mm ?? 0) : undefined);
	const stood = $derived((measured ? p.before : p.planned)[condition]);
	const MOVED = [
		['rear', 'rear moved'],
		['front', 'fork moved']
	] as const;
	let drawn = $state<SVGSVGElement>();
	/** The end that is moved through its travel; none where the machine stands. */
	let moving = $state<'' | 'rear' | 'front'>('');
	const sketched = $derived(job.vehicle.body?.length ? '' : ' · frame sketched through its known points');
</script>

<div class="relative h-full w-full overflow-hidden">
	{#if moving}
		<div class="h-full pt-9"><OverTravel {job} axle={moving} view="side" bind:drawn /></div>
	{:else}
		<BikeSide
			{pose}
			{ghost}
			photograph={view.photograph ? p.drawing.photograph : undefined}
			label="Side elevation to scale, {condition}"
			foot={[
				measured
					? 'as it came: drag a point, or use the arrow keys'
					: `dashed: ${beside ? other.title : 'as it came'} · solid: planned`,
				`drawn to scale${sketched}`
			]}
			beside={96}
			bind:drawn
			seat={stood.seat_mm}
			tape={bikeView.tape}
			chosen={measured ? bikeView.chosen : ''}
			held={onpoint ? held : {}}
			origin={(name) => pointsOf(rear)[name]}
			onchoose={(name) => {
				bikeView.chosen = name;
				bikeView.tape = [];
			}}
			onmove={measured ? onpoint : undefined}
		>
			{#snippet over(on: OnScreen)}
				{#if leg && condition !== 'full'}
					{@const hip = [pose.seat[0] + 26 / on.scale, pose.seat[1]] as Place}
					{@const foot = [hip[0], Math.max(hip[1] - leg, 0)] as Place}
					<line x1={on.x(hip)} y1={on.y(hip)} x2={on.x(foot)} y2={on.y(foot)} class="leg" />
					<path d="M{on.x(foot) - 3} {on.y(foot)}h14" class="leg" />
				{/if}
				<text x={on.x(pose.fork.head[1] as Place) + 6} y={on.y(pose.fork.head[1] as Place) - 8} class="name"
					>rake {number(stood.rake_deg, 2)}° · trail {number(stood.trail_mm, 1)}</text
				>
			{/snippet}
		</BikeSide>
	{/if}
	<div class="absolute top-1 left-1/2 flex -translate-x-1/2 gap-1">
		<Choose
			label="Standing"
			options={CONDITIONS}
			value={moving ? '' : condition}
			onchoose={(to) => {
				onlook(to);
				moving = '';
			}}
		/>
		<Choose
			label="Moved through its travel"
			options={MOVED}
			value={moving}
			onchoose={(to) => (moving = to)}
		/>
		{#if p.drawing.photograph && !moving}<PhotoToggle />{/if}
		{#if planning && !moving}<OtherPlanField {other} />{/if}
	</div>
	<div class="absolute {moving ? 'top-10 right-1' : 'right-24 bottom-7'}">
		<SaveDrawing {drawn} name="{job.title} side" />
	</div>
	{#if !moving}
		<div class="absolute top-9 bottom-7 left-1">
			<SagBar bench={p.sags.rear as NonNullable<typeof p.sags.rear>} onsag={(s) => onsag('rear', s)} />
		</div>
		<div class="absolute top-9 right-1 bottom-7">
			<SagBar bench={p.sags.front as NonNullable<typeof p.sags.front>} onsag={(s) => onsag('front', s)} />
		</div>
	{/if}
</div>

<style>
	.leg {
		fill: none;
		stroke: var(--fix);
		stroke-width: 3;
		stroke-linecap: round;
	}
</style>
