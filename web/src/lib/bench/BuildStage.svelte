<script lang="ts">
	import { useQueryClient } from '@tanstack/svelte-query';
	import { api, ask, type Schemas } from '../api/client';
	import { cardQuery } from '../queries';
	import type { CardActs } from './cardActs';
	import JointPlace from '../draw/JointPlace.svelte';
	import CardPage from './CardPage.svelte';
	import { wingOf } from '../wings';
	import { theBench } from './context.svelte';

	/** The job card of any machine: its steps, ticks and torques. */
	const bench = theBench();
	const queries = useQueryClient();
	const wing = wingOf(bench.kind);
	const card = cardQuery(
		() => bench.job.id,
		() => (['plan', 'measure', 'align', 'brief'] as const).map((stage) => bench.versions[stage]).join('.')
	);
	let trouble = $state('');
	// The card is of the saved plan: what still waits is saved first.
	$effect(() => {
		void bench.flush().then(() => queries.invalidateQueries({ queryKey: ['card', bench.job.id] }));
	});

	const path = () => ({ path: { job_id: bench.job.id } });
	/** What was read or found is held against the card, and changes it. */
	const anew = () => void queries.invalidateQueries({ queryKey: ['card', bench.job.id] });
	async function told(trouble: Promise<string>): Promise<string> {
		const said = await trouble;
		if (!said) anew();
		return said;
	}
	const tightened = (
		{ axle, side }: Schemas['Step'],
		record: Pick<Schemas['Tightened'], 'fastener' | 'torque' | 'angle_deg' | 'by_feel'>
	) =>
		told(
			bench.stamp('build', (version) =>
				api.POST('/api/jobs/{job_id}/build/torque', {
					params: path(),
					// A bolt of the whole machine stands in the book of the rear axle.
					body: { version, axle: axle ?? 'rear', side, ...record }
				})
			)
		);
	const acts: CardActs = {
		tick: async (step, done, hold, minutes) =>
			(trouble = await bench.stamp('build', (version) =>
				api.POST('/api/jobs/{job_id}/build/tick', {
					params: path(),
					body: {
						version,
						step,
						done,
						held: hold?.held ?? false,
						despite: hold?.despite ?? '',
						minutes: minutes ?? null
					}
				})
			)),
		torque: async (step, fastener, torque, angle_deg) =>
			torque ? (trouble = await tightened(step, { fastener, torque, angle_deg, by_feel: false })) : '',
		byFeel: async (step, fastener) => (trouble = await tightened(step, { fastener, by_feel: true })),
		found: (finding, id = '') =>
			told(
				bench.stamp('build', (version) =>
					api.POST('/api/jobs/{job_id}/build/found', {
						params: path(),
						body: { version, id, found: finding }
					})
				)
			),
		withdraw: (id) =>
			told(
				bench.stamp('build', (version) =>
					api.POST('/api/jobs/{job_id}/build/found/{finding_id}/withdraw', {
						params: { path: { job_id: bench.job.id, finding_id: id } },
						body: { version }
					})
				)
			),
		followUp: (id) =>
			told(
				bench.stamp('build', (version) =>
					api.POST('/api/jobs/{job_id}/build/found/{finding_id}/follow-up', {
						params: { path: { job_id: bench.job.id, finding_id: id } },
						body: { version }
					})
				)
			),
		keep: async (id) => {
			const asked = await ask(
				api.POST('/api/jobs/{job_id}/build/found/{finding_id}/keep', {
					params: { path: { job_id: bench.job.id, finding_id: id } }
				})
			);
			if (!asked.data) return asked.trouble;
			const trouble = await bench.refresh();
			anew();
			return trouble;
		},
		setting: ({ key, axle, side }, read) =>
			told(
				bench.stamp('build', (version) =>
					api.POST('/api/jobs/{job_id}/build/setting', {
						params: path(),
						body: { version, setting: { key, axle, side, ...read } }
					})
				)
			)
	};
	async function print(paper: 'card' | 'quotation' | 'labels') {
		if (await bench.flush()) window.open(`/api/jobs/${bench.job.id}/${paper}.pdf`);
	}
</script>

<CardPage
	{card}
	build={bench.job.build}
	jobId={bench.job.id}
	{trouble}
	{acts}
	onprint={print}
	picture={place}
/>
{#snippet place(step: Schemas['Step'])}
	<JointPlace job={bench.job} {step} view={wing.place} />
{/snippet}
