<script lang="ts">
	import Hand from '@lucide/svelte/icons/hand';
	import TriangleAlert from '@lucide/svelte/icons/triangle-alert';
	import type { Schemas } from '../api/client';
	import { moment, number } from '../format';
	import EntryField from '../ui/EntryField.svelte';

	let {
		step,
		build,
		jobId,
		large = false,
		ontorque
	}: {
		step: Schemas['Step'];
		build: Schemas['Build'];
		jobId: string;
		large?: boolean;
		ontorque: (fastener: string, reading: Schemas['Torque'] | undefined) => void;
	} = $props();
	const recorded = (key: string) =>
		build.torques.find(
			(t) =>
				t.fastener === key && t.axle === (step.axle ?? 'rear') && (t.side ?? 'left') === (step.side ?? 'left')
		);
</script>

{#if step.figure}<p
		class="figure text-dye font-bold {large ? 'my-3 text-[56px] leading-tight whitespace-normal' : 'text-lg'}"
	>
		{step.figure}
	</p>{/if}
{#if step.caution}
	<p class="border-ink mt-1 flex gap-2 border-l-4 pl-2 {large ? 'text-xl' : 'text-[13px]'}">
		<TriangleAlert size={large ? 26 : 16} class="mt-0.5 shrink-0" /><span
			><strong>Caution.</strong> {step.caution}</span
		>
	</p>
{/if}
{#if step.hold}
	<p class="border-dye mt-1 flex gap-2 border-2 px-2 py-1 {large ? 'text-xl' : 'text-[13px]'}">
		<Hand size={large ? 26 : 16} class="mt-0.5 shrink-0" /><span><strong>Hold.</strong> {step.hold}</span>
	</p>
{/if}
{#each step.fasteners as f (f.key)}
	{@const record = recorded(f.key)}
	<div class="mt-1.5 grid grid-cols-[1fr_150px] items-start gap-3 {large ? 'text-xl' : ''}">
		<div>
			{f.count} × {f.name}{f.renew ? ', new' : ''}:
			{#if f.torque_nm}
				<strong class="figure {large ? 'text-[34px]' : ''}"
					>{number(f.torque_nm, 0)} N·m{f.angle_deg ? ` + ${number(f.angle_deg, 0)}°` : ''}</strong
				>
				<span class="figure text-quiet">({number(f.torque_lbf_ft ?? 0, 0)} lbf·ft)</span>
				<span class="text-quiet block text-[13px]">{f.source}</span>
			{:else}
				<strong class="text-fix">{f.source}</strong>
			{/if}
		</div>
		<div>
			<EntryField
				entry={record?.torque}
				label="Torque read, {[f.name, [step.axle, step.side].filter(Boolean).join(' ')]
					.filter(Boolean)
					.join(', ')}"
				kind="torque"
				quantity="torque"
				placeholder="read, N·m"
				keep="{jobId}.torque.{step.axle}.{step.side}.{f.key}"
				onentry={(reading) => ontorque(f.key, reading)}
			/>
			{#if f.doubt}<p class="text-fix text-[13px] font-semibold">{f.doubt}</p>{/if}
			{#if record}<p class="text-quiet text-[13px]">{record.by}, {moment(record.done_at)}</p>{/if}
		</div>
	</div>
{/each}
