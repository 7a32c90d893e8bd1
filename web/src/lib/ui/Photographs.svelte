<script lang="ts">
	import { photoAt } from '../bench/photo';

	/** Photographs to look at, each opened whole with a press. */
	let { ids, of, large = false }: { ids: readonly string[]; of: string; large?: boolean } = $props();
</script>

{#if ids.length}
	<div class="my-1 flex flex-wrap gap-2">
		{#each ids as id, n (id)}
			<a href={photoAt(id)} target="_blank" rel="noreferrer"
				><img
					src={photoAt(id)}
					alt="Photograph {n + 1}: {of}"
					class="border-rule border {large ? 'h-40' : 'h-20'}"
					loading="lazy"
				/></a
			>
		{/each}
	</div>
{/if}
