<script lang="ts">
	import type { Schemas } from '../api/client';
	import Severity from '../ui/Severity.svelte';

	/** Away from the plan: whether it is stopped, and the worst of what was found, in one line. */
	let {
		prediction,
		plan
	}: {
		prediction: {
			findings: Pick<Schemas['Finding'], 'id' | 'severity' | 'what'>[];
			unmeasured: string[];
			stopped: boolean;
		};
		/** Address of the plan. */
		plan: string;
	} = $props();
	const worst = $derived(prediction.findings[0]);
	const more = $derived(prediction.findings.length - 1);
</script>

<section class="panel flex items-center gap-3 px-3 py-1.5" aria-label="Findings">
	<h2 class="sr-only">Findings</h2>
	{#if prediction.stopped}<span class="text-stops text-[26px] leading-8 font-bold">Stopped</span>{/if}
	{#if worst}
		<span class="flex min-w-0 flex-1 items-center gap-2" data-finding={worst.id}>
			<Severity severity={worst.severity} />
			<span class="truncate font-semibold" title={worst.what}>{worst.what}</span>
		</span>
		<a class="btn min-h-7 shrink-0" href={plan}>{more > 0 ? `and ${more} more` : 'look at it'}</a>
	{:else}
		<span class="text-quiet"
			>{prediction.unmeasured.length
				? 'Nothing found; not everything was measured.'
				: 'Nothing in the way of the plan.'}</span
		>
	{/if}
</section>
