<script lang="ts">
	let {
		list,
		shown,
		total,
		what
	}: {
		list: { hasNextPage: boolean; isFetchingNextPage: boolean; fetchNextPage: () => unknown };
		shown: number;
		total: number;
		/** What is listed, in the plural. */
		what: string;
	} = $props();
</script>

{#if list.hasNextPage}
	<div class="flex items-center gap-3 py-2">
		<button class="btn" onclick={() => list.fetchNextPage()} disabled={list.isFetchingNextPage}>
			{list.isFetchingNextPage ? 'Fetching…' : 'Show more'}
		</button>
		<span class="text-quiet">{shown} of {total} {what}</span>
	</div>
{/if}
