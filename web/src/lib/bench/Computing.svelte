<script lang="ts">
	import { theBench } from './context.svelte';
	const bench = theBench();
</script>

<!-- In a head of its own place: it lies over the words there, and only where the answer keeps somebody waiting. -->
{#if bench.computing}<span class="waiting" role="status">computing</span>{/if}
