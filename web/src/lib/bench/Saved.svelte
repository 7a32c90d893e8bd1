<script lang="ts">
	import type { AnyBench } from './jobBench.svelte';
	import { view } from './context.svelte';

	let { bench }: { bench: AnyBench } = $props();
	const words = { saved: 'Saved', waiting: 'Saving…', saving: 'Saving…', unsaved: 'Not saved' };
</script>

<button
	class="btn btn-plain px-2 {bench.saving === 'unsaved' ? 'text-stops' : 'text-quiet'}"
	title={bench.saveTrouble || 'What was saved, when and by whom'}
	onclick={() => (view.history = true)}
	data-testid="saved"
	aria-live="polite"
>
	<svg width="10" height="10" aria-hidden="true">
		{#if bench.saving === 'saved'}<circle cx="5" cy="5" r="4" fill="currentColor" />
		{:else if bench.saving === 'unsaved'}<path d="M1 1l8 8M9 1l-8 8" stroke="currentColor" stroke-width="2" />
		{:else}<circle cx="5" cy="5" r="3.5" fill="none" stroke="currentColor" stroke-width="1.5" />{/if}
	</svg>
	{words[bench.saving]}
</button>
