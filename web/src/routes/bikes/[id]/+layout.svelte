<script lang="ts">
	import { page } from '$app/state';
	import { untrack } from 'svelte';
	import JobShell from '$lib/bench/JobShell.svelte';
	import Ledger from '$lib/bench/Ledger.svelte';
	import { BikeBench, putBike } from '$lib/bike/bikeBench.svelte';
	import BikeElevation from '$lib/bike/BikeElevation.svelte';
	import BikeInstruments from '$lib/bike/BikeInstruments.svelte';
	import BikeNumbers from '$lib/bike/BikeNumbers.svelte';
	import { bikeJobQuery } from '$lib/queries';
	import { STAGES } from '$lib/stages';

	let { children } = $props();
	const query = bikeJobQuery(() => page.params.id ?? '');
	let bench = $state.raw<BikeBench>();
	putBike(() => bench as BikeBench);
	$effect(() => {
		const data = query.data;
		if (data) untrack(() => bench?.job.id !== data.job.id && (bench = new BikeBench(data)));
	});
	const stages = STAGES.map((s) => (s.id === 'align' ? { ...s, name: 'Steer' } : s));
</script>

<JobShell {query} {bench} base="/bikes/{page.params.id}" {stages} {children}>
	{#snippet left()}
		{#if bench}
			<div class="grid min-h-0 min-w-0 grid-cols-1 grid-rows-[minmax(0,1.45fr)_auto_minmax(0,1fr)] gap-2">
				<div class="panel relative min-h-0 overflow-hidden">
					{#if bench.prediction}
						<BikeElevation
							prediction={bench.prediction}
							job={bench.job}
							rear={bench.machine.rear}
							onsag={(end, sag) => bench?.setSag(end, sag)}
							onpoint={page.url.pathname.endsWith('/measure')
								? (name, to) => bench?.movePoint(name, to)
								: undefined}
						/>
					{:else if !bench.trouble}<p class="text-quiet p-4">Computing…</p>{/if}
					{#if bench.trouble || bench.sagTrouble}
						<p
							class="bg-chalk border-stops text-stops absolute inset-x-[104px] top-10 border-l-4 p-2 font-semibold"
							role="alert"
						>
							{bench.trouble || bench.sagTrouble}
							{#if bench.trouble && bench.prediction}<span class="text-quiet font-normal"
									>The last good result stays on screen.</span
								>{/if}
						</p>
					{/if}
				</div>
				{#if bench.prediction}
					<BikeNumbers prediction={bench.prediction} computing={bench.computing} />
					<div class="grid min-h-0 min-w-0 grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)] gap-2">
						<Ledger
							findings={bench.prediction.findings}
							unmeasured={bench.prediction.unmeasured}
							stopped={bench.prediction.stopped}
							overridden={!bench.prediction.stopped &&
								bench.prediction.findings.some((f) => f.severity === 'stops')}
							oncure={(changes) => bench?.plan(changes)}
						/>
						<BikeInstruments prediction={bench.prediction} />
					</div>
				{/if}
			</div>
		{/if}
	{/snippet}
</JobShell>
