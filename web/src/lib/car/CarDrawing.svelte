<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import type { Prediction, Schemas } from '../api/client';
	import { view } from '../bench/context.svelte';
	import { OtherPlan } from '../bench/otherPlan.svelte';
	import OtherPlanField from '../bench/OtherPlanField.svelte';
	import OverTravel from '../draw/OverTravel.svelte';
	import PhotoToggle from '../draw/PhotoToggle.svelte';
	import SaveDrawing from '../draw/SaveDrawing.svelte';
	import Choose from '../ui/Choose.svelte';
	import { carView, theCar } from './carBench.svelte';
	import SideElevation from './SideElevation.svelte';

	const bench = theCar();
	let drawn = $state<SVGSVGElement>();
	const other = new OtherPlan<Prediction>();
	const stage = $derived(page.params.stage ?? 'plan');
	const look = $derived(carView.looks[stage] ?? 'whole');
	// Building, the axle that is worked on is the one to look at, where it is one.
	$effect(() => {
		if (stage !== 'build') return;
		const [one, ...others] = new Set(bench.job.plan.changes.filter((c) => c.on).map((c) => c.change.axle));
		if (one && !others.length) view.axle = one;
	});
	/** Of both wheels of the axle on the screen, as they will be set: for the stage that sets them. */
	const angles = $derived(
		stage === 'align' && carView.whose === 'planned'
			? (bench.alignment?.wheels ?? [])
					.filter((w) => w.axle === view.axle)
					.map((w) => ({
						side: w.side,
						deg: w.angles.find((a) => a.angle === (look === 'above' ? 'toe' : 'camber'))?.achieved ?? 0
					}))
			: []
	);
	/** What a hand sets on this axle, at the stage that sets it. */
	const settings = $derived(
		stage === 'align' && carView.whose === 'planned'
			? (bench.alignment?.wheels ?? [])
					.filter((w) => w.axle === view.axle)
					.flatMap((w) => w.settings.map((s) => ({ key: s.key, says: s.instruction })))
			: []
	);
	const VIEWS = [
		['whole', 'whole vehicle'],
		['side', 'side'],
		['behind', 'behind'],
		['above', 'above']
	] as const;
	const ENDS = [
		['front', 'front'],
		['rear', 'rear']
	] as const;
	const WHOSE = [
		['planned', 'as planned'],
		['found', 'as found']
	] as const;
</script>

{#if bench.prediction}
	<div class="flex h-full flex-col">
		<div class="flex flex-wrap items-center gap-x-3 px-2 pt-1 max-[1150px]:gap-x-1">
			<Choose label="View" options={VIEWS} value={look} onchoose={(to) => (carView.looks[stage] = to)} />
			{#if look !== 'whole'}
				<Choose
					label="Axle that is drawn"
					options={ENDS}
					value={view.axle}
					onchoose={(to) => (view.axle = to)}
				/>
				<Choose
					label="Which vehicle"
					options={WHOSE}
					value={carView.whose}
					onchoose={(to) => (carView.whose = to)}
				/>
			{/if}
			{#if look === 'whole' && bench.prediction.drawing.photograph}<PhotoToggle />{/if}
			{#if look === 'whole' && stage === 'plan'}<OtherPlanField {other} />{/if}
			<span class="ml-auto"><SaveDrawing {drawn} name="{bench.job.title} {look}" /></span>
		</div>
		<div class="min-h-0 flex-1">
			{#if look === 'whole'}
				<SideElevation
					prediction={bench.prediction}
					job={bench.job}
					bind:axle={view.axle}
					bind:drawn
					{stage}
					proof={stage === 'prove' ? (bench.proof as Schemas['Proof']) : undefined}
					tape={carView.tape}
					wanted={view.wanted}
					other={stage === 'plan' && other.prediction
						? { title: other.title, stance: other.prediction.drawing.after }
						: undefined}
					photograph={view.photograph ? bench.prediction.drawing.photograph : undefined}
					onwanted={(axle, rise) => {
						view.wanted = { axle, rise };
						if (stage !== 'plan') void goto(`/jobs/${bench.job.id}/plan`);
					}}
				/>
			{:else}
				<OverTravel
					job={bench.job}
					axle={view.axle}
					view={look}
					{angles}
					{settings}
					whose={carView.whose}
					bind:drawn
				/>
			{/if}
		</div>
	</div>
{/if}
