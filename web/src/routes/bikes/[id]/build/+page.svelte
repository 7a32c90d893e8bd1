<script lang="ts">
	import BuildStage from '$lib/bench/BuildStage.svelte';
	import { theBike } from '$lib/bike/bikeBench.svelte';

	const bench = theBike();
</script>

<BuildStage {bench} />
