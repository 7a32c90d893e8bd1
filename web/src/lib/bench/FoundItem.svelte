<script lang="ts">
	import type { Schemas } from '../api/client';
	import { moment } from '../format';
	import Photographs from '../ui/Photographs.svelte';
	import Told from '../ui/Told.svelte';
	import { SETTLED, KINDS, type CardActs } from './cardActs';

	let {
		found,
		acts,
		joint = '',
		signed = false,
		onedit
	}: {
		found: Schemas['FoundOnTheWay'];
		acts: CardActs;
		/** Joint of its step; empty where there is none. */
		joint?: string;
		signed?: boolean;
		onedit: () => void;
	} = $props();
	let trouble = $state('');
	let kept = $state(false);
	async function keep() {
		trouble = await acts.keep(found.id);
		kept = !trouble;
	}
	const kind = $derived(KINDS.find(([key]) => key === found.kind)?.[1] ?? '');
	const decided = $derived(SETTLED.find(([key]) => key === found.decision)?.[1] ?? '');
</script>

<div class="border-dye my-1 border-l-4 pl-2.5" data-found={found.id}>
	<p>
		<strong class="inline-block first-letter:uppercase">{kind}:</strong>
		{found.what}
		<span class="text-quiet text-[13px]">{found.by}, {moment(found.at)}</span>
	</p>
	<p class="font-semibold">
		{decided}{#if found.decision === 'left'}, because {found.because}{:else if found.decision === 'now'}: {found.work}{/if}{#if found.part}<span
				class="ml-1">· {found.part}</span
			>{/if}
	</p>
	<Photographs ids={found.photos ?? []} of={found.what} />
	<div class="flex flex-wrap gap-2">
		{#if found.follow_up}
			<a class="btn" href="/jobs/{found.follow_up}/brief">Its own job</a>
		{:else if found.decision === 'later'}
			<button class="btn" onclick={async () => (trouble = await acts.followUp(found.id))}
				>Open a job for it</button
			>
		{/if}
		{#if !signed}
			{#if joint}
				<button class="btn" disabled={kept} onclick={keep}
					>{kept ? 'Kept at this joint' : 'Keep it for whoever opens this next'}</button
				>
			{/if}
			<button class="btn" onclick={onedit}>Change</button>
			<button class="btn" onclick={async () => (trouble = await acts.withdraw(found.id))}>Take back</button>
		{/if}
	</div>
	<Told sentence={trouble} class="mt-1" />
</div>
