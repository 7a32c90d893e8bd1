<script lang="ts">
	import { api, ask, type AxleName, type Schemas } from '../api/client';
	import { kindQuery } from '../queries';
	import { nodeOf, type Schema } from '../ui/form';
	import Dialog from '../ui/Dialog.svelte';
	import Told from '../ui/Told.svelte';
	import { theCar } from './carBench.svelte';
	import FigureForm from './FigureForm.svelte';

	const bench = theCar();
	const kind = kindQuery(() => 'car');
	const form = $derived(kind.data && nodeOf(kind.data.machine as Schema));
	let open = $state(false);
	let end = $state<AxleName>('front');
	let trouble = $state('');
	let busy = $state(false);
	/** What is typed here stays until it is put right or given up, also while the dialog is closed. */
	let typed = $state.raw<Schemas['Vehicle']>();
	const vehicle = $derived(typed ?? bench.job.vehicle);
	const ENDS: AxleName[] = ['front', 'rear'];

	async function put() {
		busy = true;
		if (!(await bench.flush())) {
			busy = false;
			trouble = 'What was typed in the job is not saved yet: once it is, press again.';
			return;
		}
		const asked = await ask(
			api.POST('/api/jobs/{job_id}/figures', {
				params: { path: { job_id: bench.job.id } },
				body: { vehicle: vehicle as never }
			})
		);
		trouble = asked.trouble;
		if (asked.data) {
			typed = undefined;
			trouble = await bench.refresh();
			open = Boolean(trouble);
		}
		busy = false;
	}
</script>

<button class="btn" onclick={() => (open = true)}
	>Figures of the vehicle{typed ? ': not put in yet' : ''}</button
>
<Dialog
	bind:open
	wide
	title="Figures of the vehicle"
	note="Targets, adjusters, torques, joints, shafts, hoses, links, tyre gaps, stations. They go into this job, and onto the shop's vehicle for the next one."
>
	<div class="mb-3 flex gap-1" role="group" aria-label="Axle">
		{#each ENDS as name (name)}
			<button
				class="min-h-8 rounded-[3px] px-2.5 font-semibold capitalize {end === name
					? 'bg-dye text-on-dye'
					: 'text-quiet'}"
				aria-pressed={end === name}
				onclick={() => (end = name)}>{name}</button
			>
		{/each}
	</div>
	{#if form}
		{#key end}
			<FigureForm
				vehicle={vehicle as never}
				axle={vehicle[end] as never}
				{end}
				{form}
				steers={false}
				onaxle={(axle) => (typed = { ...vehicle, [end]: axle } as Schemas['Vehicle'])}
				onvehicle={(fields) => (typed = { ...vehicle, ...fields } as Schemas['Vehicle'])}
			/>
		{/key}
	{/if}
	<Told sentence={trouble} class="mt-3" />
	<div
		class="bg-chalk border-rule sticky -bottom-5 z-10 -mx-5 mt-3 -mb-5 flex justify-end gap-2 border-t px-5 py-3"
	>
		<button class="btn" disabled={!typed} onclick={() => ((typed = undefined), (trouble = ''))}
			>Give up what was typed</button
		>
		<button class="btn btn-dye" disabled={!typed || busy} onclick={() => void put()}>Put into the job</button>
	</div>
</Dialog>
