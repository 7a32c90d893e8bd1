<script lang="ts">
	import type { Schemas } from '../api/client';
	import PhotoField from '../ui/PhotoField.svelte';
	import Told from '../ui/Told.svelte';
	import { DECISIONS, KINDS } from './cardActs';

	let {
		finding,
		why = '',
		onfinding,
		onkeep,
		oncancel
	}: {
		finding: Schemas['NewFinding'];
		/** Why it was refused before. */
		why?: string;
		onfinding: (finding: Schemas['NewFinding']) => void;
		/** Keep it; gives what is wrong with it. */
		onkeep: () => Promise<string>;
		oncancel: () => void;
	} = $props();
	const uid = $props.id();
	let trouble = $state('');
	let busy = $state(false);
	let what = $state<HTMLTextAreaElement>();
	$effect(() => what?.focus());
	const set = (part: Partial<Schemas['NewFinding']>) => onfinding({ ...finding, ...part });
	async function keep() {
		busy = true;
		trouble = await onkeep();
		busy = false;
	}
</script>

{#snippet choose<V extends string>(
	label: string,
	options: readonly (readonly [V, string])[],
	value: V,
	onchoose: (value: V) => void
)}
	<div class="flex flex-wrap gap-1.5" role="group" aria-label={label}>
		{#each options as [key, text] (key)}
			<button
				class="btn min-h-11 {value === key ? 'border-dye bg-wash text-dye' : ''}"
				aria-pressed={value === key}
				onclick={() => onchoose(key)}>{text}</button
			>
		{/each}
	</div>
{/snippet}

<section
	class="border-dye bg-chalk grid gap-2.5 border-2 p-3 text-base"
	aria-label="Found on the way"
	data-testid="found-form"
>
	{@render choose('What kind', KINDS, finding.kind ?? 'defect', (kind) => set({ kind }))}
	<label for="{uid}-what" class="label">What was found</label>
	<textarea
		id="{uid}-what"
		bind:this={what}
		class="field"
		rows="2"
		maxlength="4000"
		value={finding.what}
		oninput={(e) => set({ what: e.currentTarget.value })}></textarea>
	<PhotoField photos={finding.photos ?? []} onphotos={(photos) => set({ photos })} />
	<p class="label">What is decided</p>
	{@render choose('What is decided', DECISIONS, finding.decision ?? 'later', (decision) => set({ decision }))}
	{#if finding.decision === 'left'}
		<label class="label" for="{uid}-because">Left as it is, because</label>
		<input
			id="{uid}-because"
			class="field"
			maxlength="4000"
			value={finding.because}
			oninput={(e) => set({ because: e.currentTarget.value })}
		/>
	{:else if finding.decision === 'now'}
		<label class="label" for="{uid}-work">What is done about it</label>
		<input
			id="{uid}-work"
			class="field"
			maxlength="4000"
			value={finding.work}
			oninput={(e) => set({ work: e.currentTarget.value })}
		/>
		<div class="grid grid-cols-[1fr_90px_90px] gap-2">
			<label class="label"
				>Part it needs <input
					class="field mt-1"
					maxlength="120"
					value={finding.part ?? ''}
					oninput={(e) => set({ part: e.currentTarget.value || null })}
				/></label
			>
			{#each [['minutes_least', 'min, from'], ['minutes_most', 'to']] as const as [field, text] (field)}
				<label class="label"
					>{text}
					<input
						class="field figure mt-1"
						type="number"
						min="0"
						max="6000"
						step="any"
						value={finding[field]}
						oninput={(e) => set({ [field]: Number(e.currentTarget.value) })}
					/></label
				>
			{/each}
		</div>
	{/if}
	<Told sentence={trouble || why} />
	<div class="flex gap-2">
		<button class="btn btn-dye min-h-11 flex-1 justify-center font-bold" disabled={busy} onclick={keep}
			>Keep it</button
		>
		<button class="btn min-h-11" onclick={oncancel}>Cancel</button>
	</div>
</section>
