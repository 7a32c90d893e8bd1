<script lang="ts">
	import { isTyped } from '../ui/typing';
	import { standing } from '../ui/unread.svelte';
	import { goto } from '$app/navigation';
	import type { Snippet } from 'svelte';
	import Wrench from '@lucide/svelte/icons/wrench';
	import { settings } from '../settings.svelte';
	import { api, ask } from '../api/client';
	import Preferences from '../ui/Preferences.svelte';
	import Told from '../ui/Told.svelte';
	import Unopened from '../ui/Unopened.svelte';
	import Clash from './Clash.svelte';
	import type { OnBench } from './saved.svelte';
	import UndoRedo from './UndoRedo.svelte';
	import Unsaved from './Unsaved.svelte';

	let {
		query,
		bench,
		children
	}: {
		query: { isError: boolean; error: Error | null; refetch: () => unknown };
		bench: OnBench<{ name: string; plate?: string }> | undefined;
		children: Snippet;
	} = $props();
	let trouble = $state('');
	const states = { saved: 'Saved', waiting: 'Typing…', saving: 'Saving…', unsaved: 'Not saved' };

	function onkeydown(event: KeyboardEvent) {
		if (event.ctrlKey || event.metaKey || event.key !== 'u') return;
		if (!isTyped(event)) settings.toggleUnits();
	}
	function beforeunload(event: BeforeUnloadEvent) {
		if (!bench || bench.saving === 'saved') return;
		void bench.flush();
		event.preventDefault();
	}
	async function newJob() {
		if (!bench) return;
		if (!(await bench.flush())) {
			trouble = 'What was typed last is not saved yet: once it is, press again.';
			return;
		}
		const title = `${bench.vehicle.name.split(',')[0]}: new job`;
		const asked = await ask(api.POST('/api/jobs', { body: { title, vehicle_id: bench.id } }));
		trouble = asked.trouble;
		if (asked.data) await goto(`/jobs/${asked.data.id}/brief`);
	}
</script>

<svelte:head><title>{bench?.vehicle.name ?? 'Vehicle'} · Inclinum</title></svelte:head>
<svelte:window {onkeydown} onbeforeunload={beforeunload} ononline={() => bench?.retry()} />

{#if query.isError}
	<main class="p-8"><Unopened {query} back={{ href: '/vehicles', name: 'All vehicles' }} /></main>
{:else if !bench}
	<p class="text-quiet p-6">Fetching the vehicle…</p>
{:else}
	<div class="flex h-screen min-w-[1000px] flex-col gap-2 p-2" aria-busy={bench.computing}>
		<header class="flex items-center gap-3">
			<a href="/vehicles" aria-label="All vehicles"><img src="/mark.svg" alt="" class="h-8 w-8" /></a>
			<h1 class="min-w-0 flex-1 truncate text-lg font-bold">
				{bench.vehicle.name}
				<span class="text-quiet text-sm font-normal"
					>{[bench.vehicle.plate, bench.owner].filter(Boolean).join(' · ')}</span
				>
			</h1>
			<UndoRedo {bench} />
			<span class="text-quiet w-[76px]" data-testid="saved" title={bench.saveTrouble}
				>{states[standing(bench.saving)]}</span
			>
			<button class="btn btn-dye" onclick={newJob}><Wrench size={16} /> New job on it</button>
			<Preferences />
		</header>
		<Unsaved {bench} />
		<Told sentence={trouble} />
		{@render children()}
		<Clash conflict={bench.conflict} what="vehicle" onchoose={(chosen) => void bench?.choose(chosen)} />
	</div>
{/if}
