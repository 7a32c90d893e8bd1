<script lang="ts">
	import { page } from '$app/state';
	import BriefStage from '$lib/bench/BriefStage.svelte';
	import BuildStage from '$lib/bench/BuildStage.svelte';
	import { theBench } from '$lib/bench/context.svelte';
	import PlanStage from '$lib/bench/PlanStage.svelte';
	import ProveStage from '$lib/bench/ProveStage.svelte';
	import { wingOf } from '$lib/wings';

	const wing = wingOf(theBench().kind);
	const Stage = $derived(
		{
			brief: BriefStage,
			measure: wing.Measure,
			plan: PlanStage,
			align: wing.Align,
			build: BuildStage,
			prove: ProveStage
		}[page.params.stage as 'brief']
	);
</script>

<Stage />
