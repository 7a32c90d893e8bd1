<script lang="ts">
	import type { AnyBench } from './jobBench.svelte';
	import { outbox } from './outbox.svelte';
	import { standing } from '../ui/unread.svelte';
	import { view } from './context.svelte';

	let { bench }: { bench: AnyBench } = $props();
	/** A text that nobody has read yet, or a tick on its way, is not saved, whatever became of the rest. */
	const saving = $derived(
		outbox.trouble && bench.acts.length ? 'unsaved' : standing(bench.saving, bench.acts)
	);
	const words = { saved: 'Saved', waiting: 'Saving…', saving: 'Saving…', unsaved: 'Not saved' };
</script>

<button
	class="btn btn-plain px-2 {saving === 'unsaved' ? 'text-stops' : 'text-quiet'}"
	title={bench.saveTrouble || 'What was saved, when and by whom'}
	onclick={() => (view.history = true)}
	data-testid="saved"
	aria-live="polite"
>
	<svg width="10" height="10" aria-hidden="true">
		{#if saving === 'saved'}<circle cx="5" cy="5" r="4" fill="currentColor" />
		{:else if saving === 'unsaved'}<path d="M1 1l8 8M9 1l-8 8" stroke="currentColor" stroke-width="2" />
		{:else}<circle cx="5" cy="5" r="3.5" fill="none" stroke="currentColor" stroke-width="1.5" />{/if}
	</svg>
	{words[saving]}
</button>
