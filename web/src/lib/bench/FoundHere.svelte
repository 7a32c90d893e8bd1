<script lang="ts" module>
	import type { Schemas } from '../api/client';
	/** Something found that is being told: new, or one with an id told anew. */
	export type Telling = { id: string; finding: Schemas['NewFinding']; why?: string };
</script>

<script lang="ts">
	import Search from '@lucide/svelte/icons/search-alert';
	import { newFinding, type CardActs } from './cardActs';
	import FoundForm from './FoundForm.svelte';
	import FoundItem from './FoundItem.svelte';

	/** What was found at a step, and the form to tell of more. */
	let {
		step,
		build,
		acts,
		telling = $bindable(),
		adding = true,
		large = false
	}: {
		step: { id: string; joint?: string };
		build: Schemas['Build'];
		acts: CardActs;
		telling: Record<string, Telling>;
		adding?: boolean;
		large?: boolean;
	} = $props();
	const here = $derived((build.found ?? []).filter((f) => f.step === step.id));
	const now = $derived(telling[step.id]);
	const close = () => delete telling[step.id];
	async function keep() {
		if (!now) return '';
		const trouble = await acts.found($state.snapshot(now.finding) as Schemas['NewFinding'], now.id);
		if (!trouble) close();
		return trouble;
	}
	function edit(found: Schemas['FoundOnTheWay']) {
		// What somebody told and when is the bench's to write.
		const { id, at, by, follow_up, ...finding } = found;
		void [at, by, follow_up];
		telling[step.id] = { id, finding };
	}
</script>

{#each here as found (found.id)}
	{#if now?.id !== found.id}<FoundItem {found} {acts} joint={step.joint} onedit={() => edit(found)} />{/if}
{/each}
{#if now}
	<FoundForm
		finding={now.finding}
		why={now.why}
		onfinding={(finding) => (telling[step.id] = { ...now, finding })}
		onkeep={keep}
		oncancel={close}
	/>
{:else if adding}
	<button
		class={large
			? 'btn min-h-12 px-4 text-lg'
			: 'btn btn-plain text-quiet absolute top-1 right-0 min-h-9 px-2'}
		title="Found something{large ? ' (F)' : ''}"
		aria-label="Found something"
		onclick={() => (telling[step.id] = { id: '', finding: newFinding(step.id) })}
		><Search size={large ? 22 : 18} />{large ? ' Found something' : ''}</button
	>
{/if}
