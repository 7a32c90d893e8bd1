<script lang="ts">
	import { isTyped } from '$lib/ui/typing';
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { untrack } from 'svelte';
	import { Bench } from '$lib/bench/bench.svelte';
	import { putBench, view } from '$lib/bench/context.svelte';
	import Instruments from '$lib/bench/Instruments.svelte';
	import JobShell from '$lib/bench/JobShell.svelte';
	import Ledger from '$lib/bench/Ledger.svelte';
	import Numbers from '$lib/bench/Numbers.svelte';
	import Palette from '$lib/bench/Palette.svelte';
	import SideElevation from '$lib/draw/SideElevation.svelte';
	import { jobQuery } from '$lib/queries';
	import { STAGES } from '$lib/stages';

	let { children } = $props();
	const query = jobQuery(() => page.params.id ?? '');
	let bench = $state.raw<Bench>();
	putBench(() => bench as Bench);

	$effect(() => {
		const data = query.data;
		if (data) untrack(() => bench?.job.id !== data.job.id && (bench = new Bench(data)));
	});
	const base = $derived(`/jobs/${page.params.id}`);

	/** The palette opens on Ctrl-K anywhere, and on a slash outside fields. */
	function onkey(event: KeyboardEvent): boolean {
		const called =
			((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') ||
			(event.key === '/' && !isTyped(event) && !event.altKey);
		if (!called) return false;
		event.preventDefault();
		view.palette = true;
		return true;
	}
</script>

<JobShell {query} {bench} {base} stages={STAGES} {onkey} {children}>
	{#snippet left()}
		{#if bench}
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
								if (!page.url.pathname.endsWith('/plan')) void goto(`${base}/plan`);
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
							unmeasured={bench.prediction.unmeasured}
							stopped={bench.prediction.stopped}
							overridden={!bench.prediction.stopped &&
								bench.prediction.findings.some((f) => f.severity === 'stops')}
							oncure={(changes) => bench?.change('plan', { ...bench.job.plan, changes })}
						/>
						<Instruments prediction={bench.prediction} />
					</div>
				{/if}
			</div>
		{/if}
	{/snippet}
</JobShell>
{#if bench}<Palette {bench} />{/if}
