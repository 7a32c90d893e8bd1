<script lang="ts">
	import { api, ask, type Schemas } from '../api/client';
	type AnyJob = Schemas['Job'] | Schemas['BikeJob'];
	import { Latest } from '../bench/latest';
	import Told from '../ui/Told.svelte';
	import Fills from './Fills.svelte';
	import Shapes from './Shapes.svelte';

	/** A machine as it stands, the joint of a step marked. */
	let { job, step, view }: { job: AnyJob; step: Schemas['Step']; view: Schemas['Seen']['view'] } = $props();

	/** How much of the other end is still seen beside one, as a share of the machine. */
	const BESIDE = 0.04;
	let came = $state.raw<{ axle: string; seen: Schemas['Seen'] }>();
	let trouble = $state('');
	let width = $state(380);
	let height = $state(320);
	const asked = new Latest(
		async (body: { job: AnyJob; axle: 'front' | 'rear' }) => ({
			axle: body.axle,
			...(await ask(
				api.POST('/api/seen', { body: { ...body, view, whose: 'found', by: 'travel' } as never })
			))
		}),
		({ axle, data, trouble: said }) => {
			if (data) came = { axle, seen: data as Schemas['Seen'] };
			trouble = said;
		}
	);
	// Another step of the same axle is another mark on the same picture.
	$effect(() => {
		if (step.axle && came?.axle !== step.axle) asked.wish({ job, axle: step.axle });
	});
	const seen = $derived(came && came.axle === step.axle ? came.seen : undefined);
	const marks = $derived(
		(seen?.joints ?? []).filter(
			(j) => j.name === step.joint && (!step.side || j.key.startsWith(`${step.side}.`))
		)
	);
	/** A side, or an end, by itself is drawn as large as it goes; from behind the left one is on the left. */
	const room = $derived.by(() => {
		if (!seen) return { low: [0, 0], high: [1, 1] } as const;
		const half = (seen.low[0] + seen.high[0]) / 2;
		const alone = view === 'behind' ? step.side : step.axle === 'rear' ? 'left' : 'right';
		const over = view === 'behind' ? 0 : BESIDE * (seen.high[0] - seen.low[0]);
		return {
			low: [alone === 'right' ? half - over : seen.low[0], seen.low[1]] as const,
			high: [alone === 'left' ? half + over : seen.high[0], seen.high[1]] as const
		};
	});
	const scale = $derived(
		Math.min((width - 24) / (room.high[0] - room.low[0]), (height - 24) / (room.high[1] - room.low[1]))
	);
	const x = $derived((u: number) => width / 2 + (u - (room.low[0] + room.high[0]) / 2) * scale);
	const y = $derived((v: number) => height / 2 - (v - (room.low[1] + room.high[1]) / 2) * scale);
</script>

<div class="h-full w-full overflow-hidden" bind:clientWidth={width} bind:clientHeight={height}>
	{#if seen}
		<svg
			{width}
			{height}
			role="img"
			aria-label="{step.axle} {step.side ?? ''} {view === 'behind'
				? 'from behind'
				: 'from the side'}, the place of this step marked"
		>
			<Fills />
			{#if seen.ground !== null}
				<line x1="4" x2={width - 4} y1={y(seen.ground)} y2={y(seen.ground)} stroke="var(--ink)" />
			{/if}
			<Shapes shapes={seen.frames[seen.at_ride] ?? []} {x} {y} {scale} />
			{#each marks as m (m.key)}
				<circle cx={x(m.at[0])} cy={y(m.at[1])} r="24" class="mark" data-testid="joint-mark" />
			{/each}
		</svg>
	{/if}
	<Told sentence={trouble} />
</div>

<style>
	.mark {
		fill: none;
		stroke: var(--fix);
		stroke-width: 6;
	}
</style>
