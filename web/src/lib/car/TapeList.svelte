<script lang="ts">
	import { number } from '../format';
	import EntryField from '../ui/EntryField.svelte';
	import type { Schemas } from '../api/client';
	import type { Axle, AxleBench, TapeAt } from './axlesBench.svelte';
	import Told from '../ui/Told.svelte';

	let {
		bench,
		axle,
		keep,
		onaxle,
		onplace
	}: {
		bench: AxleBench;
		axle: Axle;
		keep: string;
		onaxle: (axle: Axle) => void;
		/** The place whose field has the focus: the drawing shows where the tape goes. */
		onplace: (place: TapeAt) => void;
	} = $props();

	const readings = $derived(new Map(axle.tape?.map((t) => [t.key, t])));
	const next = $derived(new Map(bench.fit.next.map((n, i) => [n.key, { ...n, rank: i + 1 }])));
	const misses = $derived(new Map(bench.fit.misses.map((m) => [m.key, m.sentence])));
	const taken = $derived(axle.tape?.length ?? 0);

	function put(row: Schemas['TapeRow'], entry: Schemas['Length'] | undefined) {
		const others = (axle.tape ?? []).filter((t) => t.key !== row.key);
		const reading = entry && (row.angle ? { key: row.key, angle: entry } : { key: row.key, length: entry });
		onaxle({ ...axle, tape: reading ? [...others, reading] : others } as Axle);
	}
</script>

<p class="text-quiet mb-2">
	Heights from the floor at ride height, tyres loaded. Each reading moves the drawing; the dotted line shows
	where the tape goes. Leave out what cannot be reached.
</p>
<div class="border-rule mb-3 grid grid-cols-3 gap-2 border-y py-2" data-testid="consequences">
	{#each bench.fit.consequences as c (c.name)}
		<div>
			<span class="label block first-letter:uppercase">{c.name}, 40 mm up</span>
			<span class="figure text-lg font-bold">± {number(c.plus_minus, c.plus_minus < 10 ? 1 : 0)}</span>
			<span class="text-quiet">{c.unit}</span>
		</div>
	{/each}
</div>
{#each bench.fit.misses as m (m.key)}
	<Told sentence={m.sentence} class="mb-2" />
{/each}
{#if (bench.fit.next[0]?.worth ?? 0) < 0.02}
	<p class="text-quiet mb-2">What is left to read changes the prediction little.</p>
{:else}
	<p class="mb-2">
		<span class="label">Measure next</span>
		<span class="font-semibold">{bench.fit.next[0]?.title}</span>
		<span class="text-quiet">
			(takes {number(Math.min(100, 100 * (bench.fit.next[0]?.worth ?? 0)), 0)} % off what is uncertain)</span
		>
	</p>
{/if}
<table class="w-full">
	<thead>
		<tr class="label text-left"
			><th class="font-semibold">{taken} of {bench.fit.rows.length} read</th><th class="w-[104px]">reading</th
			><th class="w-[86px] text-right">drawing</th></tr
		>
	</thead>
	<tbody>
		{#each bench.fit.rows as row (row.key)}
			{@const reading = readings.get(row.key)}
			<tr class="border-rule border-t align-top" data-place={row.key} onfocusin={() => onplace(row)}>
				<td class="py-1 pr-2 leading-tight">
					{row.title}
					{#if next.has(row.key)}<span class="text-dye text-[13px] font-bold whitespace-nowrap"
							>&nbsp;{next.get(row.key)?.rank}. next</span
						>{/if}
				</td>
				<td class="py-1">
					<EntryField
						entry={(reading?.length ?? reading?.angle) as Schemas['Length'] | undefined}
						label={row.title}
						kind={row.angle ? 'angle' : 'length'}
						keep="{keep}:{row.key}"
						question={misses.has(row.key) ? '!' : ''}
						onentry={(entry) => put(row, entry)}
					/>
				</td>
				<td class="figure py-1.5 text-right">
					{number(row.fitted, row.angle ? 1 : 0)}{row.angle ? '°' : ''}
					{#if row.residual !== null && Math.abs(row.residual) >= 0.5}<span
							class="block text-[13px] {misses.has(row.key) ? 'text-stops font-bold' : 'text-quiet'}"
							>off {number(row.residual, row.angle ? 1 : 0, true)}</span
						>{/if}
				</td>
			</tr>
		{/each}
	</tbody>
</table>
