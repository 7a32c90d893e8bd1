<script lang="ts">
	import { kindQuery } from '../queries';
	import DayField from '../ui/DayField.svelte';
	import DocumentForm from '../ui/DocumentForm.svelte';
	import { fieldOf, nodeOf, type Schema } from '../ui/form';
	import { wingOf } from '../wings';
	import { theBench } from './context.svelte';

	const bench = theBench();
	const { Brief } = wingOf(bench.kind);
	const brief = $derived(bench.job.brief);
	const kind = kindQuery(() => bench.kind);
	const schools = $derived(kind.data && fieldOf(nodeOf(kind.data.brief as Schema), 'schools'));
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
	{#if schools}
		<details>
			<summary class="head cursor-pointer">How this shop does it</summary>
			{#each 'fields' in schools.node ? schools.node.fields : [] as field (field.title)}
				<p class="text-quiet mb-1">{field.title}: {field.help}.</p>
			{/each}
			<DocumentForm
				node={schools.node}
				value={brief.schools ?? {}}
				label="How this shop does it"
				onvalue={(to) => put({ schools: to })}
			/>
		</details>
	{/if}
</div>
