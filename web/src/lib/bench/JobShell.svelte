<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import type { Snippet } from 'svelte';
	import { settings } from '../settings.svelte';
	import { isTyped } from '../ui/typing';
	import { stagesOf } from '../stages';
	import Preferences from '../ui/Preferences.svelte';
	import Unopened from '../ui/Unopened.svelte';
	import { wingOf } from '../wings';
	import Clash from './Clash.svelte';
	import Corrections from './Corrections.svelte';
	import { view } from './context.svelte';
	import Frozen from './Frozen.svelte';
	import History from './History.svelte';
	import type { AnyBench } from './jobBench.svelte';
	import Palette from './Palette.svelte';
	import Saved from './Saved.svelte';
	import UndoRedo from './UndoRedo.svelte';
	import Unsaved from './Unsaved.svelte';
	import Workbench from './Workbench.svelte';

	let {
		query,
		bench,
		children
	}: {
		query: { isError: boolean; error: Error | null; refetch: () => unknown };
		bench: AnyBench | undefined;
		/** The stage. */
		children: Snippet;
	} = $props();
	const base = $derived(`/jobs/${page.params.id}`);
	const stages = $derived(bench ? stagesOf(wingOf(bench.kind)) : []);
	const stage = $derived(page.url.pathname.split('/').at(-1));

	function onkeydown(event: KeyboardEvent) {
		// The palette opens on Ctrl-K anywhere, and on a slash outside fields.
		const called = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k';
		if (called || (event.key === '/' && !isTyped(event) && !event.altKey)) {
			event.preventDefault();
			view.palette = true;
			return;
		}
		if (event.ctrlKey || event.altKey || event.metaKey) return;
		if (isTyped(event)) return;
		const wanted = stages[Number(event.key) - 1];
		if (wanted) void goto(`${base}/${wanted.id}`);
		if (event.key === 'u') settings.toggleUnits();
	}
	function beforeunload(event: BeforeUnloadEvent) {
		// The text somebody is in the middle of is kept as it stands; what is done on the card is the root's to hold.
		if (bench && bench.saving !== 'saved') {
			void bench.flush();
			event.preventDefault();
		}
	}
</script>

<svelte:window {onkeydown} onbeforeunload={beforeunload} ononline={() => bench?.retry()} />
<svelte:head><title>{bench ? `${bench.job.title} · Inclinum` : 'Inclinum'}</title></svelte:head>

{#if query.isError && !bench}
	<main class="grid h-screen place-items-center">
		<Unopened {query} back={{ href: '/', name: 'To the list of jobs' }} />
	</main>
{:else if !bench}
	<main class="text-quiet grid h-screen place-items-center">Laying the job out…</main>
{:else}
	<div class="flex h-screen flex-col gap-2 p-2">
		<header class="flex items-center gap-3 max-[1150px]:gap-2">
			<a href="/" class="shrink-0" aria-label="All jobs" title="All jobs"
				><img src="/mark.svg" alt="" class="h-8 w-8" /></a
			>
			<h1 class="min-w-0 flex-1 truncate text-[17px] font-bold" title={bench.job.title}>{bench.job.title}</h1>
			<nav aria-label="Stages" class="panel flex overflow-hidden">
				{#each stages as s, i (s.id)}
					<a
						href="{base}/{s.id}"
						aria-current={stage === s.id ? 'page' : undefined}
						class="border-rule flex h-8 items-center gap-1.5 border-l px-2.5 font-semibold first:border-l-0 {stage ===
						s.id
							? 'bg-dye text-on-dye'
							: 'hover:bg-wash'}"
					>
						<span class="figure text-[13px] opacity-80">{i + 1}</span>{s.name}
					</a>
				{/each}
			</nav>
			<UndoRedo {bench} />
			<Saved {bench} />
			<Preferences />
		</header>
		<Unsaved {bench} />
		<Frozen {bench} />
		<Corrections {bench} />
		<main class="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(410px,39%)] gap-2">
			<Workbench {bench} />
			<section class="panel min-h-0 overflow-y-auto p-3" aria-label="Stage">
				{@render children()}
			</section>
		</main>
	</div>
	<Clash conflict={bench.conflict} what="stage" onchoose={(chosen) => void bench?.choose(chosen)} />
	<History {bench} />
	<Palette {bench} />
{/if}
