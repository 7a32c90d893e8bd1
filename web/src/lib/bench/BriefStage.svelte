<script lang="ts">
	import DayField from '../ui/DayField.svelte';
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
		<DayField label="Wanted by" value={brief.due ?? null} onvalue={(due) => put({ due })} />
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
