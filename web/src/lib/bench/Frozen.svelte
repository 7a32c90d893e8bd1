<script lang="ts">
	import Stamp from '@lucide/svelte/icons/stamp';
	import { page } from '$app/state';
	import type { AnyBench } from './jobBench.svelte';

	/** A signed job stays as it was signed: told at every stage, and told again where somebody tries to change it. */
	let { bench }: { bench: AnyBench } = $props();
	const away = $derived(page.params.stage !== 'prove');
	let bar = $state<HTMLElement>();
	$effect(() => {
		if (bench.refusals) bar?.animate?.([{ opacity: 0.2 }, { opacity: 1 }], 350);
	});
</script>

{#if bench.frozen && (away || bench.refusals)}
	<div
		bind:this={bar}
		class="border-dye bg-raised flex items-center gap-3 rounded-[3px] border-2 px-3 py-1.5"
		role={bench.refusals ? 'alert' : 'status'}
		data-testid="frozen"
	>
		<Stamp size={20} class="text-dye shrink-0" />
		<p class="min-w-0 flex-1 text-[15px] leading-snug">
			{#if bench.refusals}<strong>Nothing was changed.</strong>{/if}
			{bench.frozen}
		</p>
		{#if away}<a class="btn shrink-0" href="/jobs/{bench.job.id}/prove">To the signature</a>{/if}
	</div>
{/if}
