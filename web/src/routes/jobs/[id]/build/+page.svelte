<script lang="ts">
	import BuildStage from '$lib/bench/BuildStage.svelte';
	import { theBench } from '$lib/bench/context.svelte';

	const bench = theBench();
</script>

<BuildStage {bench} />
