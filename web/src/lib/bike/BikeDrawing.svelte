<script lang="ts">
	import { page } from '$app/state';
	import { theBike } from './bikeBench.svelte';
	import BikeElevation from './BikeElevation.svelte';

	const bench = theBike();
</script>

{#if bench.prediction}
	<BikeElevation
		prediction={bench.prediction}
		job={bench.job}
		rear={bench.machine.rear}
		onsag={(end, sag) => bench.setSag(end, sag)}
		onlook={(condition) => bench.look(condition)}
		onpoint={page.params.stage === 'measure' ? (name, to) => bench.movePoint(name, to) : undefined}
	/>
{/if}
