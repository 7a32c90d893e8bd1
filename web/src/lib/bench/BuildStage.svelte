<script lang="ts">
	import { useQueryClient } from '@tanstack/svelte-query';
	import { api, ask, type Schemas } from '../api/client';
	import { cardQuery } from '../queries';
	import type { CardActs } from './cardActs';
	import JointPlace from '../draw/JointPlace.svelte';
	import CardPage from './CardPage.svelte';
	import { wingOf } from '../wings';
	import { theBench } from './context.svelte';
	import { outbox, withSettings, type Act } from './outbox.svelte';

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
	/** What was read or found is held against the card, and changes it, once the server has it. */
	const heldAgainst = $derived.by(() => {
		const { found, settings, torques } = bench.job.build as Schemas['Build'];
		return JSON.stringify([found, settings, torques]);
	});
	let against = '';
	$effect(() => {
		if (against && against !== heldAgainst) anew();
		against = heldAgainst;
	});
	const anew = () => void queries.invalidateQueries({ queryKey: ['card', bench.job.id] });
	const shown = $derived(
		card.data && { ...card.data, settings: withSettings(card.data.settings, bench.acts) }
	);

	const stepOf = (id: string) => card.data?.steps.find((s) => s.id === id);
	const place = (step: { axle?: string | null; side?: string | null }) =>
		[step.axle, step.side].filter(Boolean).join(' ');
	function told(id: string): string {
		const step = stepOf(id);
		return step ? [place(step), step.text].filter(Boolean).join(': ') : id;
	}
	const done = (act: Act, words: string) => (trouble = bench.act(act, words));
	const tightened = (
		step: Schemas['Step'],
		record: Pick<Schemas['Tighten'], 'fastener' | 'torque' | 'angle_deg' | 'by_feel'>
	) => {
		const named = step.fasteners.find((f) => f.key === record.fastener)?.name ?? record.fastener;
		const read = record.by_feel ? 'by feel' : (record.torque?.text ?? record.torque);
		return done(
			// A bolt of the whole machine stands in the book of the rear axle.
			{ do: 'torque', axle: step.axle ?? 'rear', side: step.side, ...record },
			`${[place(step), named].filter(Boolean).join(', ')}: ${read}.`
		);
	};
	const found = (id: string) => (bench.build.found ?? []).find((f) => f.id === id);
	/** What the server does with something found needs it to be there. */
	const sent = async () =>
		(await outbox.flush(bench.job.id)) ? '' : 'What was done last is not saved yet: once it is, press again.';
	const acts: CardActs = {
		tick: async (step, done_, hold, minutes) =>
			done(
				{
					do: 'tick',
					step,
					done: done_,
					held: hold?.held ?? false,
					despite: hold?.despite ?? '',
					minutes: minutes ?? null
				},
				`${done_ ? 'tick' : 'tick taken back'}, ${told(step)}`
			),
		torque: async (step, fastener, torque, angle_deg) =>
			torque ? tightened(step, { fastener, torque, angle_deg, by_feel: false }) : '',
		byFeel: async (step, fastener) => tightened(step, { fastener, by_feel: true }),
		found: (finding, id) =>
			bench.actChecked(
				{
					do: 'found',
					key: id || `f-${crypto.randomUUID().slice(0, 13)}`,
					again: Boolean(id),
					found: finding
				},
				`found: ${finding.what}.`
			),
		withdraw: async (key) => done({ do: 'withdraw', key }, `taken back: ${found(key)?.what ?? key}.`),
		followUp: async (id) => {
			const waits = await sent();
			if (waits) return waits;
			const asked = await ask(
				api.POST('/api/jobs/{job_id}/build/found/{finding_id}/follow-up', {
					params: { path: { job_id: bench.job.id, finding_id: id } }
				})
			);
			return asked.data ? bench.refresh() : asked.trouble;
		},
		keep: async (id) => {
			const waits = await sent();
			if (waits) return waits;
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
		setting: async ({ key, axle, side, name }, read) =>
			done(
				{ do: 'setting', setting: { key, axle, side, ...read } },
				`${[place({ axle, side }), name].filter(Boolean).join(', ')}: ${read.before ?? read.after}.`
			)
	};
	async function print(paper: 'card' | 'quotation' | 'labels') {
		if ((await bench.flush()) && (await outbox.flush(bench.job.id)))
			window.open(`/api/jobs/${bench.job.id}/${paper}.pdf`);
	}
</script>

<CardPage
	card={{ isPending: card.isPending || !outbox.ready, isError: card.isError, error: card.error, data: shown }}
	build={bench.build}
	jobId={bench.job.id}
	{trouble}
	{acts}
	onprint={print}
	picture={drawn}
/>
{#snippet drawn(step: Schemas['Step'])}
	<JointPlace job={bench.job} {step} view={wing.place} />
{/snippet}
