<script lang="ts">
	import { goto } from '$app/navigation';
	import { Command } from 'bits-ui';
	import { api, sentence } from '../api/client';
	import { changeKindsQuery } from '../queries';
	import { settings } from '../settings.svelte';
	import { STAGES } from '../stages';
	import Sheet from '../ui/Sheet.svelte';
	import type { Bench } from './bench.svelte';
	import { view } from './context.svelte';

	let { bench }: { bench: Bench } = $props();
	const kinds = changeKindsQuery();
	type Action = { name: string; hint?: string; run: () => unknown };

	async function add(type: string, axle: 'front' | 'rear') {
		const { data, error } = await api.POST('/api/changes/begin', { body: { job: bench.job, type, axle } });
		view.trouble = data ? '' : sentence(error);
		if (data) bench.change('plan', { ...bench.job.plan, changes: [...bench.job.plan.changes, data] });
		await goto(`/jobs/${bench.job.id}/plan`);
	}
	const actions = $derived<Action[]>([
		...STAGES.map((s, i) => ({
			name: `Go to ${s.name}`,
			hint: String(i + 1),
			run: () => goto(`/jobs/${bench.job.id}/${s.id}`)
		})),
		...(kinds.data ?? []).flatMap((k) =>
			(['front', 'rear'] as const).map((axle) => ({
				name: `Add ${k.title.toLowerCase()}, ${axle}`,
				run: () => add(k.type, axle)
			}))
		),
		{ name: 'Print the job card', run: () => open(`/api/jobs/${bench.job.id}/card.pdf`) },
		{ name: 'Print the alignment sheet', run: () => open(`/api/jobs/${bench.job.id}/alignment.pdf`) },
		{ name: 'Copy the job out as a file', run: () => open(`/api/jobs/${bench.job.id}/file`) },
		{ name: 'History of this job', run: () => (view.history = true) },
		{ name: 'Millimetres or inches', hint: 'U', run: () => settings.toggleUnits() },
		{ name: 'Light or dark', run: () => settings.toggleTheme() },
		{ name: 'All jobs', run: () => goto('/') }
	]);
	function run(action: Action) {
		view.palette = false;
		void bench.flush().then(() => action.run());
	}
</script>

<Sheet bind:open={view.palette} title="What next?" note="Type a word, Enter does it.">
	<Command.Root label="Actions">
		<Command.Input data-first-focus class="field mb-2" placeholder="spacer, card, inches…" />
		<Command.List class="max-h-[46vh] overflow-y-auto">
			<Command.Viewport>
				<Command.Empty class="text-quiet p-2">Nothing by that name.</Command.Empty>
				{#each actions as action (action.name)}
					<Command.Item
						class="data-selected:bg-wash flex cursor-pointer justify-between rounded-[3px] px-2 py-1.5"
						value={action.name}
						onSelect={() => run(action)}
					>
						{action.name}<span class="figure text-quiet">{action.hint ?? ''}</span>
					</Command.Item>
				{/each}
			</Command.Viewport>
		</Command.List>
	</Command.Root>
</Sheet>
