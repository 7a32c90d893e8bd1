<script lang="ts">
	import Hand from '@lucide/svelte/icons/hand';
	import TriangleAlert from '@lucide/svelte/icons/triangle-alert';
	import type { Schemas } from '../api/client';
	import { moment, number } from '../format';
	import LayingOrder from '../draw/LayingOrder.svelte';
	import EntryField from '../ui/EntryField.svelte';
	import Photographs from '../ui/Photographs.svelte';

	let {
		step,
		build,
		jobId,
		large = false,
		hold = { held: false, despite: '' },
		onhold,
		ontorque,
		onfeel
	}: {
		step: Schemas['Step'];
		build: Schemas['Build'];
		jobId: string;
		large?: boolean;
		/** What was said of what it stops for. */
		hold?: { held: boolean; despite: string };
		onhold?: (hold: { held: boolean; despite: string }) => void;
		ontorque: (fastener: string, reading: Schemas['Torque'] | undefined) => void;
		/** Tightened to no figure. */
		onfeel: (fastener: string) => void;
	} = $props();
	const tick = $derived(build.ticks.find((t) => t.step === step.id));
	let passing = $state(false);
	const recorded = (key: string) =>
		build.torques.find(
			(t) =>
				t.fastener === key && t.axle === (step.axle ?? 'rear') && (t.side ?? 'left') === (step.side ?? 'left')
		);
</script>

{#if step.figure}<p
		class="figure text-dye font-bold {large
			? 'my-3 text-[56px] leading-tight text-balance whitespace-normal! max-[500px]:text-[34px]'
			: 'text-lg whitespace-normal!'}"
	>
		<!-- Where it has to break, a number keeps its unit. -->
		{step.figure.replaceAll(/(\d) (?=\p{L})/gu, '$1\u00a0')}
	</p>{/if}
{#if step.caution}
	<p class="border-ink mt-1 flex gap-2 border-l-4 pl-2 {large ? 'text-xl' : 'text-[13px]'}">
		<TriangleAlert size={large ? 26 : 16} class="mt-0.5 shrink-0" /><span
			><strong>Caution.</strong> {step.caution}</span
		>
	</p>
{/if}
{#if step.hold}
	<div class="border-dye mt-1 border-2 px-2 py-1 {large ? 'text-xl' : 'text-[13px]'}">
		<p class="flex gap-2">
			<Hand size={large ? 26 : 16} class="mt-0.5 shrink-0" /><span
				><strong>Hold.</strong>
				{step.hold}</span
			>
		</p>
		{#if tick?.despite}
			<p class="text-fix font-semibold">Passed over by {tick.by}: “{tick.despite}”</p>
		{:else if onhold && !tick}
			<div class="mt-1 flex flex-wrap items-center gap-2">
				<button
					class="btn {large ? 'min-h-12 px-4 text-xl' : 'min-h-7 text-[13px]'} {hold.held
						? 'border-dye bg-wash text-dye'
						: ''}"
					aria-pressed={hold.held}
					onclick={() => onhold({ held: !hold.held, despite: '' })}>It is so</button
				>
				{#if passing}
					<input
						class="field w-auto flex-1"
						aria-label="Why it is passed over"
						placeholder="why it is passed over"
						maxlength="400"
						value={hold.despite}
						oninput={(e) => onhold({ held: false, despite: e.currentTarget.value })}
					/>
				{:else}
					<button
						class="text-quiet underline {large ? 'text-base' : 'text-[13px]'}"
						onclick={() => (passing = true)}>pass it over, and say why</button
					>
				{/if}
			</div>
		{/if}
	</div>
{/if}
{#each step.kept ?? [] as note, n (n)}
	<div class="border-dye mt-1 border-l-4 pl-2 {large ? 'text-xl' : 'text-[13px]'}" data-testid="kept">
		<p><strong>Kept at this joint.</strong> {note.text}</p>
		<Photographs ids={note.photos ?? []} of={note.text} {large} />
	</div>
{/each}
<Photographs ids={step.photos ?? []} of={step.text} {large} />
{#if step.layers?.length}<LayingOrder layers={step.layers} begin={step.layers_begin ?? ''} {large} />{/if}
{#each step.fasteners as f (f.key)}
	{@const record = recorded(f.key)}
	<div class="mt-1.5 grid grid-cols-[1fr_150px] items-start gap-3 {large ? 'text-xl' : ''}">
		<div>
			{f.count ? `${f.count} × ` : ''}{f.name}{f.renew ? ', new' : ''}:
			{#if f.torque_nm}
				<strong class="figure {large ? 'text-[34px]' : ''}"
					>{number(f.torque_nm, 0)} N·m{f.angle_deg ? ` + ${number(f.angle_deg, 0)}°` : ''}</strong
				>
				<span class="figure text-quiet">({number(f.torque_lbf_ft ?? 0, 0)} lbf·ft)</span>
				<span class="text-quiet block text-[13px]">{f.source}</span>
			{:else}
				<strong class="text-fix">{f.source}</strong>
			{/if}
			{#if f.handling}<span class="block font-semibold {large ? 'text-xl' : 'text-[13px]'}">{f.handling}</span
				>{/if}
		</div>
		<div>
			<EntryField
				entry={record?.torque ?? undefined}
				label="Torque read, {[f.name, [step.axle, step.side].filter(Boolean).join(' ')]
					.filter(Boolean)
					.join(', ')}"
				kind="torque"
				quantity="torque"
				placeholder="read, N·m"
				keep="{jobId}.torque.{step.axle}.{step.side}.{f.key}"
				onentry={(reading) => ontorque(f.key, reading)}
			/>
			{#if !record}<button
					class="text-quiet underline {large ? 'min-h-11 text-base' : 'text-[13px]'}"
					onclick={() => onfeel(f.key)}>by feel</button
				>{/if}
			{#if f.doubt}<p class="text-fix text-[13px] font-semibold">{f.doubt}</p>{/if}
			{#if record}<p class="text-quiet text-[13px]">
					{record.by_feel ? 'by feel: ' : ''}{record.by}, {moment(record.done_at)}{record.angle_deg
						? `, ${number(record.angle_deg, 0)}° turned`
						: ''}
				</p>{/if}
		</div>
	</div>
{/each}
