<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import type { Snippet } from 'svelte';
	import { rawOf } from '../queries';
	import { settings } from '../settings.svelte';
	import type { StageName } from '../api/client';
	import { isTyped } from '../ui/typing';
	import Preferences from '../ui/Preferences.svelte';
	import Clash from './Clash.svelte';
	import Corrections from './Corrections.svelte';
	import History from './History.svelte';
	import type { AnyBench } from './jobBench.svelte';
	import Saved from './Saved.svelte';
	import UndoRedo from './UndoRedo.svelte';
	import Unsaved from './Unsaved.svelte';

	let {
		query,
		bench,
		base,
		stages,
		onkey = () => false,
		left,
		children
	}: {
		query: { isError: boolean; error: Error | null; refetch: () => unknown };
		bench: AnyBench | undefined;
		/** Address of the job. */
		base: string;
		stages: { id: StageName; name: string }[];
		/** Further keys; true when one was taken. */
		onkey?: (event: KeyboardEvent) => boolean;
		/** What stays on the screen in every stage: drawing, numbers, findings. */
		left: Snippet;
		/** The stage. */
		children: Snippet;
	} = $props();
	const stage = $derived(page.url.pathname.split('/').at(-1));

	function onkeydown(event: KeyboardEvent) {
		if (onkey(event)) return;
		if (event.ctrlKey || event.altKey || event.metaKey) return;
		if (isTyped(event)) return;
		const wanted = stages[Number(event.key) - 1];
		if (wanted) void goto(`${base}/${wanted.id}`);
		if (event.key === 'u') settings.toggleUnits();
	}
	function beforeunload(event: BeforeUnloadEvent) {
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
		<div class="panel max-w-md p-6">
			<p class="mb-4 text-base font-semibold" role="alert">{query.error?.message}</p>
			<div class="flex gap-2">
				<button class="btn" onclick={() => query.refetch()}>Try again</button>
				<a class="btn" href="/">To the list of jobs</a>
				{#if rawOf(query.error)}<a class="btn" href={rawOf(query.error)} download>Download what is stored</a
					>{/if}
			</div>
		</div>
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
						<span class="figure text-[11px] opacity-80">{i + 1}</span>{s.name}
					</a>
				{/each}
			</nav>
			<UndoRedo {bench} />
			<Saved {bench} />
			<Preferences />
		</header>
		<Unsaved {bench} />
		<Corrections {bench} />
		<main class="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(410px,39%)] gap-2">
			{@render left()}
			<section class="panel min-h-0 overflow-y-auto p-3" aria-label="Stage">
				{@render children()}
			</section>
		</main>
	</div>
	<Clash
		conflict={bench.conflict}
		mine={bench.conflict && bench.job[bench.conflict.stage]}
		what="stage"
		ontheirs={() => bench?.takeTheirs()}
		onmine={bench.conflict?.stage === 'build' ? undefined : () => void bench?.saveMine()}
	/>
	<History {bench} />
{/if}
