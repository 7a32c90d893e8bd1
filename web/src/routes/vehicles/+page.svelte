<script lang="ts">
	import { goto } from '$app/navigation';
	import { useQueryClient } from '@tanstack/svelte-query';
	import Download from '@lucide/svelte/icons/download';
	import FileInput from '@lucide/svelte/icons/file-input';
	import Plus from '@lucide/svelte/icons/plus';
	import Trash from '@lucide/svelte/icons/trash-2';
	import { api, ask, type Schemas } from '$lib/api/client';
	import { drafts } from '$lib/bench/drafts';
	import { kindsQuery, vehiclesQuery } from '$lib/queries';
	import Silhouette from '$lib/draw/Silhouette.svelte';
	import ChoosePicture from '$lib/draw/ChoosePicture.svelte';
	import ListHead from '$lib/ui/ListHead.svelte';
	import MoreOfList from '$lib/ui/MoreOfList.svelte';
	import Dialog from '$lib/ui/Dialog.svelte';
	import Told from '$lib/ui/Told.svelte';
	import Unopened from '$lib/ui/Unopened.svelte';

	let words = $state('');
	const vehicles = vehiclesQuery(() => words.trim());
	const listed = $derived(vehicles.data?.pages.flatMap((page) => page.items) ?? []);
	const total = $derived(vehicles.data?.pages[0]?.total ?? 0);
	const kinds = kindsQuery();
	const queries = useQueryClient();
	let trouble = $state('');
	let opening = $state(false);
	let fresh = $state({ name: '', plate: '', owner: '' });
	let kind = $state('car');
	/** What was picked, by kind and question; what was not is the first that goes with the rest. */
	let picked = $state<Record<string, string>>({});
	const asked = $derived.by(() => {
		const chosen: Record<string, string> = {};
		return (kinds.data?.[kind]?.choices ?? []).map((choice) => {
			const options = choice.options.filter(
				(o) => !o.not_with.some((k) => Object.values(chosen).includes(k))
			);
			const mine = picked[`${kind}.${choice.name}`];
			chosen[choice.name] = options.find((o) => o.key === mine)?.key ?? options[0]?.key ?? '';
			return { ...choice, options, value: chosen[choice.name] ?? '' };
		});
	});
	const missing = $derived(
		[!fresh.name.trim() && 'a name', !fresh.owner.trim() && 'an owner'].filter(Boolean).join(' and ')
	);

	let removing = $state.raw<Schemas['VehicleSummary']>();
	let picker: HTMLInputElement;

	async function bringIn(file: File | undefined) {
		if (!file) return;
		const asked = await ask(
			api.POST('/api/vehicles/import', { body: (await file.text()) as never, bodySerializer: (text) => text })
		);
		picker.value = '';
		trouble = asked.trouble && `${file.name}: ${asked.trouble}`;
		if (!asked.data) return;
		await queries.invalidateQueries({ queryKey: ['vehicles'] });
		await goto(`/vehicles/${asked.data.id}`);
	}

	async function remove() {
		if (!removing) return;
		const path = { vehicle_id: removing.id };
		trouble = (await ask(api.DELETE('/api/vehicles/{vehicle_id}', { params: { path } }))).trouble;
		if (trouble) return;
		drafts.forgetAll(`unsaved:#${removing.id}:`);
		removing = undefined;
		for (const list of ['vehicles', 'bin']) await queries.invalidateQueries({ queryKey: [list] });
	}

	async function set() {
		const chosen = Object.fromEntries(asked.map((choice) => [choice.name, choice.value]));
		const made = await ask(api.POST('/api/vehicles', { body: { kind, ...fresh, chosen } }));
		trouble = made.trouble;
		if (!made.data) return;
		opening = false;
		await queries.invalidateQueries({ queryKey: ['vehicles'] });
		await goto(`/vehicles/${made.data.id}`);
	}
</script>

<svelte:head><title>Vehicles · Inclinum</title></svelte:head>

<main class="mx-auto flex h-screen max-w-[1180px] flex-col px-6 py-5">
	<ListHead here="vehicles">
		<input
			bind:this={picker}
			type="file"
			accept=".json,application/json"
			class="hidden"
			aria-label="Vehicle file"
			onchange={(e) => bringIn(e.currentTarget.files?.[0])}
		/>
		<button class="btn" onclick={() => picker.click()}><FileInput size={16} /> Bring in a file</button>
		<button class="btn btn-dye" onclick={() => (opening = true)}><Plus size={16} /> Set up a vehicle</button>
	</ListHead>
	{#if !opening && !removing}<Told sentence={trouble} class="mb-3" />{/if}

	{#if vehicles.isPending}
		<p class="text-quiet p-4">Fetching the vehicles…</p>
	{:else if vehicles.isError}
		<Unopened query={vehicles} />
	{:else if listed.length === 0 && !words.trim()}
		<div class="panel p-8 text-center">
			<p class="head mb-1">No vehicles yet</p>
			<p class="text-quiet">
				Set one up from an archetype of each axle: it works at once, and the tape makes it exact.
			</p>
		</div>
	{:else}
		<label class="mb-3 grid max-w-[480px] gap-1">
			<span class="label">Find by name, plate, owner or suspension</span>
			<input class="field" type="search" bind:value={words} maxlength="100" />
		</label>
		{#if listed.length === 0}<p class="text-quiet p-4">No vehicle has “{words.trim()}” in it.</p>{/if}
		<ul class="grid min-h-0 gap-1.5 overflow-y-auto" aria-label="Vehicles">
			{#each listed as v (v.id)}
				<li class="panel grid grid-cols-[minmax(0,1fr)_auto]">
					<a
						class="grid grid-cols-[92px_minmax(0,1fr)_minmax(0,1fr)_110px] items-center gap-4 px-4 py-1.5 hover:underline"
						href="/vehicles/{v.id}"
					>
						<Silhouette of={v.silhouette} kind={v.kind} />
						<span class="min-w-0 break-words">
							<span class="block text-base leading-snug font-semibold">{v.name}</span>
							<span class="text-quiet">{[v.plate, v.owner].filter(Boolean).join(' · ')}</span>
						</span>
						<span class="leading-snug">
							<span class="block"><span class="label">front</span> {v.front}</span>
							<span class="block"><span class="label">rear</span> {v.rear}</span>
						</span>
						<span class="text-quiet text-right leading-snug">
							<span class="block">{v.measured ? `${v.measured} read` : 'not measured'}</span>
							<span class="block">{v.jobs ? `${v.jobs} ${v.jobs === 1 ? 'job' : 'jobs'}` : 'no job yet'}</span
							>
						</span>
					</a>
					<span class="border-rule flex items-center gap-1 border-l px-2">
						<a
							class="btn btn-plain px-2"
							href="/api/vehicles/{v.id}/{v.trouble ? 'raw' : 'file'}"
							download
							aria-label="Copy out {v.name} {v.plate}"
							title="Copy out as a file"><Download size={17} /></a
						>
						<button
							class="btn btn-plain px-2"
							aria-label="Delete {v.name} {v.plate}"
							title="Delete"
							onclick={() => (removing = v)}><Trash size={17} /></button
						>
					</span>
					{#if v.trouble}
						<div class="border-rule col-span-2 border-t px-4 py-2">
							<Told sentence="Cannot be opened. {v.trouble}">
								<a class="btn mt-1" href="/api/vehicles/{v.id}/raw" download>Download what is stored</a>
							</Told>
						</div>
					{/if}
				</li>
			{/each}
			<li><MoreOfList list={vehicles} shown={listed.length} {total} what="vehicles" /></li>
		</ul>
	{/if}
</main>

<Dialog
	open={!!removing}
	title="Delete this vehicle?"
	note="It lies in the bin for 30 days and can be put back from there. A vehicle that jobs are on stays."
>
	<p class="mb-4 font-semibold">{removing?.name} {removing?.plate}</p>
	<Told sentence={trouble} class="mb-3" />
	<div class="flex gap-2">
		<button class="btn btn-dye" onclick={remove}>Delete</button>
		<a class="btn" href="/api/vehicles/{removing?.id}/file" download>Copy out as a file</a>
		<button
			class="btn"
			onclick={() => {
				removing = undefined;
				trouble = '';
			}}>Keep it</button
		>
	</div>
</Dialog>

<Dialog
	bind:open={opening}
	wide
	title="Set up a vehicle"
	note="Choose what it looks like. It works at once with usual numbers; every reading then makes it this one."
>
	<form
		class="grid gap-3"
		onsubmit={(e) => {
			e.preventDefault();
			void set();
		}}
	>
		<div class="flex gap-1" role="group" aria-label="Kind">
			{#each Object.values(kinds.data ?? {}) as k (k.kind)}
				<button
					type="button"
					class="btn flex-1 justify-center {kind === k.kind ? 'btn-dye' : ''}"
					aria-pressed={kind === k.kind}
					onclick={() => (kind = k.kind)}>{k.title}</button
				>
			{/each}
		</div>
		<label class="grid gap-1">
			<span class="label">Name</span>
			<input class="field" data-first-focus bind:value={fresh.name} required maxlength="120" />
		</label>
		<div class="grid grid-cols-2 gap-3">
			<label class="grid gap-1"
				><span class="label">Plate</span><input
					class="field"
					bind:value={fresh.plate}
					maxlength="30"
				/></label
			>
			<label class="grid gap-1"
				><span class="label">Owner</span><input
					class="field"
					bind:value={fresh.owner}
					required
					maxlength="120"
				/></label
			>
		</div>
		{#each asked as choice (choice.name)}
			<label class="grid gap-1">
				<span class="label">{choice.title}</span>
				<select
					class="field"
					value={choice.value}
					onchange={(e) => (picked[`${kind}.${choice.name}`] = e.currentTarget.value)}
				>
					{#each choice.options as o (o.key)}<option value={o.key}>{o.title}</option>{/each}
				</select>
			</label>
			{#if choice.pictured}
				<ChoosePicture
					{kind}
					choice={choice.name}
					options={choice.options}
					value={choice.value}
					onpick={(key) => (picked[`${kind}.${choice.name}`] = key)}
				/>
			{/if}
		{/each}
		<Told sentence={trouble} />
		{#if missing}<p class="text-quiet">It still needs {missing}.</p>{/if}
		<button class="btn btn-dye justify-center" disabled={!!missing}>Set it up</button>
	</form>
</Dialog>
