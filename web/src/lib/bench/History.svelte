<script lang="ts">
	import { moment } from '../format';
	import { historyQuery } from '../queries';
	import Dialog from '../ui/Dialog.svelte';
	import Told from '../ui/Told.svelte';
	import type { AnyBench } from './jobBench.svelte';
	import { view } from './context.svelte';

	let { bench }: { bench: AnyBench } = $props();
	const lines = historyQuery(
		() => bench.job.id,
		() => view.history
	);
	$effect(() => {
		if (view.history) void bench.flush().then(() => lines.refetch());
	});
	const shown = $derived(lines.data?.pages.flat() ?? []);
	const word = (value: unknown) =>
		value === null || value === undefined || value === ''
			? 'nothing'
			: typeof value === 'object' && 'text' in value
				? String(value.text)
				: typeof value === 'object'
					? JSON.stringify(value)
					: String(value);
	const short = (what: string) => !what.includes('…') && !/ and \d+ more$/.test(what);
</script>

<Dialog bind:open={view.history} wide title="History of this job" note={bench.saveTrouble}>
	<Told sentence={lines.error?.message ?? ''} class="mb-2" />
	<ol class="grid gap-2">
		{#each shown as entry (entry.id)}
			<li class="border-rule grid grid-cols-[150px_1fr] gap-3 border-t pt-2">
				<span class="text-quiet">{moment(entry.at)}<br /><strong class="text-ink">{entry.by}</strong></span>
				<span class="min-w-0 break-words">
					{entry.what}
					{#if entry.detail?.length && !short(entry.what)}
						<details class="mt-1">
							<summary class="cursor-pointer underline">In full</summary>
							<dl class="mt-1 grid gap-1">
								{#each entry.detail as part, i (i)}
									<dt class="text-quiet">{part.path}</dt>
									<dd class="break-words whitespace-pre-wrap">{word(part.old)} → {word(part.new)}</dd>
								{/each}
							</dl>
						</details>
					{/if}
				</span>
			</li>
		{:else}
			<li class="text-quiet">{lines.isPending ? 'Fetching the history…' : 'Nothing was saved yet.'}</li>
		{/each}
	</ol>
	{#if lines.hasNextPage}
		<button class="btn mt-3" onclick={() => lines.fetchNextPage()} disabled={lines.isFetchingNextPage}>
			Earlier lines
		</button>
	{/if}
</Dialog>
