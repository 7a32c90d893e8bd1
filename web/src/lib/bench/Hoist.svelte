<script lang="ts">
	import ArrowLeft from '@lucide/svelte/icons/arrow-left';
	import ArrowRight from '@lucide/svelte/icons/arrow-right';
	import Check from '@lucide/svelte/icons/check';
	import X from '@lucide/svelte/icons/x';
	import { Dialog } from 'bits-ui';
	import type { Schemas } from '../api/client';
	import { moment, number } from '../format';
	import StepView from './StepView.svelte';
	import Told from '../ui/Told.svelte';

	let {
		card,
		build,
		jobId,
		trouble,
		ontick,
		ontorque,
		onclose
	}: {
		card: Schemas['Card'];
		build: Schemas['Build'];
		jobId: string;
		trouble: string;
		ontick: (step: string, done: boolean) => Promise<void>;
		ontorque: (step: Schemas['Step'], fastener: string, reading: Schemas['Torque'] | undefined) => void;
		onclose: () => void;
	} = $props();

	let content = $state<HTMLElement | null>(null);
	const ticks = $derived(new Map(build.ticks.map((t) => [t.step, t])));
	// svelte-ignore state_referenced_locally
	let at = $state(
		Math.max(
			0,
			card.steps.findIndex((s) => !build.ticks.some((t) => t.step === s.id))
		)
	);
	const step = $derived(card.steps[at] as Schemas['Step']);
	const tick = $derived(ticks.get(step.id));

	async function done() {
		if (!tick) await ontick(step.id, true);
		if (!trouble && at < card.steps.length - 1) at += 1;
	}
	/** A key meant for a button or a field is its own; only on the page itself Enter says that the step is done. */
	function onkeydown(event: KeyboardEvent) {
		const own = (event.target as Element).closest('input, textarea, button, a');
		if (own && (event.key === 'Enter' || event.key === ' ' || !own.matches('button'))) return;
		if (event.key === 'ArrowRight') at = Math.min(card.steps.length - 1, at + 1);
		else if (event.key === 'ArrowLeft') at = Math.max(0, at - 1);
		else if (event.key === 'Enter' || event.key === ' ') void done();
		else return;
		event.preventDefault();
	}
</script>

<Dialog.Root open onOpenChange={(open) => !open && onclose()}>
	<Dialog.Portal>
		<Dialog.Content
			class="bg-chalk fixed inset-0 z-30 flex flex-col p-6 outline-none"
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
			<div class="flex items-center justify-between gap-4 text-lg">
				<span class="font-bold">{step.phase}</span>
				<span class="figure text-quiet">step {at + 1} of {card.steps.length} · {ticks.size} done</span>
				<button class="btn min-h-12 px-4" onclick={onclose} aria-label="Close"><X size={26} /></button>
			</div>
			<div class="bg-rule my-3 h-2">
				<div class="bg-dye h-full" style="width: {((at + 1) / card.steps.length) * 100}%"></div>
			</div>
			<div class="min-h-0 flex-1 overflow-y-auto">
				{#if step.axle}<p class="text-dye text-[52px] leading-tight font-bold capitalize">
						{step.axle}
						{step.side ?? ''}
					</p>{/if}
				<p class="text-[40px] leading-snug font-semibold">{step.text}</p>
				{#if step.people > 1}<p class="mt-1 text-2xl font-bold">{step.people} people</p>{/if}
				<div class="mt-4 max-w-[1000px]">
					{#key step.id}
						<StepView {step} {build} {jobId} large ontorque={(f, r) => ontorque(step, f, r)} />
					{/key}
				</div>
				{#if tick}<p class="text-good mt-4 text-xl font-semibold">
						Done by {tick.by}, {moment(tick.done_at)}
					</p>{/if}
				<Told sentence={trouble} class="mt-4 text-xl" />
			</div>
			<div class="mt-4 grid grid-cols-[120px_1fr_120px] gap-4">
				<button
					class="btn min-h-20 justify-center"
					disabled={at === 0}
					onclick={() => (at -= 1)}
					aria-label="Step back"><ArrowLeft size={36} /></button
				>
				<button class="btn btn-dye min-h-20 justify-center text-3xl font-bold" onclick={done}>
					<Check size={36} />
					{tick
						? 'Next step'
						: `Done · ${number(step.minutes[0], 0)} to ${number(step.minutes[1], 0)} min planned`}
				</button>
				<button
					class="btn min-h-20 justify-center"
					disabled={at === card.steps.length - 1}
					onclick={() => (at += 1)}
					aria-label="Step on"><ArrowRight size={36} /></button
				>
			</div>
		</Dialog.Content>
	</Dialog.Portal>
</Dialog.Root>
