<script lang="ts">
	import { api, ask, type AxleName, type Schemas } from '../api/client';
	import { Latest } from '../bench/latest';
	import { number } from '../format';
	import Told from '../ui/Told.svelte';
	import Fills from './Fills.svelte';
	import Shapes from './Shapes.svelte';

	/** One end of a machine over its travel: a batch of pictures, and a slider through them. */
	let {
		job,
		axle,
		view,
		whose = 'planned',
		angles = [],
		drawn = $bindable()
	}: {
		job: Schemas['Job'] | Schemas['BikeJob'];
		axle: AxleName;
		view: Schemas['Seen']['view'];
		whose?: 'planned' | 'found';
		/** Camber from behind, toe from above, where the wheels ride: drawn larger than they are, and said so. */
		angles?: { side: 'left' | 'right'; deg: number }[];
		/** What is on the screen, for a file. */
		drawn?: SVGSVGElement;
	} = $props();

	/** What came last, and of what: pictures of one end never stand under the name of the other. */
	let came = $state.raw<{ of: string; seen: Schemas['Seen'] }>();
	const wished = $derived(`${axle}.${view}.${whose}`);
	const seen = $derived(came?.of === wished ? came.seen : undefined);
	let trouble = $state('');
	let frame = $state<number>();
	let width = $state(760);
	let height = $state(300);
	const asked = new Latest(
		async (body: { job: typeof job; axle: AxleName; view: typeof view; whose: typeof whose }) => ({
			of: `${body.axle}.${body.view}.${body.whose}`,
			...(await ask(api.POST('/api/seen', { body })))
		}),
		({ of, data, trouble: said }) => {
			if (data) came = { of, seen: data as Schemas['Seen'] };
			trouble = said;
		}
	);
	$effect(() => asked.wish({ job, axle, view, whose }));

	const last = $derived((seen?.frames.length ?? 1) - 1);
	const at = $derived(Math.min(frame ?? seen?.at_ride ?? 0, last));
	const rides = $derived(at === seen?.at_ride);
	const travel = $derived(seen?.travel[at] ?? 0);
	const word = $derived(
		rides ? 'where it rides' : at === 0 ? 'full droop' : at === last ? 'full bump' : 'of its travel'
	);
	const margin = 14;
	const scale = $derived(
		seen
			? Math.min(
					(width - 2 * margin) / (seen.high[0] - seen.low[0]),
					(height - 2 * margin) / (seen.high[1] - seen.low[1])
				)
			: 1
	);
	const x = $derived((u: number) => (seen ? width / 2 + (u - (seen.low[0] + seen.high[0]) / 2) * scale : 0));
	const y = $derived((v: number) => (seen ? height / 2 - (v - (seen.low[1] + seen.high[1]) / 2) * scale : 0));
	const told = $derived(
		(seen?.told ?? []).map((t) => ({
			name: t.name,
			value: `${number(t.values[at] ?? 0, t.digits, t.unit === '°')}${t.unit === '°' ? '°' : ` ${t.unit}`}`
		}))
	);
	/** Toe is so small an angle that ten times it is still a straight line. */
	const LARGER = $derived(view === 'above' ? 40 : 10);
	/** A wheel's line through its centre, leaning as much larger as said; positive camber and toe are out and in. */
	const lines = $derived(
		rides && seen && view !== 'side'
			? angles.flatMap((a) => {
					const hub = seen?.arches[a.side === 'left' ? 0 : 1]?.[0];
					if (!hub) return [];
					const outwards = a.side === 'left' ? -1 : 1;
					const lean = (a.deg * LARGER * Math.PI) / 180;
					const half = 0.33 * ((seen?.high[1] ?? 0) - (seen?.low[1] ?? 0)) * scale;
					// Toe in turns the front of a wheel inwards, camber out its top outwards.
					const sign = view === 'above' ? -outwards : outwards;
					const [cx, cy] = [x(hub[0]), y(hub[1])];
					const [dx, dy] = [sign * Math.sin(lean) * half, Math.cos(lean) * half];
					return [{ ...a, cx, cy, dx, dy, half }];
				})
			: []
	);
	const sight = $derived(
		view === 'side' ? 'from the side' : view === 'behind' ? 'from behind' : 'from above'
	);
</script>

<div class="flex h-full w-full flex-col">
	<div class="relative min-h-0 flex-1 overflow-hidden" bind:clientWidth={width} bind:clientHeight={height}>
		{#if seen}
			<svg
				bind:this={drawn}
				{width}
				{height}
				role="img"
				aria-label="{axle} end {sight}, to scale, at {number(travel, 0, true)} mm: {told
					.map((t) => `${t.name} ${t.value}`)
					.join(', ')}"
			>
				<Fills />
				{#if seen.ground !== null}
					<line x1="6" x2={width - 6} y1={y(seen.ground)} y2={y(seen.ground)} stroke="var(--ink)" />
				{/if}
				{#if rides}<Shapes shapes={seen.ghost} {x} {y} {scale} ghost />{/if}
				<Shapes shapes={seen.frames[at] ?? []} {x} {y} {scale} />
				{#each seen.arches as [hub, edge], i (i)}
					<path
						d="M{x(edge[0]) - 22} {y(edge[1])}h44"
						stroke="var(--dye)"
						stroke-width="2.4"
						class={view === 'above' ? 'hidden' : ''}
					>
						<title>Wheel arch: {number(edge[1] - hub[1], 0)} mm above the wheel centre where it rides</title>
					</path>
				{/each}
				{#each lines as l (l.side)}
					<path d="M{l.cx} {l.cy - l.half}V{l.cy + l.half}" class="true" />
					<path d="M{l.cx - l.dx} {l.cy + l.dy}L{l.cx + l.dx} {l.cy - l.dy}" class="leans" />
					<text x={l.cx} y={l.cy + l.half + 22} text-anchor="middle" class="figure angle"
						>{number(l.deg, 2, true)}°</text
					>
				{/each}
				{#if lines.length}
					<text x={width / 2} y={height - 6} text-anchor="middle" class="note"
						>{view === 'above' ? 'toe' : 'camber'} as it will be set, drawn {LARGER}× larger</text
					>
				{/if}
			</svg>
		{:else if !trouble}<p class="text-quiet p-3">Drawing…</p>{/if}
		<Told sentence={trouble} class="absolute inset-x-2 bottom-2" />
	</div>
	<div class="border-rule flex items-center gap-3 border-t px-3 py-1">
		<label class="flex min-w-0 flex-1 items-center gap-2">
			<span class="sr-only">Wheel travel of the {axle} end</span>
			<span class="text-quiet">droop</span>
			<input
				type="range"
				class="accent-dye h-6 min-w-0 flex-1"
				aria-label="Wheel travel of the {axle} end"
				aria-valuetext="{number(travel, 0, true)} mm, {word}"
				disabled={!seen}
				min="0"
				max={last}
				value={at}
				oninput={(e) => (frame = Number(e.currentTarget.value))}
			/>
			<span class="text-quiet">bump</span>
		</label>
		<span class="figure min-w-[84px] text-right text-lg font-bold">{number(travel, 0, true)} mm</span>
		<button class="btn min-h-7" disabled={rides} onclick={() => (frame = undefined)}>where it rides</button>
	</div>
	<dl class="flex flex-wrap gap-x-4 px-3 pb-1 text-[13px]">
		{#each told as t (t.name)}
			<div class="flex gap-1.5 whitespace-nowrap">
				<dt class="text-quiet">{t.name}</dt>
				<dd class="figure font-bold">{t.value}</dd>
			</div>
		{/each}
	</dl>
</div>

<style>
	.true {
		stroke: var(--quiet);
		stroke-dasharray: 6 4;
		stroke-width: 1.2;
	}
	.leans {
		stroke: var(--dye);
		stroke-width: 3;
		stroke-linecap: round;
	}
	.angle {
		font-size: 20px;
		font-weight: 700;
		fill: var(--ink);
		paint-order: stroke;
		stroke: var(--chalk);
		stroke-width: 4px;
	}
	.note {
		font-size: 13px;
		fill: var(--quiet);
	}
</style>
