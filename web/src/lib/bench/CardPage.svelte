<script lang="ts">
	import Maximize from '@lucide/svelte/icons/maximize-2';
	import Printer from '@lucide/svelte/icons/printer';
	import { untrack, type Snippet } from 'svelte';
	import type { Schemas } from '../api/client';
	import { moment, number } from '../format';
	import { SETTLED, type CardActs, type Hold } from './cardActs';
	import { drafts } from './drafts';
	import { outbox } from './outbox.svelte';
	import FoundHere, { type Telling } from './FoundHere.svelte';
	import Hoist from './Hoist.svelte';
	import SettingRows from './SettingRows.svelte';
	import Told from '../ui/Told.svelte';
	import StepView from './StepView.svelte';

	let {
		card,
		build,
		jobId,
		trouble,
		acts,
		onprint,
		picture
	}: {
		card: { isPending: boolean; isError: boolean; error: Error | null; data?: Schemas['Card'] };
		build: Schemas['Build'];
		jobId: string;
		trouble: string;
		acts: CardActs;
		onprint: (paper: 'card' | 'quotation' | 'labels') => void;
		/** The drawing of where a step is done, of a machine that has one. */
		picture?: Snippet<[Schemas['Step']]>;
	} = $props();
	let hoist = $state(false);
	/** What was said of the holds of steps that are not done yet. */
	const keptHolds = `holds:${untrack(() => jobId)}`;
	let holds = $state<Record<string, Hold>>(drafts.kept(keptHolds) ?? {});
	$effect(() => {
		// Of steps that are done it stands in their ticks.
		const open = Object.entries($state.snapshot(holds)).filter(([step]) => !ticks.has(step));
		if (open.length) drafts.keep(keptHolds, Object.fromEntries(open));
		else drafts.forget(keptHolds);
	});
	/** What is being told of something found, by step: kept in this browser until it is saved. */
	const kept = `found:${untrack(() => jobId)}`;
	let telling = $state<Record<string, Telling>>(drafts.kept(kept) ?? {});
	// What was refused after its form was closed comes back to it, with all that was typed.
	$effect(() => {
		for (const { id, act, refused: why } of outbox.of(jobId)) {
			if (!why || act.do !== 'found' || outbox.checking.has(id)) continue;
			telling[act.found.step] = { id: act.again ? act.key : '', finding: act.found, why };
			outbox.drop(id);
		}
	});
	$effect(() => {
		if (Object.keys(telling).length) drafts.keep(kept, $state.snapshot(telling));
		else drafts.forget(kept);
	});
	const finds = $derived(build.found ?? []);
	const gonePlaces = $derived(
		finds.filter((f) => card.data && !card.data.steps.some((s) => s.id === f.step))
	);
	const decidedBy = (decision: string) => finds.filter((f) => f.decision === decision).length;
	const stops = (step: Schemas['Step']) => {
		const said = holds[step.id];
		return Boolean(step.hold) && !ticks.has(step.id) && !(said?.held || said?.despite.trim());
	};

	const ticks = $derived(new Map(build.ticks.map((t) => [t.step, t])));
	const phases = $derived(
		[...new Set((card.data?.steps ?? []).map((s) => s.phase))].map((phase) => ({
			phase,
			steps: card.data?.steps.filter((s) => s.phase === phase) ?? []
		}))
	);
	const done = $derived((card.data?.steps ?? []).filter((s) => ticks.has(s.id)).length);
	/** Ticks of steps that this card does not have: the plan was changed since, and what was done stays on record. */
	const gone = $derived(
		build.ticks.filter((t) => card.data && !card.data.steps.some((s) => s.id === t.step))
	);
	const PAPERS = [
		['card', 'Card'],
		['quotation', 'Quotation'],
		['labels', 'Labels']
	] as const;
	const counted = (n: number, what: string) => `${n} ${what}${n === 1 ? '' : 's'}`;
</script>

<div class="mb-2 flex flex-wrap items-center justify-between gap-2">
	<h2 class="head">
		Job card
		{#if card.data}<span class="text-quiet font-normal"
				>· {done} of {card.data.steps.length} done · {number(card.data.minutes[0] / 60, 0)} to {number(
					card.data.minutes[1] / 60,
					0
				)} h{card.data.timed ? `, ${counted(card.data.timed, 'step')} by your own times` : ''}</span
			>{/if}
	</h2>
	<div class="flex gap-2">
		<button class="btn btn-dye" onclick={() => (hoist = true)} disabled={!card.data}
			><Maximize size={16} /> One step at a time</button
		>
	</div>
</div>
<div class="mb-2 flex flex-wrap gap-2" role="group" aria-label="Print">
	{#each PAPERS as [paper, text] (paper)}
		<button class="btn" onclick={() => onprint(paper)}><Printer size={16} /> {text}</button>
	{/each}
</div>
<Told sentence={trouble} class="mb-2" />

{#if card.isPending}
	<p class="text-quiet">Writing the card…</p>
{:else if card.isError}
	<Told sentence={card.error?.message ?? ''} />
{:else if card.data}
	{#if card.data.stopped_by.length}
		<div class="border-stops mb-3 border-l-4 pl-2.5">
			<p class="text-stops font-bold">Stopped: {card.data.stopped_by.join('; ')}</p>
			<p>
				{card.data.override
					? `Written override: “${card.data.override}”`
					: 'No step can be ticked before it is cured, or an override is written on the plan.'}
			</p>
		</div>
	{/if}
	<details class="mb-3">
		<summary class="cursor-pointer font-semibold">
			To have ready: {counted(card.data.preflight.parts.length, 'part')}, {counted(
				card.data.preflight.hardware.length,
				'kind'
			)} of hardware, {counted(card.data.preflight.tools.length, 'tool')}
		</summary>
		<div class="mt-1 grid grid-cols-2 gap-3">
			{#each [['Parts', card.data.preflight.parts], ['Hardware', card.data.preflight.hardware], ['Tools', card.data.preflight.tools], ['Consumables', card.data.preflight.consumables], ['To move over', card.data.preflight.move_over], ['To keep', card.data.preflight.keep], ['To throw away', card.data.preflight.throw_away]] as const as [name, items] (name)}
				<div class={items.length ? '' : 'hidden'}>
					<h3 class="label">{name}</h3>
					<ul class="list-disc pl-4">
						{#each items as item, n (n)}<li>{item}</li>{/each}
					</ul>
				</div>
			{/each}
		</div>
	</details>
	{#if finds.length}
		<p class="mb-3 font-semibold" data-testid="found-summary">
			Found on the way: {counted(
				finds.length,
				'thing'
			)}{#each SETTLED.filter(([d]) => decidedBy(d)) as [decision, text] (decision)},
				{decidedBy(decision)}
				{text}{/each}
		</p>
	{/if}
	{#if card.data.settings.length}
		<details class="mb-3" open>
			<summary class="cursor-pointer font-semibold">Settings, before and after</summary>
			<SettingRows rows={card.data.settings} {acts} />
		</details>
	{/if}
	{#each phases as group (group.phase)}
		<h3 class="bg-chalk border-ink sticky -top-3 z-10 mt-2 border-b py-1 font-bold">{group.phase}</h3>
		<ol>
			{#each group.steps as step (step.id)}
				{@const tickOf = ticks.get(step.id)}
				<li class="border-rule relative border-b py-1.5 {tickOf ? 'opacity-70' : ''}" data-step={step.id}>
					<label class="flex gap-2.5 pr-9">
						<input
							type="checkbox"
							class="accent-dye mt-0.5 h-6 w-6 shrink-0"
							checked={!!tickOf}
							disabled={stops(step)}
							title={stops(step) ? 'Work stops here: say first that it is so' : undefined}
							aria-label="Done: {step.axle ?? ''} {step.side ?? ''} {step.text}"
							onchange={async (e) => {
								// A tick that is refused does not stay on the paper.
								const box = e.currentTarget;
								await acts.tick(step.id, box.checked, holds[step.id]);
								box.checked = ticks.has(step.id);
							}}
						/>
						<span class="min-w-0 flex-1">
							{#if step.axle}<strong class="inline-block first-letter:uppercase"
									>{[step.axle, step.side].filter(Boolean).join(' ')}.</strong
								>{/if}
							{step.text}
							{#if tickOf}<span class="text-quiet text-[13px]">{tickOf.by}, {moment(tickOf.done_at)}</span
								>{/if}
						</span>
					</label>
					<div class="pl-8.5">
						<StepView
							{step}
							{build}
							hold={holds[step.id]}
							onhold={(to) => (holds[step.id] = to)}
							ontorque={(f, r) => void acts.torque(step, f, r)}
							onfeel={(f) => void acts.byFeel(step, f)}
							{jobId}
						/>
						{#if !hoist}<FoundHere {step} {build} {acts} bind:telling />{/if}
					</div>
				</li>
			{/each}
		</ol>
	{/each}
	{#if gonePlaces.length}
		<h3 class="mt-3 font-bold">Found at steps that are no longer on this card</h3>
		{#each gonePlaces as f (f.id)}<FoundHere
				step={{ id: f.step }}
				{build}
				{acts}
				bind:telling
				adding={false}
			/>{/each}
	{/if}
	{#if gone.length}
		<details class="mt-3">
			<summary class="cursor-pointer font-semibold"
				>{counted(gone.length, 'tick')} of steps that are no longer on this card</summary
			>
			<ul class="list-inside list-disc" data-testid="gone">
				{#each gone as t (t.step)}<li>
						{t.step.replaceAll('.', ' ').replaceAll('_', ' ')}:
						<span class="text-quiet">{t.by}, {moment(t.done_at)}</span>
					</li>{/each}
			</ul>
		</details>
	{/if}
	{#if card.data.unused.length}
		<details class="mt-3">
			<summary class="cursor-pointer font-semibold"
				>{counted(card.data.unused.length, 'figure')} of bolts that this card does not tighten</summary
			>
			<ul class="list-inside list-disc" data-testid="unused">
				{#each card.data.unused as line, n (n)}<li>{line}</li>{/each}
			</ul>
		</details>
	{/if}
	<p class="text-quiet mt-3">{card.data.certificate}</p>
	{#if hoist}
		<Hoist
			card={card.data}
			{build}
			{jobId}
			{trouble}
			{holds}
			onhold={(step, to) => (holds[step] = to)}
			{acts}
			bind:telling
			{picture}
			onclose={() => (hoist = false)}
		/>
	{/if}
{/if}
