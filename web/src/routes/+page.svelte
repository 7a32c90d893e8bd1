<script lang="ts">
	import { goto } from '$app/navigation';
	import { useQueryClient } from '@tanstack/svelte-query';
	import FileInput from '@lucide/svelte/icons/file-input';
	import Plus from '@lucide/svelte/icons/plus';
	import Trash from '@lucide/svelte/icons/trash-2';
	import Download from '@lucide/svelte/icons/download';
	import { api, ask, type Schemas } from '$lib/api/client';
	import { drafts } from '$lib/bench/drafts';
	import { day } from '$lib/format';
	import { jobsQuery, kindsQuery, vehiclesQuery, type Listed } from '$lib/queries';
	import Silhouette from '$lib/draw/Silhouette.svelte';
	import Length from '$lib/ui/Length.svelte';
	import ListHead from '$lib/ui/ListHead.svelte';
	import MoreOfList from '$lib/ui/MoreOfList.svelte';
	import { stagesOf } from '$lib/stages';
	import Dialog from '$lib/ui/Dialog.svelte';
	import Told from '$lib/ui/Told.svelte';
	import Unopened from '$lib/ui/Unopened.svelte';
	import { wingOf } from '$lib/wings';

	let words = $state('');
	let vehicleWords = $state('');
	const vehicles = vehiclesQuery(() => vehicleWords.trim());
	/** Which jobs are listed; what was chosen stays for the next visit. */
	let listing = $state<Listed>({ state: 'all', kind: '', order: 'due' });
	const jobs = jobsQuery(
		() => words.trim(),
		() => ({ ...listing })
	);
	const kinds = kindsQuery();
	const narrowed = $derived(listing.state !== 'all' || Boolean(listing.kind));
	const listed = $derived(jobs.data?.pages.flatMap((page) => page.items) ?? []);
	const total = $derived(jobs.data?.pages[0]?.total ?? 0);
	const offered = $derived(vehicles.data?.pages.flatMap((page) => page.items) ?? []);
	const queries = useQueryClient();
	/** What a job's stage is called. */
	const called = (job: Schemas['JobSummary']) =>
		stagesOf(wingOf(job.kind)).find((stage) => stage.id === job.stage)?.name;
	let trouble = $state('');
	let opening = $state(false);
	let title = $state('');
	let vehicle = $state<number>();
	let removing = $state.raw<Schemas['JobSummary']>();
	let picker: HTMLInputElement;

	async function bringIn(file: File | undefined) {
		if (!file) return;
		const asked = await ask(
			api.POST('/api/jobs/import', { body: (await file.text()) as never, bodySerializer: (text) => text })
		);
		picker.value = '';
		trouble = asked.trouble && `${file.name}: ${asked.trouble}`;
		if (!asked.data) return;
		await queries.invalidateQueries({ queryKey: ['jobs'] });
		await goto(`/jobs/${asked.data.id}/plan`);
	}

	async function open() {
		const chosen = offered.find((v) => v.id === vehicle) ?? offered[0];
		const body = { title, vehicle_id: chosen?.id ?? 0 };
		const asked = await ask(api.POST('/api/jobs', { body }));
		trouble = asked.trouble;
		if (!asked.data) return;
		opening = false;
		await goto(`/jobs/${asked.data.id}/brief`);
	}

	async function remove() {
		if (!removing) return;
		const path = { job_id: removing.id };
		trouble = (await ask(api.DELETE('/api/jobs/{job_id}', { params: { path } }))).trouble;
		if (!trouble) drafts.forgetAll(`unsaved:${removing.id}:`);
		removing = undefined;
		await queries.invalidateQueries({ queryKey: ['jobs'] });
	}
	/** Which ends have a rise as their aim. */
	const aimOf = (job: { front_rise: number | null; rear_rise: number | null }) => {
		if (job.front_rise === null) return job.rear_rise === null ? 'Aim' : 'Aim, rear';
		return job.rear_rise === null ? 'Aim, front' : 'Aim, front / rear';
	};
</script>

<svelte:head><title>Jobs · Inclinum</title></svelte:head>

<main class="mx-auto flex h-screen max-w-[1180px] flex-col px-6 py-5">
	<ListHead here="jobs">
		<input
			bind:this={picker}
			type="file"
			accept=".json,application/json"
			class="hidden"
			aria-label="Job file"
			onchange={(e) => bringIn(e.currentTarget.files?.[0])}
		/>
		<button class="btn" onclick={() => picker.click()}><FileInput size={16} /> Bring in a file</button>
		<button class="btn btn-dye" onclick={() => (opening = true)} disabled={!offered.length}>
			<Plus size={16} /> New job
		</button>
	</ListHead>

	{#if !opening}<Told sentence={trouble} class="mb-3" />{/if}

	{#if jobs.isPending}
		<p class="text-quiet p-4">Fetching the jobs…</p>
	{:else if jobs.isError}
		<Unopened query={jobs} />
	{:else if listed.length === 0 && !words.trim() && !narrowed}
		<div class="panel p-8 text-center">
			<p class="head mb-1">No jobs yet</p>
			<p class="text-quiet">Bring in a job file; its vehicle is then known for the next job.</p>
		</div>
	{:else}
		<div class="mb-3 grid grid-cols-[minmax(0,1fr)_150px_150px_170px] items-end gap-3">
			<label class="grid gap-1">
				<span class="label">Find by title, vehicle, plate or owner</span>
				<input class="field" type="search" bind:value={words} maxlength="100" />
			</label>
			<label class="grid gap-1">
				<span class="label">State</span>
				<select class="field" bind:value={listing.state}>
					<option value="all">all</option>
					<option value="open">open</option>
					<option value="overdue">date gone by</option>
					<option value="finished">signed off</option>
				</select>
			</label>
			<label class="grid gap-1">
				<span class="label">Kind</span>
				<select class="field" bind:value={listing.kind}>
					<option value="">every kind</option>
					{#each Object.values(kinds.data ?? {}) as k (k.kind)}<option value={k.kind}
							>{k.title.toLowerCase()}</option
						>{/each}
				</select>
			</label>
			<label class="grid gap-1">
				<span class="label">Order</span>
				<select class="field" bind:value={listing.order}>
					<option value="due">by date due</option>
					<option value="title">by title</option>
					<option value="saved">last touched first</option>
				</select>
			</label>
		</div>
		{#if listed.length === 0}<p class="text-quiet p-4">
				{words.trim()
					? `No ${narrowed ? 'such ' : ''}job has “${words.trim()}” in it.`
					: 'No job is like that.'}
				<button
					class="btn ml-2 min-h-7"
					onclick={() => {
						words = '';
						listing = { state: 'all', kind: '', order: listing.order };
					}}>Show all jobs</button
				>
			</p>{/if}
		<ul class="grid min-h-0 gap-2 overflow-y-auto" aria-label="Jobs">
			{#each listed as job (job.id)}
				<li class="panel flex items-stretch {job.signed_off ? '' : 'border-l-dye border-l-4'}">
					<a
						class="grid min-w-0 flex-1 grid-cols-[92px_minmax(0,1fr)_190px_150px] items-center gap-4 px-4 py-2 hover:underline"
						href="/jobs/{job.id}/{job.signed_off ? 'prove' : job.stage}"
					>
						<Silhouette of={job.silhouette} kind={job.kind} />
						<span class="min-w-0 break-words">
							<span class="block text-lg leading-snug font-semibold">{job.title}</span>
							<span class="text-quiet">{job.vehicle}{job.plate ? ` · ${job.plate}` : ''} · {job.owner}</span>
						</span>
						<span class="text-base">
							<span class="label block">{aimOf(job)}</span>
							{#if job.front_rise !== null}<Length
									mm={job.front_rise}
									signed
									unit={job.rear_rise === null}
								/>{#if job.rear_rise !== null}&nbsp;/{/if}{/if}
							{#if job.rear_rise !== null}<Length mm={job.rear_rise} signed />{/if}
							{#if job.front_rise === null && job.rear_rise === null}as the brief says{/if}
						</span>
						<span>
							{#if job.trouble}
								<span class="text-stops block font-semibold">Cannot be opened</span>
							{:else if job.signed_off}
								<span class="text-good block font-semibold">Signed off</span>
								<span class="text-quiet">{day(job.signed_off)}</span>
							{:else}
								<span class="block font-semibold">Now: {called(job)}</span>
								<span class="text-quiet">{job.due ? `due ${day(job.due)}` : 'no date set'}</span>
							{/if}
						</span>
						{#if job.trouble}<span class="text-quiet col-span-4 break-words">{job.trouble}</span>{/if}
					</a>
					<span class="border-rule flex items-center gap-1 border-l px-2">
						<a
							class="btn btn-plain px-2"
							href="/api/jobs/{job.id}/{job.trouble ? 'raw' : 'file'}"
							download
							aria-label="Copy out {job.title}"
							title="Copy out as a file"><Download size={17} /></a
						>
						<button
							class="btn btn-plain px-2"
							aria-label="Delete {job.title}"
							title="Delete"
							onclick={() => (removing = job)}><Trash size={17} /></button
						>
					</span>
				</li>
			{/each}
			<li><MoreOfList list={jobs} shown={listed.length} {total} what="jobs" /></li>
		</ul>
	{/if}
</main>

<Dialog
	bind:open={opening}
	title="New job"
	note="The vehicle comes as it is set up; the shop's local limits come along from its last job."
>
	<form
		class="grid gap-3"
		onsubmit={(e) => {
			e.preventDefault();
			void open();
		}}
	>
		<label class="grid gap-1">
			<span class="label">What is it about?</span>
			<input
				class="field"
				data-first-focus
				bind:value={title}
				required
				maxlength="120"
				placeholder="Taller for the quarry road"
			/>
		</label>
		<label class="grid gap-1">
			<span class="label">Vehicle</span>
			<select class="field" bind:value={vehicle}>
				{#each offered as v (v.id)}<option value={v.id}>{v.name} {v.plate}</option>{/each}
			</select>
		</label>
		{#if vehicles.hasNextPage || vehicleWords}
			<label class="grid gap-1">
				<span class="label">Not among these? Find it by name, plate or owner</span>
				<input class="field" type="search" bind:value={vehicleWords} maxlength="100" />
			</label>
		{/if}
		<Told sentence={trouble} />
		<button class="btn btn-dye justify-center" disabled={!title.trim()}>Open it</button>
	</form>
</Dialog>

<Dialog
	open={!!removing}
	title="Delete this job?"
	note="It lies in the bin for 30 days and can be put back from there, with its history."
>
	<p class="mb-4 font-semibold">{removing?.title}</p>
	<div class="flex gap-2">
		<button class="btn btn-dye" onclick={remove}>Delete</button>
		<a class="btn" href="/api/jobs/{removing?.id}/file" download>Copy out as a file</a>
		<button class="btn" onclick={() => (removing = undefined)}>Keep it</button>
	</div>
</Dialog>
