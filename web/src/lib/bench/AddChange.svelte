<script lang="ts">
	import { Command } from 'bits-ui';
	import { api, ask, type AxleName, type Schemas } from '../api/client';
	import { kindQuery } from '../queries';
	import Dialog from '../ui/Dialog.svelte';
	import Told from '../ui/Told.svelte';
	import { byWords } from './byWords';
	import type { AnyBench } from './jobBench.svelte';
	import { Latest } from './latest';

	/** Every change there is, grouped by where it sits, found by any name; what does not go there says why. */
	let {
		open = $bindable(),
		axle = $bindable(),
		bench,
		onadd
	}: {
		open: boolean;
		axle: AxleName;
		bench: AnyBench;
		onadd: (type: string, axle?: AxleName) => void;
	} = $props();

	const kind = kindQuery(() => bench.kind);
	let offers = $state.raw<Schemas['Offer'][]>([]);
	let trouble = $state('');
	// The stack may grow while it is asked: what is on offer is always that of the newest.
	const asking = new Latest(
		(job: AnyBench['job']) => ask(api.POST('/api/changes/offer', { body: { job: job as never } })),
		(asked) => {
			trouble = asked.trouble;
			offers = asked.data ?? [];
		}
	);
	$effect(() => {
		if (open) asking.wish(bench.job);
	});

	type Row = Schemas['ChangeKind'] & { at?: AxleName; refused: string };
	const ends = $derived((kind.data?.changes ?? []).some((k) => k.ends.length > 1));
	const rows = $derived<Row[]>(
		(kind.data?.changes ?? []).map((k) => {
			const at = k.ends.length > 1 ? axle : undefined;
			const offer = offers.find((o) => o.type === k.type && (o.axle ?? undefined) === at);
			return { ...k, at, refused: offer?.refused ?? '' };
		})
	);
	const places = $derived([...new Set(rows.map((r) => r.place))]);
	const there = (place: string) => rows.filter((r) => r.place === place && !r.refused);
	const refused = $derived(rows.filter((r) => r.refused));
	/** By its title, or by any other name it goes by. */
	const byNames = (title: string, typed: string, others: string[] = []) =>
		Math.max(byWords(title, typed), ...others.map((name) => 0.9 * byWords(name, typed)));
	function add(row: Row) {
		open = false;
		onadd(row.type, row.at);
	}
</script>

<Dialog bind:open title="Add a change" wide>
	<Command.Root label="Changes" class="grid gap-2" filter={byNames}>
		<div class="flex gap-2">
			<Command.Input
				data-first-focus
				class="field flex-1"
				placeholder="name it as you know it: ring, lift block, camber bolt…"
			/>
			{#if ends}
				<div class="flex gap-1" role="group" aria-label="Axle">
					{#each ['front', 'rear'] as const as name (name)}
						<button
							class="min-h-9 rounded-[3px] px-3 font-semibold capitalize {axle === name
								? 'bg-dye text-on-dye'
								: 'btn'}"
							aria-pressed={axle === name}
							onclick={() => (axle = name)}>{name}</button
						>
					{/each}
				</div>
			{/if}
		</div>
		<Told sentence={trouble} />
		<Command.List class="max-h-[60vh] overflow-y-auto">
			<Command.Viewport>
				<Command.Empty class="text-quiet p-2">
					Nothing by that name. What nothing here computes goes in as a stated change.
				</Command.Empty>
				{#each places as place (place)}
					{#if there(place).length}
						<Command.Group>
							<Command.GroupHeading class="head border-rule mt-2 border-b px-2 pb-0.5"
								>{place}</Command.GroupHeading
							>
							<Command.GroupItems>
								{#each there(place) as row (row.type)}
									<Command.Item
										class="data-selected:bg-wash grid cursor-pointer grid-cols-[minmax(0,1fr)_minmax(0,1.25fr)] items-baseline gap-4 rounded-[3px] px-2 py-1.5"
										value={row.title}
										keywords={row.known_as}
										onSelect={() => add(row)}
									>
										<span class="font-semibold">{row.title}</span>
										<span class="text-quiet text-sm">{row.costs}</span>
									</Command.Item>
								{/each}
							</Command.GroupItems>
						</Command.Group>
					{/if}
				{/each}
				{#if refused.length}
					<Command.Group>
						<Command.GroupHeading class="head border-rule mt-3 border-b px-2 pb-0.5"
							>Not on this {ends ? 'axle' : 'machine'}</Command.GroupHeading
						>
						<Command.GroupItems>
							{#each refused as row (row.type)}
								<Command.Item
									class="text-quiet grid grid-cols-[minmax(0,1fr)_minmax(0,1.25fr)] items-baseline gap-4 px-2 py-1"
									value={row.title}
									keywords={row.known_as}
									disabled
								>
									<span>{row.title}</span>
									<span class="text-sm">{row.refused}</span>
								</Command.Item>
							{/each}
						</Command.GroupItems>
					</Command.Group>
				{/if}
			</Command.Viewport>
		</Command.List>
	</Command.Root>
</Dialog>
