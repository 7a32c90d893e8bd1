<script lang="ts">
	import Triangle from '@lucide/svelte/icons/triangle-alert';

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
			retry: () => unknown;
		};
	} = $props();
	let now = $state(Date.now());
	$effect(() => {
		if (bench.saving !== 'unsaved') return;
		const ticking = setInterval(() => (now = Date.now()), 500);
		return () => clearInterval(ticking);
	});
	const wait = $derived(bench.nextTry ? Math.max(0, Math.ceil((bench.nextTry - now) / 1000)) : undefined);
</script>

{#if bench.saving === 'unsaved' && !bench.conflict}
	<div
		class="border-stops bg-raised flex items-center gap-3 rounded-[3px] border-2 px-3 py-1.5"
		role="alert"
		data-testid="unsaved"
	>
		<Triangle size={20} class="text-stops shrink-0" />
		<p class="min-w-0 flex-1 text-[15px] leading-snug">
			<strong>Not saved yet: {bench.unsaved.join(', ')}.</strong>
			{bench.saveTrouble}
			{bench.keptHere
				? ''
				: 'This browser keeps nothing: leave the page open until it is saved, or copy it elsewhere.'}
		</p>
		<button class="btn shrink-0" onclick={() => bench.retry()}>
			<span
				>Try now{#if wait !== undefined}<span class="text-quiet font-normal">, else in {wait} s</span
					>{/if}</span
			>
		</button>
	</div>
{/if}
