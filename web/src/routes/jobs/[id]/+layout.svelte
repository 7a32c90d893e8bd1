<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { untrack } from 'svelte';
	import { Bench } from '$lib/bench/bench.svelte';
	import { putBench, view } from '$lib/bench/context.svelte';
	import Clash from '$lib/bench/Clash.svelte';
	import History from '$lib/bench/History.svelte';
	import Instruments from '$lib/bench/Instruments.svelte';
	import Ledger from '$lib/bench/Ledger.svelte';
	import Numbers from '$lib/bench/Numbers.svelte';
	import Palette from '$lib/bench/Palette.svelte';
	import Saved from '$lib/bench/Saved.svelte';
	import UndoRedo from '$lib/bench/UndoRedo.svelte';
	import SideElevation from '$lib/draw/SideElevation.svelte';
	import Preferences from '$lib/ui/Preferences.svelte';
	import { jobQuery } from '$lib/queries';
	import { settings } from '$lib/settings.svelte';
	import { STAGES } from '$lib/stages';

	let { children } = $props();
	const query = jobQuery(() => page.params.id ?? '');
	let bench = $state.raw<Bench>();
	putBench(() => bench as Bench);

	$effect(() => {
		const data = query.data;
		if (data) untrack(() => bench?.job.id !== data.job.id && (bench = new Bench(data)));
	});
	const stage = $derived(page.url.pathname.split('/').at(-1));
	const base = $derived(`/jobs/${page.params.id}`);

	function onkeydown(event: KeyboardEvent) {
		if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
			event.preventDefault();
			view.palette = true;
			return;
		}
		const target = event.target as HTMLElement;
		if (
			event.ctrlKey ||
			event.altKey ||
			event.metaKey ||
			target.closest('input, textarea, select, [role=dialog]')
		)
			return;
		const wanted = STAGES[Number(event.key) - 1];
		if (wanted) void goto(`${base}/${wanted.id}`);
		if (event.key === 'u') settings.toggleUnits();
		if (event.key === '/') {
			event.preventDefault();
			view.palette = true;
		}
	}
	function beforeunload(event: BeforeUnloadEvent) {
		if (bench && bench.saving !== 'saved') {
			void bench.flush();
			event.preventDefault();
		}
	}
</script>

<svelte:window {onkeydown} onbeforeunload={beforeunload} ononline={() => bench?.flush()} />
<svelte:head><title>{bench ? `${bench.job.title} · Inclinum` : 'Inclinum'}</title></svelte:head>

{#if query.isError && !bench}
	<main class="grid h-screen place-items-center">
		<div class="panel max-w-md p-6">
			<p class="mb-4 text-base font-semibold" role="alert">{query.error.message}</p>
			<div class="flex gap-2">
				<button class="btn" onclick={() => query.refetch()}>Try again</button>
				<a class="btn" href="/">To the list of jobs</a>
			</div>
		</div>
	</main>
{:else if !bench}
	<main class="text-quiet grid h-screen place-items-center">Laying the job out…</main>
{:else}
	<div class="flex h-screen flex-col gap-2 p-2">
		<header class="flex items-center gap-3">
			<a href="/" class="shrink-0" aria-label="All jobs" title="All jobs"
				><img src="/mark.svg" alt="" class="h-8 w-8" /></a
			>
			<h1 class="min-w-0 flex-1 truncate text-[17px] font-bold" title={bench.job.title}>{bench.job.title}</h1>
			<nav aria-label="Stages" class="panel flex overflow-hidden">
				{#each STAGES as s, i (s.id)}
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

		<main class="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(410px,39%)] gap-2">
			<div class="grid min-h-0 min-w-0 grid-cols-1 grid-rows-[minmax(0,1.3fr)_auto_minmax(0,1fr)] gap-2">
				<div class="panel relative min-h-0 overflow-hidden">
					{#if bench.prediction}
						<SideElevation
							prediction={bench.prediction}
							job={bench.job}
							bind:axle={view.axle}
							reach={view.reach}
							onreach={(axle, rise) => {
								view.reach = { axle, rise };
								if (stage !== 'plan') void goto(`${base}/plan`);
							}}
						/>
					{:else if !bench.trouble}
						<p class="text-quiet p-4">Computing…</p>
					{/if}
					{#if bench.trouble}
						<p
							class="bg-chalk border-stops text-stops absolute inset-x-3 top-3 border-l-4 p-2 font-semibold"
							role="alert"
						>
							{bench.trouble}
							{#if bench.prediction}<span class="text-quiet font-normal"
									>The last good result stays on screen.</span
								>{/if}
						</p>
					{/if}
				</div>
				{#if bench.prediction}
					<Numbers
						prediction={bench.prediction}
						computing={bench.computing}
						rakeMax={bench.job.brief.rake_change_max_deg}
					/>
					<div class="grid min-h-0 min-w-0 grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)] gap-2">
						<Ledger
							findings={bench.prediction.findings}
							stopped={bench.prediction.stopped}
							overridden={!bench.prediction.stopped &&
								bench.prediction.findings.some((f) => f.severity === 'stops')}
							oncure={(changes) => bench?.change('plan', { ...bench.job.plan, changes })}
						/>
						<Instruments prediction={bench.prediction} />
					</div>
				{/if}
			</div>
			<section class="panel min-h-0 overflow-y-auto p-3" aria-label="Stage">
				{@render children()}
			</section>
		</main>
	</div>
	<Clash {bench} />
	<History {bench} />
	<Palette {bench} />
{/if}
