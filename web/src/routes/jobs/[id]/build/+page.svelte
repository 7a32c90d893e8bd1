<script lang="ts">
	import { useQueryClient } from '@tanstack/svelte-query';
	import { api, type Schemas } from '$lib/api/client';
	import { theBench } from '$lib/bench/context.svelte';
	import CardSheet from '$lib/bench/CardSheet.svelte';
	import { cardQuery } from '$lib/queries';

	const bench = theBench();
	const queries = useQueryClient();
	const card = cardQuery(
		() => bench.job.id,
		() => `${bench.versions.plan}.${bench.versions.measure}.${bench.versions.align}.${bench.versions.brief}`
	);
	let trouble = $state('');
	// The card is of the saved plan: what still waits is saved first.
	$effect(() => {
		void bench.flush().then(() => queries.invalidateQueries({ queryKey: ['card', bench.job.id] }));
	});

	async function tick(step: string, isDone: boolean) {
		trouble = await bench.stamp('build', (version) =>
			api.POST('/api/jobs/{job_id}/build/tick', {
				params: { path: { job_id: bench.job.id } },
				body: { version, step, done: isDone }
			})
		);
	}
	async function torque(step: Schemas['Step'], fastener: string, reading: Schemas['Torque'] | undefined) {
		const { axle, side } = step;
		if (!reading || !axle || !side) return;
		trouble = await bench.stamp('build', (version) =>
			api.POST('/api/jobs/{job_id}/build/torque', {
				params: { path: { job_id: bench.job.id } },
				body: { version, fastener, axle, side, torque: reading }
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
/>
