<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { view } from '../bench/context.svelte';
	import { theCar } from './carBench.svelte';
	import SideElevation from './SideElevation.svelte';

	const bench = theCar();
</script>

{#if bench.prediction}
	<SideElevation
		prediction={bench.prediction}
		job={bench.job}
		bind:axle={view.axle}
		reach={view.reach}
		onreach={(axle, rise) => {
			view.reach = { axle, rise };
			if (page.params.stage !== 'plan') void goto(`/jobs/${bench.job.id}/plan`);
		}}
	/>
{/if}
