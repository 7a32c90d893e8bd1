<script lang="ts">
	import { outcomesQuery } from '../queries';
	import Told from '../ui/Told.svelte';
	import { theBench } from './context.svelte';
	import type { OtherPlan } from './otherPlan.svelte';

	/** Which other job of this vehicle is drawn as a ghost; nothing where it has no other. */
	let { other }: { other: OtherPlan<unknown> } = $props();
	const bench = theBench();
	const known = outcomesQuery(
		() => bench.job.id,
		() => `${bench.versions.prove}.${bench.versions.plan}`
	);
	const others = $derived((known.data ?? []).filter((o) => o.id !== bench.job.id));
</script>

{#if others.length}
	<select
		class="field w-auto max-w-[210px] min-h-7 py-0 text-[13px] {other.id ? 'text-dye font-semibold' : ''}"
		aria-label="Beside the plan of another job"
		value={other.id}
		onchange={(e) => void other.choose(e.currentTarget.value)}
	>
		<option value="">beside no other plan</option>
		{#each others as o (o.id)}<option value={o.id}>{o.title}</option>{/each}
	</select>
	<Told sentence={other.trouble} class="text-[13px]" />
{/if}
