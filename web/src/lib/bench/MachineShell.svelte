<script lang="ts">
	import { isTyped } from '../ui/typing';
	import { goto } from '$app/navigation';
	import type { Snippet } from 'svelte';
	import Wrench from '@lucide/svelte/icons/wrench';
	import { rawOf } from '../queries';
	import { settings } from '../settings.svelte';
	import Preferences from '../ui/Preferences.svelte';
	import Clash from './Clash.svelte';
	import type { SavedDocument } from './savedDocument.svelte';
	import UndoRedo from './UndoRedo.svelte';
	import Unsaved from './Unsaved.svelte';

	let {
		query,
		bench,
		onjob,
		children
	}: {
		query: { isError: boolean; error: Error | null };
		bench: SavedDocument<{ name: string; plate?: string }> | undefined;
		/** Open a job on it: its address, or what went wrong. */
		onjob: (title: string) => Promise<{ to?: string; trouble?: string }>;
		children: Snippet;
	} = $props();
	let trouble = $state('');
	const states = { saved: 'Saved', waiting: 'Typing…', saving: 'Saving…', unsaved: 'Not saved' };

	function onkeydown(event: KeyboardEvent) {
		if (event.ctrlKey || event.metaKey || event.key !== 'u') return;
		if (!isTyped(event)) settings.toggleUnits();
	}
	async function newJob() {
		if (!bench) return;
		if (!(await bench.flush())) {
			trouble = 'What was typed last is not saved yet: once it is, press again.';
			return;
		}
		const { to, trouble: wrong } = await onjob(`${bench.document.name.split(',')[0]}: new job`);
		if (to) await goto(to);
		else trouble = wrong ?? '';
	}
</script>

<svelte:head><title>{bench?.document.name ?? 'Vehicle'} · Inclinum</title></svelte:head>
<svelte:window {onkeydown} onbeforeunload={() => void bench?.flush()} ononline={() => bench?.retry()} />

{#if query.isError}
	<main class="p-8">
		<p class="mb-3 font-semibold" role="alert">{query.error?.message}</p>
		<a class="btn" href="/vehicles">All vehicles</a>
		{#if rawOf(query.error)}<a class="btn" href={rawOf(query.error)} download>Download what is stored</a>{/if}
	</main>
{:else if !bench}
	<p class="text-quiet p-6">Fetching the vehicle…</p>
{:else}
	<div class="flex h-screen min-w-[1000px] flex-col gap-2 p-2">
		<header class="flex items-center gap-3">
			<a href="/vehicles" aria-label="All vehicles"><img src="/mark.svg" alt="" class="h-8 w-8" /></a>
			<h1 class="min-w-0 flex-1 truncate text-lg font-bold">
				{bench.document.name}
				<span class="text-quiet text-sm font-normal"
					>{[bench.document.plate, bench.owner].filter(Boolean).join(' · ')}</span
				>
			</h1>
			<UndoRedo {bench} />
			<span class="text-quiet w-[76px]" data-testid="saved" title={bench.saveTrouble}
				>{states[bench.saving]}</span
			>
			<button class="btn btn-dye" onclick={newJob}><Wrench size={16} /> New job on it</button>
			<Preferences />
		</header>
		<Unsaved {bench} />
		{#if trouble}<p class="panel text-stops p-2 font-semibold" role="alert">{trouble}</p>{/if}
		{@render children()}
		<Clash
			conflict={bench.conflict}
			mine={bench.document}
			what="vehicle"
			ontheirs={() => bench?.takeTheirs()}
			onmine={() => void bench?.saveMine()}
		/>
	</div>
{/if}
