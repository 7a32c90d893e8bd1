<script lang="ts">
	import { page } from '$app/state';
	import { onDestroy, untrack } from 'svelte';
	import { putBench } from '$lib/bench/context.svelte';
	import type { AnyBench } from '$lib/bench/jobBench.svelte';
	import JobShell from '$lib/bench/JobShell.svelte';
	import { jobQuery } from '$lib/queries';
	import { wingOf } from '$lib/wings';

	let { children } = $props();
	const query = jobQuery(() => page.params.id ?? '');
	let bench = $state.raw<AnyBench>();
	onDestroy(() => bench?.close());
	/** The bench of the job at this address: on the way from one job to another the last one is nobody's any more. */
	const here = $derived(bench?.job.id === page.params.id ? bench : undefined);
	putBench(() => here as AnyBench);
	$effect(() => {
		const data = query.data;
		if (data)
			untrack(() => {
				if (bench?.job.id === data.job.id) return;
				bench?.close();
				bench = new (wingOf(data.kind).job)(data);
			});
	});
</script>

<JobShell {query} bench={here} {children} />
