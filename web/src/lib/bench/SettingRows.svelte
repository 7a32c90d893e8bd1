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

<table class="w-full max-w-[860px]" data-testid="settings">
	<thead>
		<tr class="text-quiet text-left text-[13px]">
			<th class="font-normal">Setting</th>
			<th class="w-24 text-right font-normal">planned</th>
			<th class="w-30 pl-3 font-normal">before</th>
			<th class="w-30 pl-3 font-normal">after</th>
		</tr>
	</thead>
	<tbody>
		{#each rows as row (`${row.key}.${row.axle}.${row.side}`)}
			<tr class="border-rule border-t align-top">
				<td class="py-1.5">
					{#if sides}<strong class="inline-block first-letter:uppercase">{where(row)}.</strong>{/if}
					<span class="inline-block first-letter:uppercase">{row.name}</span>
					{#if row.doubt}<p class="text-fix font-semibold">{row.doubt}</p>{/if}
				</td>
				<td class="figure py-1.5 text-right font-bold">{planned(row)}</td>
				{#each ['before', 'after'] as const as when (when)}
					<td class="py-1 pl-3">
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
					</td>
				{/each}
			</tr>
		{/each}
	</tbody>
</table>
<Told sentence={trouble} class="mt-1" />
