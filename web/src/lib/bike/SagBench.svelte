<script lang="ts">
	import type { Schemas } from '../api/client';
	import { number } from '../format';
	import Offer from '../ui/Offer.svelte';
	import { theBike, type End } from './bikeBench.svelte';

	const bench = theBike();
	const ENDS: End[] = ['rear', 'front'];
	const pm = $derived(bench.prediction?.spread as Record<End, Schemas['SagSpread']> | undefined);
	const sags = $derived(bench.prediction?.sags as Record<End, Schemas['SagBench']> | undefined);
</script>

{#if sags}
	<h2 class="head mt-4 mb-1">Sag bench</h2>
	<div class="grid gap-3">
		{#each ENDS as end (end)}
			{@const b = sags[end]}
			<div class="border-rule border-l-2 pl-2.5" data-bench={end}>
				<p>
					<strong>{end === 'rear' ? 'Rear' : 'Fork'}</strong>: rider on
					<strong class="figure">{number(b.laden_mm, 0)}</strong>
					{#if pm}<span class="figure">± {number(pm[end].laden, 0)}</span>{/if}
					of {number(b.travel_mm, 0)} mm, on its own
					<strong class="figure">{number(b.unladen_mm, 0)}</strong>{#if pm}<span class="figure"
							>{` ± ${number(pm[end].unladen, 0)}`}</span
						>{/if}; wanted
					{number(b.window.laden_low * b.travel_mm, 0)} to {number(b.window.laden_high * b.travel_mm, 0)} and
					{number(b.window.unladen_low * b.travel_mm, 0)} to {number(b.window.unladen_high * b.travel_mm, 0)}.
				</p>
				<p>
					{#if b.preload_mm !== null}Preload <strong class="figure">{number(b.preload_mm, 1)} mm</strong
						>{#if b.preload_for_target_mm !== null}, for {number(b.target_mm, 0)} mm of sag
							<strong class="figure">{number(b.preload_for_target_mm, 1)} mm</strong
							>{#if b.spacer_for_target_mm !== null}{`, spacers ${number(b.spacer_for_target_mm, 1)} mm`}{/if}{/if}.{/if}
					<span class="font-semibold {b.verdict === 'right' ? 'text-good' : 'text-fix'}"
						>{b.verdict === 'right'
							? '✓ The rate suits.'
							: b.verdict === 'nobody rides it'
								? 'Nobody rides it yet.'
								: `Rate: ${b.verdict}.`}</span
					>
					<span class="text-quiet">{b.why}</span>
				</p>
				<table class="mt-1 w-full">
					<tbody>
						<tr
							><td class="label">Spring by sag</td><td class="figure text-right font-bold"
								>{b.rate_by_sag === null ? '–' : `${number(b.rate_by_sag, 1)} N/mm`}</td
							><td class="label pl-4">by frequency, {number(b.window.frequency_hz, 1)} Hz</td><td
								class="figure text-right font-bold"
								>{b.rate_by_frequency === null ? '–' : `${number(b.rate_by_frequency, 1)} N/mm`}</td
							><td class="text-quiet pl-4 text-right"
								>now {number(b.frequency_hz, 2)} Hz, {number(
									end === 'rear'
										? (bench.prediction?.planned.wheel_rate_rear ?? 0)
										: (bench.prediction?.planned.wheel_rate_front ?? 0),
									1
								)} N/mm at the wheel</td
							></tr
						>
					</tbody>
				</table>
				{#if b.softer || b.stiffer}
					<table class="mt-1 w-full">
						<thead
							><tr class="label text-right"
								><th class="text-left">Nearest on the shelf</th><th>preload</th><th>on its own</th><th
									>rider on</th
								><td></td></tr
							></thead
						>
						<tbody>
							{#each [['softer', b.softer], ['stiffer', b.stiffer]] as const as [which, c] (which)}
								{@const fit = bench.prediction?.shelf[which]}
								{#if c}
									<tr class="border-rule figure border-t text-right">
										<td class="py-0.5 text-left font-sans"
											>{c.part} <strong class="figure">{number(c.rate_n_per_mm, 0)}</strong> N/mm · {c.on_shelf}</td
										>
										<td class={c.preload_possible ? '' : 'text-stops'}>{number(c.preload_mm, 1)}</td>
										<td>{number(c.unladen_sag_mm, 0)}</td>
										<td>{number(c.laden_sag_mm, 0)} {c.within ? '✓' : ''}</td>
										<td
											>{#if fit}<Offer
													of={bench}
													class="min-h-7 px-2 text-[13px]"
													onclick={() => bench.plan(fit.changes)}
													aria-label="Fit {c.part}">fit</Offer
												>{/if}</td
										>
									</tr>
								{/if}
							{/each}
						</tbody>
					</table>
				{/if}
			</div>
		{/each}
	</div>
{/if}
