<script lang="ts">
	import type { Schemas } from '../api/client';
	import { number } from '../format';
	import NumberField from '../ui/NumberField.svelte';
	import Told from '../ui/Told.svelte';
	import type { CardActs } from './cardActs';

	/** Settings read before and after, each beside what the plan moves it by. */
	let {
		rows,
		acts,
		sides = true
	}: { rows: readonly Schemas['SettingRow'][]; acts: CardActs; sides?: boolean } = $props();
	let trouble = $state('');
	/** What was typed, until the card that comes back has it. */
	const typed = $state<Record<string, number>>({});
	const at = (row: Schemas['SettingRow'], when: 'before' | 'after') =>
		[row.key, row.axle, row.side, when].join();
	$effect(() => {
		for (const row of rows)
			for (const when of ['before', 'after'] as const)
				if (row[when] === typed[at(row, when)]) delete typed[at(row, when)];
	});
	const where = (row: Schemas['SettingRow']) => [row.axle, row.side].filter(Boolean).join(' ');
	const planned = (row: Schemas['SettingRow']) =>
		`${number(row.by, row.by % 1 ? 2 : 0, true)} ${row.unit}`.replace(' °', '°');
</script>

<div class="grid max-w-[860px] gap-2" data-testid="settings">
	{#each rows as row (`${row.key}.${row.axle}.${row.side}`)}
		<div
			class="border-rule grid grid-cols-[minmax(76px,auto)_1fr_1fr] items-end gap-x-3 gap-y-1 border-t pt-1.5"
		>
			<p class="col-span-3">
				{#if sides}<strong class="inline-block first-letter:uppercase">{where(row)}.</strong>{/if}
				<span class="inline-block first-letter:uppercase">{row.name}</span>
				{#if row.doubt}<span class="text-fix block font-semibold">{row.doubt}</span>{/if}
			</p>
			<p>
				<span class="text-quiet block text-[13px]">planned</span>
				<span class="figure block py-1 font-bold">{planned(row)}</span>
			</p>
			{#each ['before', 'after'] as const as when (when)}
				<div>
					<span class="text-quiet block text-[13px]">{when}</span>
					<NumberField
						value={typed[at(row, when)] ?? row[when]}
						label="{row.name}, {where(row)}, {when}"
						unit={row.unit}
						min={-2000}
						max={2000}
						onvalue={async (value) => {
							if (value === null) return;
							typed[at(row, when)] = value;
							trouble = await acts.setting(row, { [when]: value });
							if (trouble) delete typed[at(row, when)];
						}}
					/>
				</div>
			{/each}
		</div>
	{/each}
</div>
<Told sentence={trouble} class="mt-1" />
