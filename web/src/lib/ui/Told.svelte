<script lang="ts">
	import type { Snippet } from 'svelte';

	/** What is wrong, in a sentence, wherever it is told. */
	let {
		sentence,
		class: more = '',
		children
	}: { sentence: string; class?: string; children?: Snippet } = $props();
</script>

{#if sentence}
	<div class="bg-chalk border-stops border-l-4 py-0.5 pl-2.5 {more}" role="alert">
		<p class="text-stops font-semibold break-words">{sentence}</p>
		{@render children?.()}
	</div>
{/if}
