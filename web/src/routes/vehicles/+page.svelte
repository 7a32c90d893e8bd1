<script lang="ts">
	import { goto } from '$app/navigation';
	import { useQueryClient } from '@tanstack/svelte-query';
	import Plus from '@lucide/svelte/icons/plus';
	import { api, sentence } from '$lib/api/client';
	import { bikeChoicesQuery, choicesQuery, vehiclesQuery } from '$lib/queries';
	import ListHead from '$lib/ui/ListHead.svelte';
	import MoreOfList from '$lib/ui/MoreOfList.svelte';
	import Trouble from '$lib/ui/Trouble.svelte';
	import Sheet from '$lib/ui/Sheet.svelte';

	let words = $state('');
	const vehicles = vehiclesQuery(() => words.trim());
	const listed = $derived(vehicles.data?.pages.flatMap((page) => page.items) ?? []);
	const total = $derived(vehicles.data?.pages[0]?.total ?? 0);
	const choices = choicesQuery();
	const bikes = bikeChoicesQuery();
	const queries = useQueryClient();
	let trouble = $state('');
	let opening = $state(false);
	let fresh = $state({ name: '', plate: '', owner: '', size: 'car', front: '', rear: '' });
	const fits = (end: 'front' | 'rear') =>
		(choices.data?.archetypes ?? []).filter((a) => a.where.includes(end) && !a.not_for.includes(fresh.size));

	let two = $state(false);
	let bike = $state({ name: '', plate: '', owner: '', archetype: '' });
	async function setTwo() {
		const body = { ...bike, archetype: bike.archetype || (bikes.data?.archetypes[0]?.key ?? '') };
		const { data, error } = await api
			.POST('/api/bikes', { body })
			.catch(() => ({ data: undefined, error: undefined }));
		if (!data) {
			trouble = sentence(error);
			return;
		}
		trouble = '';
		two = false;
		await queries.invalidateQueries({ queryKey: ['vehicles'] });
		await goto(`/machines/${data.id}`);
	}

	async function set() {
		const body = {
			...fresh,
			front: fresh.front || (fits('front')[0]?.key ?? ''),
			rear: fresh.rear || (fits('rear')[0]?.key ?? '')
		};
		const { data, error } = await api
			.POST('/api/vehicles', { body })
			.catch(() => ({ data: undefined, error: undefined }));
		if (!data) {
			trouble = sentence(error);
			return;
		}
		trouble = '';
		opening = false;
		await queries.invalidateQueries({ queryKey: ['vehicles'] });
		await goto(`/vehicles/${data.id}`);
	}
</script>

<svelte:head><title>Vehicles · Inclinum</title></svelte:head>

<main class="mx-auto flex h-screen max-w-[1180px] flex-col px-6 py-5">
	<ListHead here="vehicles">
		<button class="btn" onclick={() => (two = true)}><Plus size={16} /> Set up a two-wheeler</button>
		<button class="btn btn-dye" onclick={() => (opening = true)}><Plus size={16} /> Set up a vehicle</button>
	</ListHead>

	{#if vehicles.isPending}
		<p class="text-quiet p-4">Fetching the vehicles…</p>
	{:else if vehicles.isError}
		<div class="panel p-5">
			<p class="mb-3 font-semibold">{vehicles.error.message}</p>
			<button class="btn" onclick={() => vehicles.refetch()}>Try again</button>
		</div>
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
				<li class="panel">
					<a
						class="grid grid-cols-[1fr_1fr_110px] items-center gap-4 px-4 py-2 hover:underline"
						href="{v.wheels === 2 ? '/machines' : '/vehicles'}/{v.id}"
					>
						<span>
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
					{#if v.trouble}
						<div class="border-rule border-t px-4 py-2">
							<Trouble sentence={v.trouble} raw="/api/vehicles/{v.id}/raw" />
						</div>
					{/if}
				</li>
			{/each}
			<li><MoreOfList list={vehicles} shown={listed.length} {total} what="vehicles" /></li>
		</ul>
	{/if}
</main>

<Sheet
	bind:open={opening}
	title="Set up a vehicle"
	note="Choose what each axle looks like. It works at once with usual numbers; every reading then makes it this one."
>
	<form
		class="grid gap-3"
		onsubmit={(e) => {
			e.preventDefault();
			void set();
		}}
	>
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
		<label class="grid gap-1">
			<span class="label">Size</span>
			<select class="field" bind:value={fresh.size}>
				{#each choices.data?.sizes ?? [] as s (s.key)}<option value={s.key}>{s.title}</option>{/each}
			</select>
		</label>
		<label class="grid gap-1">
			<span class="label">Front suspension</span>
			<select
				class="field"
				value={fresh.front || fits('front')[0]?.key}
				onchange={(e) => (fresh.front = e.currentTarget.value)}
			>
				{#each fits('front') as a (a.key)}<option value={a.key}>{a.title}</option>{/each}
			</select>
		</label>
		<label class="grid gap-1">
			<span class="label">Rear suspension</span>
			<select
				class="field"
				value={fresh.rear || fits('rear')[0]?.key}
				onchange={(e) => (fresh.rear = e.currentTarget.value)}
			>
				{#each fits('rear') as a (a.key)}<option value={a.key}>{a.title}</option>{/each}
			</select>
		</label>
		{#if trouble}<p class="text-stops font-semibold" role="alert">{trouble}</p>{/if}
		<button class="btn btn-dye justify-center" disabled={!fresh.name.trim() || !fresh.owner.trim()}
			>Set it up</button
		>
	</form>
</Sheet>

<Sheet
	bind:open={two}
	title="Set up a two-wheeler"
	note="Choose what it looks like. It works at once with usual numbers; calliper and tape then make it this one."
>
	<form
		class="grid gap-3"
		onsubmit={(e) => {
			e.preventDefault();
			void setTwo();
		}}
	>
		<label class="grid gap-1">
			<span class="label">Name</span>
			<input class="field" data-first-focus bind:value={bike.name} required maxlength="120" />
		</label>
		<div class="grid grid-cols-2 gap-3">
			<label class="grid gap-1"
				><span class="label">Plate</span><input class="field" bind:value={bike.plate} maxlength="30" /></label
			>
			<label class="grid gap-1"
				><span class="label">Owner</span><input
					class="field"
					bind:value={bike.owner}
					required
					maxlength="120"
				/></label
			>
		</div>
		<label class="grid gap-1">
			<span class="label">Kind of machine</span>
			<select
				class="field"
				value={bike.archetype || bikes.data?.archetypes[0]?.key}
				onchange={(e) => (bike.archetype = e.currentTarget.value)}
			>
				{#each bikes.data?.archetypes ?? [] as a (a.key)}<option value={a.key}>{a.title}</option>{/each}
			</select>
		</label>
		{#if trouble}<p class="text-stops font-semibold" role="alert">{trouble}</p>{/if}
		<button class="btn btn-dye justify-center" disabled={!bike.name.trim() || !bike.owner.trim()}
			>Set it up</button
		>
	</form>
</Sheet>
