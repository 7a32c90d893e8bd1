<script lang="ts">
	import { useQueryClient } from '@tanstack/svelte-query';
	import { api, type Schemas } from '$lib/api/client';
	import CardSheet from '$lib/bench/CardSheet.svelte';
	import { theBike } from '$lib/bike/bikeBench.svelte';
	import { bikeCardQuery } from '$lib/queries';

	const bench = theBike();
	const queries = useQueryClient();
	const card = bikeCardQuery(
		() => bench.job.id,
		() => `${bench.versions.plan}.${bench.versions.measure}.${bench.versions.brief}`
	);
	let trouble = $state('');
	// The card is of the saved plan: what still waits is saved first.
	$effect(() => {
		void bench.flush().then(() => queries.invalidateQueries({ queryKey: ['bike-card', bench.job.id] }));
	});
	async function tick(step: string, done: boolean) {
		trouble = await bench.stamp('build', (version) =>
			api.POST('/api/bike-jobs/{job_id}/build/tick', {
				params: { path: { job_id: bench.job.id } },
				body: { version, step, done }
			})
		);
	}
	async function torque(step: Schemas['Step'], fastener: string, reading: Schemas['Torque'] | undefined) {
		if (!reading) return;
		trouble = await bench.stamp('build', (version) =>
			api.POST('/api/bike-jobs/{job_id}/build/torque', {
				params: { path: { job_id: bench.job.id } },
				body: { version, fastener, axle: step.axle ?? 'rear', torque: reading }
			})
		);
		// What was read is held against its figure on the card.
		void queries.invalidateQueries({ queryKey: ['bike-card', bench.job.id] });
	}
	async function print() {
		if (await bench.flush()) window.open(`/api/bike-jobs/${bench.job.id}/card.pdf`);
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
