<script lang="ts">
	import type { Schemas } from '../api/client';
	import { number } from '../format';
	import EntryField from '../ui/EntryField.svelte';
	import { theBike, type End } from './bikeBench.svelte';
	import SagReadings from './SagReadings.svelte';

	let { proof }: { proof: Schemas['BikeProof'] | undefined } = $props();
	const bench = theBike();
	const after = $derived(bench.job.prove.after ?? { default_tolerance_mm: 1, note: '' });
	const put = (to: Schemas['BikeMeasurements']) => bench.change('prove', { ...bench.job.prove, after: to });

	function beside(end: End, state: 'unladen' | 'laden'): string {
		const is = proof?.sags.find((s) => s.end === end && s.state === state);
		if (is) return `${is.within ? '✓' : '✗'} ${number(is.residual, 0, true)} of ±${number(is.plus_minus, 0)}`;
		const bar = bench.prediction?.sags[end];
		return bar ? `should be ${number(state === 'laden' ? bar.laden_mm : bar.unladen_mm, 0)}` : '';
	}
</script>

<SagReadings readings={after} keep="{bench.job.id}.after" {beside} onreadings={put} />
<div class="mt-3 grid grid-cols-3 gap-3">
	<div>
		<span class="label block">Seat above the ground, on its own</span>
		<EntryField
			entry={after.seat as Schemas['Length'] | undefined}
			label="Seat height after"
			keep="{bench.job.id}.seat-after"
			onentry={(entry) => put({ ...after, seat: entry ?? null })}
		/>
		{#if proof}<p class="text-quiet figure text-[13px]" data-testid="seat-proof">
				{#if proof.seat_within !== null}<span class={proof.seat_within ? 'text-good' : 'text-stops'}
						>{proof.seat_within ? '✓' : '✗'}</span
					>{/if}
				should be {number(proof.seat_predicted, 0)} ±{number(proof.seat_plus_minus, 0)}
			</p>{/if}
	</div>
	{#if proof?.rear_drop}
		<div class="col-span-2">
			<span class="label block">The rear came down, rider on, by its mark</span>
			<span class="figure text-[26px] font-bold">{number(proof.rear_drop.after, 0, true)}</span> mm
			<span class={proof.rear_drop.within ? 'text-good' : 'text-stops'}
				>{proof.rear_drop.within ? '✓' : '✗'} planned {number(proof.rear_drop.predicted, 0, true)} ±{number(
					proof.rear_drop.plus_minus,
					0
				)}</span
			>
		</div>
	{/if}
</div>
