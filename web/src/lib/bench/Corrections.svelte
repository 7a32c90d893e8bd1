<script lang="ts">
	import { api, ask, type Schemas } from '../api/client';
	import Told from '../ui/Told.svelte';
	import type { AnyBench } from './jobBench.svelte';

	let { bench }: { bench: AnyBench } = $props();
	let found = $state.raw<Schemas['Correction'][]>([]);
	let open = $state(false);
	let trouble = $state('');
	let chosen = $state<Record<string, boolean>>({});
	const keys = $derived(found.map((c) => c.key).filter((key) => chosen[key] !== false));

	// What was put right on the vehicle is offered when the job is opened; nothing is taken over by itself.
	$effect(() => {
		const path = { job_id: bench.job.id };
		void ask(api.GET('/api/jobs/{job_id}/corrections', { params: { path } })).then((asked) => {
			found = asked.data ?? [];
			// That there may be corrections is no news; that nobody could say is.
			trouble = asked.trouble;
		});
	});
	async function take() {
		if (!(await bench.flush())) return;
		const asked = await ask(
			api.POST('/api/jobs/{job_id}/corrections', {
				params: { path: { job_id: bench.job.id } },
				body: { keys }
			})
		);
		trouble = asked.trouble;
		if (asked.data) location.reload();
	}
</script>

{#if found.length}
	<section
		class="border-fix bg-raised rounded-[3px] border-2 px-3 py-1.5"
		aria-label="Corrected on the vehicle"
		data-testid="corrections"
	>
		<div class="flex items-center gap-3">
			<p class="min-w-0 flex-1">
				<strong>Corrected on the vehicle since this job was opened:</strong>
				{found.length === 1 ? found[0]?.what : `${found.length} figures`}
			</p>
			<button class="btn shrink-0" aria-expanded={open} onclick={() => (open = !open)}
				>{open ? 'Hide' : 'Look'}</button
			>
			<button class="btn btn-dye shrink-0" disabled={!keys.length} onclick={take}
				>Take over {keys.length === found.length ? '' : `${keys.length} of ${found.length}`}</button
			>
			<button class="btn shrink-0" onclick={() => (found = [])}>Not now</button>
		</div>
		{#if open}
			<ul class="mt-1 grid max-h-[30vh] gap-1 overflow-y-auto">
				{#each found as c (c.key)}
					<li>
						<label class="flex items-start gap-2">
							<input
								type="checkbox"
								class="accent-dye mt-0.5 h-5 w-5 shrink-0"
								checked={chosen[c.key] !== false}
								onchange={(e) => (chosen[c.key] = e.currentTarget.checked)}
							/>
							<span>{c.what}</span>
						</label>
					</li>
				{/each}
			</ul>
		{/if}
		<Told sentence={trouble} />
	</section>
{/if}
