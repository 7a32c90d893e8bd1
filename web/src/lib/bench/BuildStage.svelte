<script lang="ts">
	import { useQueryClient } from '@tanstack/svelte-query';
	import { api, type Schemas } from '../api/client';
	import { cardQuery } from '../queries';
	import CardSheet from './CardSheet.svelte';
	import { wingOf } from '../wings';
	import { theBench } from './context.svelte';

	/** The job card of any machine: its steps, ticks and torques. */
	const bench = theBench();
	const queries = useQueryClient();
	const { Place } = wingOf(bench.kind);
	const card = cardQuery(
		() => bench.job.id,
		() => (['plan', 'measure', 'align', 'brief'] as const).map((stage) => bench.versions[stage]).join('.')
	);
	let trouble = $state('');
	// The card is of the saved plan: what still waits is saved first.
	$effect(() => {
		void bench.flush().then(() => queries.invalidateQueries({ queryKey: ['card', bench.job.id] }));
	});

	async function tick(step: string, done: boolean, hold?: { held: boolean; despite: string }) {
		trouble = await bench.stamp('build', (version) =>
			api.POST('/api/jobs/{job_id}/build/tick', {
				params: { path: { job_id: bench.job.id } },
				body: { version, step, done, held: hold?.held ?? false, despite: hold?.despite ?? '' }
			})
		);
	}
	async function torque(step: Schemas['Step'], fastener: string, reading: Schemas['Torque'] | undefined) {
		const { axle, side } = step;
		if (!reading) return;
		trouble = await bench.stamp('build', (version) =>
			api.POST('/api/jobs/{job_id}/build/torque', {
				params: { path: { job_id: bench.job.id } },
				// A bolt of the whole machine stands in the book of the rear axle.
				body: { version, fastener, axle: axle ?? 'rear', side, torque: reading }
			})
		);
		// What was read is held against its figure on the card.
		void queries.invalidateQueries({ queryKey: ['card', bench.job.id] });
	}
	async function print() {
		if (await bench.flush()) window.open(`/api/jobs/${bench.job.id}/card.pdf`);
	}
</script>

<CardSheet
	{card}
	build={bench.job.build}
	jobId={bench.job.id}
	{trouble}
	ontick={tick}
	ontorque={torque}
	onprint={print}
	picture={Place && place}
/>
{#snippet place(step: Schemas['Step'])}
	{#if Place}<Place job={bench.job} {step} />{/if}
{/snippet}
