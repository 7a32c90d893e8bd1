<script lang="ts">
	import type { Schemas } from '../api/client';
	import { number } from '../format';
	import EntryField from '../ui/EntryField.svelte';
	import Told from '../ui/Told.svelte';

	let {
		fit,
		readings,
		keep,
		onread,
		onplace
	}: {
		fit: Schemas['BikeFit'];
		/** What was read, by key. */
		readings: Map<string, Schemas['Length']>;
		keep: string;
		/** A reading, or undefined where it is taken back. */
		onread: (key: string, reading: Schemas['Length'] | undefined) => void;
		/** The points between which the field in hand is read. */
		onplace: (points: string[]) => void;
	} = $props();
	const next = $derived(fit.rows.find((row) => row.key === fit.next[0]));
</script>

<p class="text-quiet mb-1">
	Hole to hole by calliper, heights with the wheels hanging just clear. Each reading moves the drawing; the
	dotted line shows where it goes.
</p>
<p class="mb-1">
	Leverage is known to <strong class="figure text-base">± {number(fit.ratio_percent, 1)} %</strong>.
	{#if next}<span class="label">Measure next</span> <span class="font-semibold">{next.title}</span>{/if}
</p>
{#each fit.misses as miss, n (n)}
	<Told sentence={miss} class="mb-2" />
{/each}
<table class="w-full">
	<thead
		><tr class="label text-left"
			><th class="font-semibold">{readings.size} of {fit.rows.length} read</th><th class="w-[104px]"
				>reading</th
			><th class="w-[86px] text-right">drawing</th></tr
		></thead
	>
	<tbody>
		{#each fit.rows as row (row.key)}
			<tr
				class="border-rule border-t align-top"
				data-place={row.key}
				onfocusin={() => onplace([...row.points])}
			>
				<td class="py-1 pr-2 leading-tight">
					{row.title}
					{#if fit.next.includes(row.key)}<span class="text-dye text-[13px] font-bold whitespace-nowrap"
							>&nbsp;{fit.next.indexOf(row.key) + 1}. next</span
						>{/if}
				</td>
				<td class="py-1">
					<EntryField
						entry={readings.get(row.key)}
						label={row.title}
						keep="{keep}.{row.key}"
						onentry={(entry) => onread(row.key, entry)}
					/>
				</td>
				<td class="figure py-1.5 text-right"
					>{number(row.fitted, 1)}{#if row.residual !== null && Math.abs(row.residual) >= 0.3}<span
							class="text-quiet block text-[13px]">off {number(row.residual, 1, true)}</span
						>{/if}</td
				>
			</tr>
		{/each}
	</tbody>
</table>
