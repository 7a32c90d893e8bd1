<script lang="ts">
	import { rawOf } from '../queries';
	import Told from './Told.svelte';

	/** In place of what cannot be shown: why, and the ways on. */
	let {
		query,
		back
	}: {
		query: { error: Error | null; refetch: () => unknown };
		/** Where else to go. */
		back?: { href: string; name: string };
	} = $props();
	const raw = $derived(rawOf(query.error));
</script>

<div class="panel max-w-2xl p-5">
	<Told sentence={query.error?.message ?? ''} />
	<div class="mt-3 flex gap-2">
		<button class="btn" onclick={() => query.refetch()}>Try again</button>
		{#if back}<a class="btn" href={back.href}>{back.name}</a>{/if}
		{#if raw}<a class="btn" href={raw} download>Download what is stored</a>{/if}
	</div>
</div>
