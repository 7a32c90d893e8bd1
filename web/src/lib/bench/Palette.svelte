<script lang="ts">
	import { goto } from '$app/navigation';
	import { Command } from 'bits-ui';
	import type { AxleName } from '../api/client';
	import { kindQuery } from '../queries';
	import { settings } from '../settings.svelte';
	import { stagesOf } from '../stages';
	import Dialog from '../ui/Dialog.svelte';
	import { wingOf } from '../wings';
	import { byWords } from './byWords';
	import { view } from './context.svelte';
	import type { AnyBench } from './jobBench.svelte';

	let { bench }: { bench: AnyBench } = $props();
	const wing = $derived(wingOf(bench.kind));
	const kind = kindQuery(() => bench.kind);
	type Action = { name: string; hint?: string; run: () => unknown };

	async function add(type: string, axle?: AxleName) {
		view.trouble = await bench.begin(type, axle);
		await goto(`/jobs/${bench.job.id}/plan`);
	}
	const actions = $derived<Action[]>([
		...stagesOf(wing).map((s, i) => ({
			name: `Go to ${s.name}`,
			hint: String(i + 1),
			run: () => goto(`/jobs/${bench.job.id}/${s.id}`)
		})),
		...(kind.data?.changes ?? []).flatMap((k) =>
			(k.ends.length > 1 ? k.ends : [undefined]).map((axle) => ({
				name: `Add ${k.title.toLowerCase()}${axle ? `, ${axle}` : ''}`,
				run: () => add(k.type, axle)
			}))
		),
		...(['front', 'rear'] as const).map((axle) => ({
			name: `Ways to a height, ${axle}`,
			run: async () => {
				await goto(`/jobs/${bench.job.id}/plan`);
				view.wanted = { axle, rise: wing.aim(bench.job, axle, bench.prediction) };
			}
		})),
		{ name: 'Print the job card', run: () => open(`/api/jobs/${bench.job.id}/card.pdf`) },
		...wing.prints.map(({ name, file }) => ({
			name: `Print the ${name}`,
			run: () => open(`/api/jobs/${bench.job.id}/${file}`)
		})),
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

<Dialog bind:open={view.palette} title="What next?" note="Type a word, Enter does it.">
	<Command.Root label="Actions" filter={byWords}>
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
</Dialog>
