<script lang="ts">
	import ArrowLeft from '@lucide/svelte/icons/arrow-left';
	import ArrowRight from '@lucide/svelte/icons/arrow-right';
	import Check from '@lucide/svelte/icons/check';
	import Timer from '@lucide/svelte/icons/timer';
	import X from '@lucide/svelte/icons/x';
	import { Dialog } from 'bits-ui';
	import { untrack, type Snippet } from 'svelte';
	import type { Schemas } from '../api/client';
	import { moment, number } from '../format';
	import { newFinding, type CardActs, type Hold } from './cardActs';
	import FoundHere, { type Telling } from './FoundHere.svelte';
	import SettingRows from './SettingRows.svelte';
	import StepView from './StepView.svelte';
	import Told from '../ui/Told.svelte';
	import { Wrench } from './wrench.svelte';
	import WrenchField from './WrenchField.svelte';

	let {
		card,
		build,
		jobId,
		trouble,
		holds,
		onhold,
		acts,
		telling = $bindable(),
		picture,
		onclose
	}: {
		card: Schemas['Card'];
		build: Schemas['Build'];
		jobId: string;
		trouble: string;
		/** What was said of holds, by step. */
		holds: Record<string, Hold>;
		onhold: (step: string, hold: Hold) => void;
		acts: CardActs;
		telling: Record<string, Telling>;
		picture?: Snippet<[Schemas['Step']]>;
		onclose: () => void;
	} = $props();

	let content = $state<HTMLElement | null>(null);
	const ticks = $derived(new Map(build.ticks.map((t) => [t.step, t])));
	/** Of this card: what was ticked before the plan was changed stays on record, and is no step of it. */
	const made = $derived(card.steps.filter((s) => ticks.has(s.id)).length);
	// svelte-ignore state_referenced_locally
	let at = $state(
		Math.max(
			0,
			card.steps.findIndex((s) => !build.ticks.some((t) => t.step === s.id))
		)
	);
	const step = $derived(card.steps[at] as Schemas['Step']);
	const tick = $derived(ticks.get(step.id));

	const held = $derived(holds[step.id]);
	/** Whether work stops here until somebody says that it is so, or why it is passed over. */
	const stops = $derived(Boolean(step.hold) && !tick && !(held?.held || held?.despite.trim()));

	const wrench = new Wrench();
	/** What was said of the last click, by the step it was heard at. */
	let clicked = $state({ step: '', sentence: '' });
	$effect(() => wrench.listen((pull) => untrack(() => void heard(pull))));
	async function heard(pull: Schemas['Pull']) {
		const waiting = step.fasteners.find(
			(f) =>
				!build.torques.some(
					(t) =>
						t.fastener === f.key &&
						t.axle === (step.axle ?? 'rear') &&
						(t.side ?? null) === (step.side ?? null)
				)
		);
		let sentence = pull.doubt ?? '';
		if (!sentence && !waiting)
			sentence = `${pull.torque_nm} N·m was heard, but no bolt of this step waits for a torque: it was not kept.`;
		clicked = { step: step.id, sentence };
		if (!sentence && waiting)
			await acts.torque(
				step,
				waiting.key,
				`${pull.torque_nm} Nm` as unknown as Schemas['Torque'],
				pull.angle_deg || undefined
			);
	}
	const settings = $derived(card.settings.filter((row) => row.steps.includes(step.id)));

	/** Seconds each step was looked at with the clock running; it runs on from step to step until it is stopped. */
	let running = $state(false);
	let seconds = $state<Record<string, number>>({});
	$effect(() => {
		if (!running) return;
		const [id, from, before] = [step.id, Date.now(), untrack(() => seconds[step.id] ?? 0)];
		const every = setInterval(() => (seconds[id] = before + (Date.now() - from) / 1000), 1000);
		return () => {
			clearInterval(every);
			seconds[id] = before + (Date.now() - from) / 1000;
		};
	});
	const shown = $derived(Math.floor(seconds[step.id] ?? 0));
	const clock = $derived(`${Math.floor(shown / 60)}:${String(shown % 60).padStart(2, '0')}`);
	const LEAST_S = 5;

	/** A foot that bounces on the switch, or a hurried finger, ticks one step: the next one has to be seen first. */
	const SEEN_MS = 250;
	let last = 0;
	async function done() {
		if (stops || Date.now() - last < SEEN_MS) return;
		last = Date.now();
		const { id } = step;
		const took = seconds[id] ?? 0;
		const refused = tick ? '' : await acts.tick(id, true, held, took >= LEAST_S ? took / 60 : undefined);
		// Whoever went elsewhere meanwhile stays there.
		if (!refused && step.id === id && at < card.steps.length - 1) at += 1;
	}
	async function undone() {
		await acts.tick(step.id, false);
		// Its button is gone: without this the next press of a key would be some other button's.
		content?.focus();
	}
	/** At the hoist nobody has a clean finger to wake a screen. */
	$effect(() => {
		let lock: WakeLockSentinel | undefined;
		let over = false;
		const wake = async () => {
			if (document.visibilityState !== 'visible') return;
			// A browser that cannot keep awake goes to sleep as ever.
			lock = await navigator.wakeLock?.request('screen').catch(() => undefined);
			if (over) void lock?.release();
		};
		void wake();
		document.addEventListener('visibilitychange', wake);
		return () => {
			over = true;
			document.removeEventListener('visibilitychange', wake);
			void lock?.release();
		};
	});
	/** A key meant for a button or a field is its own; only on the page itself Enter says that the step is done. */
	function onkeydown(event: KeyboardEvent) {
		const own = (event.target as Element).closest('input, textarea, button, a');
		if (own && (event.key === 'Enter' || event.key === ' ' || !own.matches('button'))) return;
		if (event.key === 'ArrowRight') at = Math.min(card.steps.length - 1, at + 1);
		else if (event.key === 'ArrowLeft') at = Math.max(0, at - 1);
		else if (event.key.toLowerCase() === 'h' && step.hold && !tick)
			onhold(step.id, { held: !held?.held, despite: '' });
		else if (event.key.toLowerCase() === 'f') telling[step.id] ??= { id: '', finding: newFinding(step.id) };
		else if (event.key.toLowerCase() === 't') running = !running;
		else if (event.key === 'Enter' || event.key === ' ') {
			// A foot that stays on the switch ticks one step.
			if (!event.repeat) void done();
		} else return;
		event.preventDefault();
	}
</script>

<Dialog.Root open onOpenChange={(open) => !open && onclose()}>
	<Dialog.Portal>
		<Dialog.Content
			class="bg-chalk fixed inset-0 z-30 flex flex-col p-6 outline-none max-[500px]:p-4"
			aria-label="One step at a time"
			tabindex={0}
			{onkeydown}
			onOpenAutoFocus={(event) => {
				event.preventDefault();
				content?.focus();
			}}
			bind:ref={content}
		>
			<Dialog.Title class="sr-only">One step at a time</Dialog.Title>
			<div class="flex items-center justify-between gap-4 text-lg max-[500px]:gap-1.5">
				<span class="font-bold max-[500px]:hidden">{step.phase}</span>
				<span class="figure text-quiet max-[500px]:text-sm"
					>step {at + 1} of {card.steps.length} · {made} done</span
				>
				<span class="ml-auto"><WrenchField {wrench} /></span>
				<button
					class="btn figure min-h-12 px-4 max-[500px]:px-2.5 {running ? 'border-dye bg-wash text-dye' : ''}"
					aria-pressed={running}
					title="T"
					onclick={() => (running = !running)}
					><Timer size={22} />
					<span class={running || shown ? '' : 'max-[500px]:hidden'}
						>{running || shown ? clock : 'Clock'}</span
					></button
				>
				<button class="btn min-h-12 px-4" onclick={onclose} aria-label="Close"><X size={26} /></button>
			</div>
			<div class="bg-rule my-3 h-2">
				<div class="bg-dye h-full" style="width: {((at + 1) / card.steps.length) * 100}%"></div>
			</div>
			<div
				class="grid min-h-0 flex-1 gap-4 {picture && step.axle && step.joint
					? 'grid-cols-[minmax(0,1fr)_minmax(0,38%)] max-[700px]:grid-cols-1'
					: ''}"
			>
				<div class="min-h-0 overflow-y-auto">
					{#if step.axle}<p class="text-dye text-[52px] leading-tight font-bold first-letter:uppercase">
							{step.axle}
							{step.side ?? ''}
						</p>{/if}
					<p class="{step.text.length > 90 ? 'text-[27px]' : 'text-[40px]'} leading-snug font-semibold">
						{step.text}
					</p>
					{#if step.people > 1}<p class="mt-1 text-2xl font-bold">{step.people} people</p>{/if}
					<div class="mt-4 max-w-[1000px]">
						{#key step.id}
							<StepView
								{step}
								{build}
								{jobId}
								large
								hold={held}
								onhold={(to) => onhold(step.id, to)}
								ontorque={(f, r) => void acts.torque(step, f, r)}
								onfeel={(f) => void acts.byFeel(step, f)}
							/>
							{#if settings.length}<div class="mt-3 text-lg"><SettingRows rows={settings} {acts} /></div>{/if}
							<div class="mt-3 text-lg"><FoundHere {step} {build} {acts} bind:telling large /></div>
						{/key}
					</div>
					{#if tick}<p class="text-good mt-4 flex items-center gap-4 text-xl font-semibold">
							Done by {tick.by}, {moment(tick.done_at)}{tick.minutes
								? `, in ${number(tick.minutes, tick.minutes < 10 ? 1 : 0)} min`
								: ''}
							<button class="btn min-h-11 text-base" onclick={() => void undone()}>not done after all</button>
						</p>{/if}
					<Told sentence={clicked.step === step.id ? clicked.sentence : ''} class="mt-4 text-xl" />
					<Told sentence={trouble} class="mt-4 text-xl" />
				</div>
				{#if picture && step.axle && step.joint}
					<div class="border-rule min-h-0 border-l pl-3 max-[700px]:hidden">{@render picture(step)}</div>
				{/if}
			</div>
			<div
				class="mt-4 grid grid-cols-[120px_minmax(0,1fr)_120px] gap-4 max-[500px]:grid-cols-[56px_minmax(0,1fr)_56px] max-[500px]:gap-2"
			>
				<button
					class="btn min-h-20 justify-center max-[500px]:px-1"
					disabled={at === 0}
					onclick={() => (at -= 1)}
					aria-label="Step back"><ArrowLeft size={36} /></button
				>
				<button
					class="btn min-h-20 justify-center text-3xl font-bold max-[500px]:text-lg {stops
						? 'border-dye disabled:opacity-100'
						: 'btn-dye'}"
					disabled={stops}
					onclick={done}
				>
					<Check size={36} />
					{tick
						? 'Next step'
						: stops
							? 'Hold: say that it is so (H)'
							: `Done · ${number(step.minutes[0], 0)} to ${number(step.minutes[1], 0)} min ${step.timed ? 'by your own times' : 'planned'}`}
				</button>
				<button
					class="btn min-h-20 justify-center max-[500px]:px-1"
					disabled={at === card.steps.length - 1}
					onclick={() => (at += 1)}
					aria-label="Step on"><ArrowRight size={36} /></button
				>
			</div>
		</Dialog.Content>
	</Dialog.Portal>
</Dialog.Root>
