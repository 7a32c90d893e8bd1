<script lang="ts">
	import Triangle from '@lucide/svelte/icons/triangle-alert';
	import { outbox, type Waiting } from './outbox.svelte';

	let {
		bench
	}: {
		bench: {
			saving: string;
			saveTrouble: string;
			unsaved: string[];
			nextTry: number | undefined;
			keptHere: boolean;
			conflict?: unknown;
			acts?: Waiting[];
			retry: () => unknown;
		};
	} = $props();
	let now = $state(Date.now());
	const unsaved = $derived(bench.saving === 'unsaved' && !bench.conflict);
	const refused = $derived((bench.acts ?? []).filter((act) => act.refused));
	/** Done on the card, and nobody answers. */
	const stuck = $derived(outbox.trouble ? (bench.acts ?? []).filter((act) => !act.refused) : []);
	$effect(() => {
		if (!unsaved && !stuck.length) return;
		const ticking = setInterval(() => (now = Date.now()), 500);
		return () => clearInterval(ticking);
	});
	const next = $derived(unsaved ? bench.nextTry : outbox.nextTry);
	const wait = $derived(next ? Math.max(0, Math.ceil((next - now) / 1000)) : undefined);
	const kept = $derived(bench.keptHere && (!stuck.length || outbox.keptHere));
	const what = $derived(
		[
			...(unsaved ? bench.unsaved : []),
			...(stuck.length ? [`${stuck.length} ${stuck.length === 1 ? 'entry' : 'entries'} of the card`] : [])
		].join(', ')
	);
	function retry() {
		if (unsaved) void bench.retry();
		if (stuck.length) void outbox.send();
	}
</script>

{#if unsaved || stuck.length}
	<div
		class="border-stops bg-raised flex items-center gap-3 rounded-[3px] border-2 px-3 py-1.5"
		role="alert"
		data-testid="unsaved"
	>
		<Triangle size={20} class="text-stops shrink-0" />
		<p class="min-w-0 flex-1 text-[15px] leading-snug">
			<strong>Not saved yet: {what}.</strong>
			{unsaved ? bench.saveTrouble : outbox.trouble}
			{kept ? '' : 'This browser keeps nothing: leave the page open until it is saved, or copy it elsewhere.'}
		</p>
		<button class="btn shrink-0" onclick={retry}>
			<span
				>Try now{#if wait !== undefined}<span class="text-quiet font-normal">, else in {wait} s</span
					>{/if}</span
			>
		</button>
	</div>
{/if}
{#if refused.length}
	<div
		class="border-stops bg-raised flex items-center gap-3 rounded-[3px] border-2 px-3 py-1.5"
		role="alert"
		data-testid="refused"
	>
		<Triangle size={20} class="text-stops shrink-0" />
		<ul class="max-h-[86px] min-w-0 flex-1 overflow-y-auto text-[15px] leading-snug">
			{#each refused as act (act.id)}
				<li><strong>Not kept: {act.words}</strong> {act.refused}</li>
			{/each}
		</ul>
		<button class="btn shrink-0" onclick={() => refused.forEach((act) => outbox.drop(act.id))}
			>I have read it</button
		>
	</div>
{/if}
