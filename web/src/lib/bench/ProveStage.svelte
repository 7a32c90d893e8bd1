<script lang="ts">
	import Printer from '@lucide/svelte/icons/printer';
	import { api, ask, type Job, type Schemas } from '../api/client';
	import { day, length, number, plusMinus } from '../format';
	import { outcomesQuery } from '../queries';
	import { settings } from '../settings.svelte';
	import DayField from '../ui/DayField.svelte';
	import Told from '../ui/Told.svelte';
	import { wingOf } from '../wings';
	import { theBench } from './context.svelte';
	import { drafts } from './drafts';
	import { outbox } from './outbox.svelte';
	import { Latest } from './latest';
	import SignedOff from './SignedOff.svelte';

	const bench = theBench();
	const wing = wingOf(bench.kind);
	const signed = $derived(bench.job.prove.sign_off);
	const proof = $derived(bench.proof);
	/** What is said with the signature, kept in this browser until it is signed. */
	const kept = `signing:${bench.job.id}`;
	let said = $state<{ note: string; despite: string }>(drafts.kept(kept) ?? { note: '', despite: '' });
	$effect(() => {
		if (said.note || said.despite) drafts.keep(kept, $state.snapshot(said));
		else drafts.forget(kept);
	});
	let signing = $state(false);
	/** What is missing; it is signed all the same only with a reason. */
	let missing = $state<string[]>([]);
	let trouble = $state('');
	/** Why the readings cannot be compared. */
	let unproved = $state('');
	let proving = $state(false);
	const others = outcomesQuery(
		() => bench.job.id,
		() => `${bench.versions.prove}.${bench.versions.plan}`
	);
	const prove = new Latest(
		(job: Job) => ask(api.POST('/api/prove', { body: job })),
		({ data, trouble }) => {
			if (data) bench.proof = data;
			unproved = trouble;
		},
		(busy) => (proving = busy)
	);
	$effect(() => prove.wish(bench.job));

	const told = $derived(bench.job.prove.hand_over ?? {});
	const tell = (part: Partial<Schemas['HandOver']>) =>
		bench.change('prove', { ...bench.job.prove, hand_over: { ...told, ...part } });
	async function print() {
		if (await bench.flush()) window.open(`/api/jobs/${bench.job.id}/hand-over.pdf`);
	}

	const withdraw = (reason: string) =>
		bench.stamp('prove', (version) =>
			api.POST('/api/jobs/{job_id}/sign-off/withdraw', {
				params: { path: { job_id: bench.job.id } },
				body: { version, reason }
			})
		);
	/** Whether something is missing and nobody has said why it is signed all the same. */
	async function lacking(): Promise<boolean> {
		if (!(await bench.flush())) return false;
		const asked = await ask(
			api.GET('/api/jobs/{job_id}/sign-off', { params: { path: { job_id: bench.job.id } } })
		);
		missing = asked.data?.missing ?? [];
		return missing.length > 0 && !said.despite.trim();
	}
	async function sign() {
		// Heard at once: what is done on the card goes first, and the proof is worked out once more.
		[signing, trouble] = [true, ''];
		if (!(await outbox.flush(bench.job.id)))
			trouble = 'What was done on the card is not saved yet: once it is, press again.';
		else if (!(await lacking()))
			trouble = await bench.stamp('prove', (version) =>
				api.POST('/api/jobs/{job_id}/sign-off', {
					params: { path: { job_id: bench.job.id } },
					body: { version, ...$state.snapshot(said) }
				})
			);
		if (bench.job.prove.sign_off) [said, missing] = [{ note: '', despite: '' }, []];
		signing = false;
	}
	const verdicts = {
		'nothing measured': ['Nothing measured yet', 'text-quiet'],
		'in part': ['As predicted where it was read', 'text-fix'],
		within: [wing.within, 'text-good'],
		outside: ['Something is off', 'text-stops']
	} as const;
</script>

<div class="mb-2 flex items-baseline justify-between" aria-busy={proving}>
	<h2 class="head">Measured after</h2>
	{#if proof}<span class="text-base font-bold {verdicts[proof.verdict][1]}" data-testid="verdict"
			>{verdicts[proof.verdict][0]}</span
		>{/if}
</div>
<Told sentence={unproved} class="mb-2" />
{#if proof && proof.verdict !== 'nothing measured' && proof.unread.length}
	<p class="text-fix mb-2 font-semibold" data-testid="unread">Not read yet: {proof.unread.join('; ')}.</p>
{/if}
<p class="text-quiet mb-2">{wing.proving}</p>
<fieldset disabled={!!signed}>
	<legend class="sr-only">Readings after</legend>
	<wing.Proof {proof} />
</fieldset>
{#if proof?.verdict === 'outside' && 'causes' in proof && proof.causes.length}
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

<section class="border-rule mt-4 border-t pt-3" aria-label="Hand over">
	<div class="mb-2 flex items-center justify-between">
		<h2 class="head">Hand over</h2>
		<button class="btn" onclick={print}><Printer size={16} /> Hand-over sheet</button>
	</div>
	<fieldset disabled={!!signed} class="grid gap-2">
		<legend class="sr-only">What the owner is told</legend>
		<label class="grid gap-1">
			<span class="label">What to watch</span>
			<textarea
				class="field h-12"
				maxlength="4000"
				value={told.watch}
				oninput={(e) => tell({ watch: e.currentTarget.value })}></textarea>
		</label>
		{#if signed}
			<p>
				Heights read again: <strong>{told.settled_on ? day(told.settled_on) : 'no day agreed'}</strong> ·
				bolts checked again: <strong>{told.retorque_on ? day(told.retorque_on) : 'no day agreed'}</strong>
			</p>
		{:else}
			<div class="grid grid-cols-2 gap-3">
				<DayField
					label="Heights read again, settled"
					value={told.settled_on ?? null}
					onvalue={(settled_on) => tell({ settled_on })}
				/>
				<DayField
					label="Bolts checked again"
					value={told.retorque_on ?? null}
					onvalue={(retorque_on) => tell({ retorque_on })}
				/>
			</div>
		{/if}
	</fieldset>
</section>

<div class="border-rule mt-4 border-t pt-3">
	{#if signed}
		<SignedOff {signed} asSigned={bench.asSigned} onwithdraw={withdraw} />
	{:else}
		<label class="grid gap-1">
			<span class="head">Sign off</span>
			<textarea
				class="field h-14"
				bind:value={said.note}
				maxlength="4000"
				placeholder="Anything else to say of it"></textarea>
		</label>
		{#if missing.length}
			<div class="border-fix mt-2 border-l-4 pl-2.5" role="alert" data-testid="missing">
				<p class="font-bold">Not signed yet. Missing:</p>
				<ul class="list-disc pl-5">
					{#each missing as lack (lack)}<li class="first-letter:uppercase">{lack}</li>{/each}
				</ul>
				<label class="mt-1.5 grid gap-1">
					<span class="label">See to it, or write why it is signed all the same</span>
					<textarea class="field h-14" bind:value={said.despite} maxlength="4000"></textarea>
				</label>
			</div>
		{/if}
		<button
			class="btn btn-dye mt-2 min-h-10"
			disabled={signing || !proof || proof.verdict === 'nothing measured'}
			onclick={sign}
		>
			{signing ? 'Signing…' : `Sign off as ${settings.person}`}
		</button>
		{#if proof?.verdict === 'nothing measured'}<span class="text-quiet ml-2"
				>Enter what was measured first.</span
			>{/if}
	{/if}
	<Told sentence={trouble} class="mt-2" />
</div>

<h2 class="head mt-5 mb-1">This vehicle, job by job</h2>
<table class="w-full">
	<thead>
		<tr class="label text-right"
			><td></td><th class="text-center" colspan="2">Front</th><th class="text-center" colspan="2">Rear</th
			></tr
		>
		<tr class="label text-right">
			<th class="text-left">Job</th>
			{#each ['front', 'rear'] as const as axle (axle)}<th>predicted</th><th>came out</th>{/each}
		</tr>
	</thead>
	<tbody>
		{#each others.data ?? [] as job (job.id)}
			<tr class="border-rule border-t text-right {job.id === bench.job.id ? 'bg-wash' : ''}">
				<td class="py-1 text-left" title={job.changes.join('\n')}>
					<a class="underline" href="/jobs/{job.id}/prove">{job.title}</a>
					<span class="text-quiet block text-[13px]"
						>{job.signed_off ? `signed off ${day(job.signed_off)}` : 'in hand'}</span
					>
				</td>
				{#each ['front', 'rear'] as const as axle (axle)}
					<td class="figure text-quiet">
						{length(job.predicted[axle] ?? 0, settings.units, { signed: true })}
						{job.plus_minus[axle] === undefined ? '' : `±${plusMinus(job.plus_minus[axle], settings.units)}`}
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
