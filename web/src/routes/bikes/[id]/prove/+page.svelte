<script lang="ts">
	import { api, sentence, type Schemas } from '$lib/api/client';
	import { Latest } from '$lib/bench/latest';
	import SignedOff from '$lib/bench/SignedOff.svelte';
	import { theBike, type BikeJob, type End } from '$lib/bike/bikeBench.svelte';
	import SagReadings from '$lib/bike/SagReadings.svelte';
	import { number } from '$lib/format';
	import EntryField from '$lib/ui/EntryField.svelte';

	const bench = theBike();
	const after = $derived(bench.job.prove.after ?? { default_tolerance_mm: 1, note: '' });
	const signed = $derived(bench.job.prove.sign_off);
	let proof = $state.raw<Schemas['BikeProof']>();
	let note = $state('');
	let trouble = $state('');
	/** Why the readings cannot be compared. */
	let unproved = $state('');
	const proving = new Latest(
		(job: BikeJob) => api.POST('/api/bike/prove', { body: job }),
		({ data, error }) => {
			if (data) proof = data;
			unproved = data ? '' : sentence(error);
		}
	);
	$effect(() => proving.wish(bench.job));
	const put = (to: Schemas['BikeMeasurements']) => bench.change('prove', { ...bench.job.prove, after: to });

	function beside(end: End, state: 'unladen' | 'laden'): string {
		const is = proof?.sags.find((s) => s.end === end && s.state === state);
		if (is) return `${is.within ? '✓' : '✗'} ${number(is.residual, 0, true)} of ±${number(is.plus_minus, 0)}`;
		const bar = bench.prediction?.sags[end];
		return bar ? `should be ${number(state === 'laden' ? bar.laden_mm : bar.unladen_mm, 0)}` : '';
	}
	const withdraw = (reason: string) =>
		bench.stamp('prove', (version) =>
			api.POST('/api/jobs/{job_id}/sign-off/withdraw', {
				params: { path: { job_id: bench.job.id } },
				body: { version, reason }
			})
		);
	async function sign() {
		trouble = await bench.stamp('prove', (version) =>
			api.POST('/api/jobs/{job_id}/sign-off', {
				params: { path: { job_id: bench.job.id } },
				body: { version, note }
			})
		);
	}
	const verdicts = {
		'nothing measured': ['Nothing measured yet', 'text-quiet'],
		within: ['As predicted', 'text-good'],
		outside: ['Something is off', 'text-stops']
	} as const;
</script>

<div class="mb-2 flex items-baseline justify-between">
	<h2 class="head">Measured after</h2>
	{#if proof}<span class="text-base font-bold {verdicts[proof.verdict][1]}" data-testid="verdict"
			>{verdicts[proof.verdict][0]}</span
		>{/if}
</div>
{#if unproved}<p class="border-stops text-stops mb-2 border-l-4 pl-2 font-semibold" role="alert">
		{unproved}
	</p>{/if}
<p class="text-quiet mb-2">
	Same marks, same rider, same kit. Bounce at both ends first; ride a length and measure again.
</p>
<fieldset disabled={!!signed}>
	<legend class="sr-only">Readings after</legend>
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
			{#if proof}<p class="text-quiet figure text-[11px]">should be {number(proof.seat_predicted, 0)}</p>{/if}
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
</fieldset>
<div class="border-rule mt-5 border-t pt-3">
	{#if signed}
		<SignedOff {signed} onwithdraw={withdraw} />
	{:else}
		<label class="grid gap-1">
			<span class="label">Word for the file</span>
			<input class="field" bind:value={note} maxlength="4000" />
		</label>
		<button class="btn btn-dye mt-2" onclick={sign}>Sign the job off</button>
	{/if}
	{#if trouble}<p class="text-stops mt-2 font-semibold" role="alert">{trouble}</p>{/if}
</div>
