<script lang="ts">
	import { moment } from '../format';
	import Sheet from '../ui/Sheet.svelte';
	import type { AnyBench } from './jobBench.svelte';
	import { view } from './context.svelte';

	let { bench }: { bench: AnyBench } = $props();
	$effect(() => {
		if (view.history) void bench.flush().then(() => bench.refresh());
	});
</script>

<Sheet bind:open={view.history} wide title="History of this job" note={bench.saveTrouble}>
	<ol class="grid gap-2">
		{#each [...bench.history].reverse() as entry, i (i)}
			<li class="border-rule grid grid-cols-[150px_1fr] gap-3 border-t pt-2">
				<span class="text-quiet">{moment(entry.at)}<br /><strong class="text-ink">{entry.by}</strong></span>
				<span class="break-words">{entry.what}</span>
			</li>
		{:else}
			<li class="text-quiet">Nothing was saved yet.</li>
		{/each}
	</ol>
</Sheet>
