<script lang="ts">
	import Told from '../ui/Told.svelte';
	import { wingOf } from '../wings';
	import type { AnyBench } from './jobBench.svelte';
	import { page } from '$app/state';
	import Ledger from './Ledger.svelte';
	import Standing from './Standing.svelte';

	/** What stays on the screen in every stage: the machine and its numbers. Findings and curves belong to the plan:
	    elsewhere the drawing has their room, and one line tells how the plan stands. */
	let { bench }: { bench: AnyBench } = $props();
	const { Drawing, Numbers, Instruments, rows } = $derived(wingOf(bench.kind));
	const told = $derived(bench.refusal);
	const planning = $derived(page.params.stage === 'plan');
</script>

<div class="grid min-h-0 min-w-0 grid-cols-1 gap-2 {planning ? rows : 'grid-rows-[minmax(0,1fr)_auto_auto]'}">
	<div class="panel relative min-h-0 overflow-hidden">
		{#if bench.prediction}<Drawing />
		{:else if !told}<p class="text-quiet p-4">Computing…</p>{/if}
		<Told sentence={told} class="absolute inset-x-[104px] top-10">
			{#if bench.trouble && bench.prediction}<p class="text-quiet">
					The last good result stays on screen.
				</p>{/if}
		</Told>
	</div>
	{#if bench.prediction}
		<Numbers />
		{#if planning}
			<div class="grid min-h-0 min-w-0 grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)] gap-2">
				<Ledger prediction={bench.prediction} of={bench} oncure={(changes) => bench.plan(changes)} />
				<Instruments />
			</div>
		{:else}
			<Standing prediction={bench.prediction} plan="/jobs/{bench.job.id}/plan" />
		{/if}
	{/if}
</div>
