<script lang="ts">
	import { wingOf } from '../wings';
	import { theBench } from './context.svelte';

	const bench = theBench();
	const { Brief } = wingOf(bench.kind);
	const brief = $derived(bench.job.brief);
	const put = (part: object) => bench.change('brief', { ...brief, ...part });
</script>

<div class="grid gap-4">
	<div class="grid grid-cols-2 gap-3">
		<label class="grid gap-1">
			<span class="label">Owner</span>
			<input
				class="field"
				value={brief.owner}
				maxlength="120"
				onchange={(e) => e.currentTarget.value.trim() && put({ owner: e.currentTarget.value })}
			/>
		</label>
		<label class="grid gap-1">
			<span class="label">Wanted by</span>
			<input
				class="field"
				type="date"
				value={brief.due ?? ''}
				onchange={(e) => put({ due: e.currentTarget.value || null })}
			/>
		</label>
	</div>
	<label class="grid gap-1">
		<span class="label">What for</span>
		<textarea
			class="field h-16"
			value={brief.purpose}
			maxlength="4000"
			onchange={(e) => put({ purpose: e.currentTarget.value })}></textarea>
	</label>
	<label class="flex items-center gap-2">
		<input
			type="checkbox"
			class="accent-dye h-5 w-5"
			checked={brief.reversible}
			onchange={(e) => put({ reversible: e.currentTarget.checked })}
		/>
		<span>Must be reversible</span>
	</label>
	<Brief />
</div>
