<script lang="ts">
	import { page } from '$app/state';
	import { onDestroy, untrack } from 'svelte';
	import MachineShell from '$lib/bench/MachineShell.svelte';
	import type { OnBench } from '$lib/bench/saved.svelte';
	import { vehicleQuery } from '$lib/queries';
	import { wingOf } from '$lib/wings';

	const query = vehicleQuery(() => Number(page.params.id));
	let bench = $state.raw<OnBench<{ name: string }>>();
	onDestroy(() => bench?.close());
	$effect(() => {
		const data = query.data;
		const id = Number(page.params.id);
		if (data)
			untrack(() => {
				if (bench?.id === id) return;
				bench?.close();
				bench = new (wingOf(data.kind).vehicle)(id, data);
			});
	});
	const Panel = $derived(query.data && wingOf(query.data.kind).OnBench);
</script>

<MachineShell {query} {bench}>
	{#if bench && Panel}<Panel {bench} />{/if}
</MachineShell>
