<script lang="ts">
	import { api, sentence, type AxleName, type Job, type Schemas } from '$lib/api/client';
	import { theBench } from '$lib/bench/context.svelte';
	import { Latest } from '$lib/bench/latest';
	import Readings from '$lib/bench/Readings.svelte';
	import SignedOff from '$lib/bench/SignedOff.svelte';
	import { day, length, number } from '$lib/format';
	import { outcomesQuery } from '$lib/queries';
	import { settings } from '$lib/settings.svelte';

	const bench = theBench();
	const after = $derived(bench.job.prove.after);
	const vehicle = $derived(bench.job.vehicle);
	const signed = $derived(bench.job.prove.sign_off);
	let proof = $state.raw<Schemas['Proof']>();
	let note = $state('');
	let trouble = $state('');
	/** Why the readings cannot be compared. */
	let unproved = $state('');
	const others = outcomesQuery(
		() => bench.job.id,
		() => `${bench.versions.prove}.${bench.versions.plan}`
	);
	const proving = new Latest(
		(job: Job) => api.POST('/api/prove', { body: job }),
		({ data, error }) => {
			if (data) proof = data;
			unproved = data ? '' : sentence(error);
		}
	);
	$effect(() => proving.wish(bench.job));

	const asked = $derived({
		front: Object.keys(vehicle.front.targets),
		rear: Object.keys(vehicle.rear.targets)
	}) as Record<AxleName, Schemas['AngleReading']['angle'][]>;
	const measuredStations = $derived([...new Set(bench.job.measure.stations.map((s) => s.station))]);

	function beside(where: {
		axle?: AxleName;
		station?: string;
		side: 'left' | 'right';
		angle?: string;
	}): string {
		const sure = (value: number) => length(value, settings.units);
		if (where.angle && where.axle) {
			const target = vehicle[where.axle].targets[where.angle as 'camber'];
			const is = proof?.angles.find(
				(a) => a.axle === where.axle && a.side === where.side && a.angle === where.angle
			);
			return target
				? `${!is || is.within === null ? '' : is.within ? '✓ ' : '✗ '}${number(target.target_deg, 2, true)} ${target.assumed ? 'usual' : `±${number(target.window_deg, 2)}`}`
				: '';
		}
		const is = proof?.heights.find((h) =>
			where.station
				? h.label === where.station && h.side === where.side
				: h.axle === where.axle && h.side === where.side
		);
		if (is)
			return `${is.within ? '✓' : '✗'} ${length(is.residual, settings.units, { signed: true })} of ±${sure(is.plus_minus)}`;
		const row = bench.prediction?.heights.find((h) =>
			where.station
				? h.label === where.station && h.side === where.side
				: h.axle === where.axle && h.side === where.side && h.kind === 'hub_to_arch'
		);
		return row ? `${sure(row.after)} ±${sure(row.plus_minus)}` : '';
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
		within: ['As predicted, both sides even', 'text-good'],
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
	Bounce, roll a length, let it settle; same load, same reference. Under each field: what it should read.
</p>
<fieldset disabled={!!signed}>
	<legend class="sr-only">Readings after</legend>
	<Readings
		readings={after}
		quantities={[{ id: 'hub_to_arch', name: 'Hub to arch' }]}
		stations={measuredStations}
		angleSides={asked}
		keep="{bench.job.id}.prove"
		questions={proof?.questions}
		{beside}
		onreadings={(readings) => bench.change('prove', { ...bench.job.prove, after: readings })}
	/>
</fieldset>
{#each proof?.sides ?? [] as side (side.axle)}
	<p class="mt-1 {side.even ? '' : 'text-fix font-semibold'}">
		<span class="capitalize">{side.axle}</span>: left less right
		<span class="figure font-bold"
			>{length(side.after, settings.units, { signed: true })} {settings.units}</span
		>{#if side.before !== null}<span class="text-quiet"
				>, was <span class="figure">{length(side.before, settings.units, { signed: true })}</span></span
			>{/if}
		{side.advice && `: ${side.advice}`}
	</p>
{/each}

{#if proof?.verdict === 'outside' && proof.causes.length}
	<section class="border-fix mt-3 border-l-4 pl-2.5" data-testid="causes">
		<h3 class="font-bold">One thing that would explain it</h3>
		<p class="text-quiet text-[13px]">Best first, each on its own; look before you believe it.</p>
		<ul>
			{#each proof.causes.slice(0, 3) as cause (cause.label)}
				<li class="flex justify-between gap-3">
					<span class="first-letter:uppercase">{cause.label}</span>
					<span class="figure shrink-0"
						><strong
							>{cause.unit === 'mm'
								? `${length(cause.value, settings.units, { signed: true, digits: 1 })} ${settings.units}`
								: `${number(cause.value, 0, true)} ${cause.unit}`}</strong
						>
						<span class="text-quiet">explains {number(100 * cause.explains, 0)} %</span></span
					>
				</li>
			{/each}
		</ul>
	</section>
{/if}

<div class="border-rule mt-4 border-t pt-3">
	{#if signed}
		<SignedOff {signed} onwithdraw={withdraw} />
	{:else}
		<label class="grid gap-1">
			<span class="head">Sign off</span>
			<textarea
				class="field h-14"
				bind:value={note}
				maxlength="4000"
				placeholder="What the owner was told; when to come back for the re-torque"></textarea>
		</label>
		<button
			class="btn btn-dye mt-2 min-h-10"
			disabled={!proof || proof.verdict === 'nothing measured'}
			onclick={sign}
		>
			Sign off as {settings.person}
		</button>
	{/if}
	{#if trouble}<p class="text-stops mt-2 font-semibold" role="alert">{trouble}</p>{/if}
</div>

<h2 class="head mt-5 mb-1">This vehicle, job by job</h2>
<table class="w-full">
	<thead>
		<tr class="label text-right">
			<th class="text-left">Job</th><th>front predicted</th><th>came out</th><th>rear predicted</th><th
				>came out</th
			>
		</tr>
	</thead>
	<tbody>
		{#each others.data ?? [] as job (job.id)}
			<tr class="border-rule border-t text-right {job.id === bench.job.id ? 'bg-wash' : ''}">
				<td class="py-1 text-left" title={job.changes.join('\n')}>
					<a class="underline" href="/jobs/{job.id}/prove" data-sveltekit-reload>{job.title}</a>
					<span class="text-quiet block text-xs"
						>{job.signed_off ? `signed off ${day(job.signed_off)}` : 'in hand'}</span
					>
				</td>
				{#each ['front', 'rear'] as const as axle (axle)}
					<td class="figure text-quiet">
						{length(job.predicted[axle] ?? 0, settings.units, { signed: true })} ±{length(
							job.plus_minus[axle] ?? 0,
							settings.units
						)}
					</td>
					<td class="figure font-bold">
						{job.measured[axle] === undefined
							? '–'
							: length(job.measured[axle] ?? 0, settings.units, { signed: true })}
					</td>
				{/each}
			</tr>
		{/each}
	</tbody>
</table>
