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
		settings = [],
		drawn = $bindable()
	}: {
		job: Schemas['Job'] | Schemas['BikeJob'];
		axle: AxleName;
		view: Schemas['Seen']['view'];
		whose?: 'planned' | 'found';
		/** Camber from behind, toe from above, where the wheels ride: drawn larger than they are, and said so. */
		angles?: { side: 'left' | 'right'; deg: number }[];
		/** What a hand sets, each at its place where it rides. */
		settings?: { key: string; says: string }[];
		/** What is on the screen, for a file. */
		drawn?: SVGSVGElement;
	} = $props();

	type By = Schemas['Seen']['by'];
	let wanted = $state<By>('travel');
	/** Which ends are known to have locks. */
	let lockable = $state<Record<string, boolean>>({});
	const locks = $derived(lockable[`${axle}.${whose}`] ?? false);
	/** An axle that is not steered moves through its travel, whatever the other one did. */
	const by = $derived<By>(locks ? wanted : 'travel');
	/** Both ends of the movement side by side. */
	let apart = $state(false);
	/** What came last, and of what: pictures of one end never stand under the name of the other. */
	let came = $state.raw<{ of: string; seen: Schemas['Seen'] }>();
	const wished = $derived(`${axle}.${view}.${whose}.${by}`);
	const seen = $derived(came?.of === wished ? came.seen : undefined);
	let trouble = $state('');
	let frame = $state<number>();
	let width = $state(760);
	let height = $state(300);
	const asked = new Latest(
		async (body: { job: typeof job; axle: AxleName; view: typeof view; whose: typeof whose; by: By }) => ({
			of: `${body.axle}.${body.view}.${body.whose}.${body.by}`,
			...(await ask(api.POST('/api/seen', { body })))
		}),
		({ of, data, trouble: said }) => {
			if (data) {
				came = { of, seen: data as Schemas['Seen'] };
				lockable[
					of
						.split('.')
						.filter((_, n) => n !== 1)
						.slice(0, 2)
						.join('.')
				] = came.seen.locks;
			}
			trouble = said;
		}
	);
	$effect(() => asked.wish({ job, axle, view, whose, by }));

	const last = $derived((seen?.frames.length ?? 1) - 1);
	const at = $derived(Math.min(frame ?? seen?.at_ride ?? 0, last));
	const rides = $derived(at === seen?.at_ride);
	const travel = $derived(seen?.travel[at] ?? 0);
	const turns = $derived(seen?.by === 'lock');
	const digits = $derived(turns ? 1 : 0);
	const unit = $derived(turns ? '°' : ' mm');
	const named = (n: number) =>
		n === seen?.at_ride ? seen.rest : n === 0 ? seen?.ends[0] : n === last ? seen?.ends[1] : '';
	const word = $derived(named(at) || (turns ? 'of its lock' : 'of its travel'));
	/** The pictures that stand in the drawing, each in its part of the width. */
	const shown = $derived(apart ? [0, last] : [at]);
	const room = $derived(width / shown.length);
	const margin = 14;
	const scale = $derived(
		seen
			? Math.min(
					(room - 2 * margin) / (seen.high[0] - seen.low[0]),
					(height - 2 * margin) / (seen.high[1] - seen.low[1])
				)
			: 1
	);
	const x = $derived((u: number) => (seen ? room / 2 + (u - (seen.low[0] + seen.high[0]) / 2) * scale : 0));
	const y = $derived((v: number) => (seen ? height / 2 - (v - (seen.low[1] + seen.high[1]) / 2) * scale : 0));
	const value = (t: Schemas['Seen']['told'][number], n: number) =>
		number(t.values[n] ?? 0, t.digits, t.unit === '°');
	/** Of the picture in the drawing; of both where two stand there. */
	const told = $derived(
		(seen?.told ?? []).map((t) => ({
			name: t.name,
			value: `${shown.map((n) => value(t, n)).join(' to ')}${t.unit === '°' ? '°' : ` ${t.unit}`}`
		}))
	);
	/** Toe is so small an angle that ten times it is still a straight line. */
	const LARGER = $derived(view === 'above' ? 40 : 10);
	/** A wheel's line through its centre, leaning as much larger as said; positive camber and toe are out and in. */
	const lines = $derived(
		rides && !apart && seen && view !== 'side'
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
	/** What comes together in a picture, told at its place; what is still far apart is left to the list below. */
	const close = (n: number) =>
		(seen?.near ?? []).flatMap((p) => {
			const [mm, spot] = [p.mm[n], p.at[n]];
			return mm !== undefined && spot && mm < (seen?.lit_mm ?? 0)
				? [
						{
							name: mm < 0 && p.pressed ? p.pressed : p.name,
							mm: mm < 0 && p.pressed ? -mm : mm,
							spot,
							meets: mm <= 0.5
						}
					]
				: [];
		});
	/** Labels below each other where they would lie on each other. */
	function spread<L extends { x: number; y: number }>(labels: L[]): L[] {
		const put: L[] = [];
		for (const l of [...labels].sort((a, b) => a.y - b.y)) {
			let y = l.y;
			for (const p of put) if (Math.abs(p.x - l.x) < 130 && y - p.y < 19) y = p.y + 19;
			put.push({ ...l, y });
		}
		return put;
	}
	const labels = $derived((n: number) =>
		spread(
			close(n).map((c) => ({
				...c,
				cx: x(c.spot[0]),
				cy: y(c.spot[1]),
				x: Math.min(Math.max(x(c.spot[0]), 76), room - 76),
				y: Math.min(y(c.spot[1]) - 12, height - 16)
			}))
		)
	);
	const spots = $derived(
		rides && !apart && seen
			? spread(
					seen.adjusters.flatMap((a) => {
						const says = settings.find((s) => s.key === a.key)?.says;
						if (!says) return [];
						const [cx, cy] = [x(a.at[0]), y(a.at[1])];
						return [{ ...a, says, cx, cy, x: Math.min(Math.max(cx, 110), width - 110), y: cy - 12 }];
					})
				)
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
				aria-label="{axle} end {sight}, to scale, at {number(travel, digits, true)}{unit}: {told
					.map((t) => `${t.name} ${t.value}`)
					.join(', ')}"
			>
				<Fills />
				{#if seen.ground !== null}
					<line x1="6" x2={width - 6} y1={y(seen.ground)} y2={y(seen.ground)} stroke="var(--ink)" />
				{/if}
				{#each shown as n, part (part)}
					<g transform="translate({part * room} 0)">
						{#if n === seen.at_ride && !apart}<Shapes shapes={seen.ghost} {x} {y} {scale} ghost />{/if}
						<Shapes shapes={seen.frames[n] ?? []} {x} {y} {scale} />
						{#if apart}
							<text x={room / 2} y="16" text-anchor="middle" class="name"
								>{named(n)}
								<tspan class="figure">{number(seen.travel[n] ?? 0, digits, true)}{unit}</tspan></text
							>
						{/if}
						{#each seen.arches as [hub, edge], i (i)}
							<path
								d="M{x(edge[0]) - 22} {y(edge[1])}h44"
								stroke="var(--dye)"
								stroke-width="2.4"
								class={view === 'above' ? 'hidden' : ''}
							>
								<title
									>Wheel arch: {number(edge[1] - hub[1], 0)} mm above the wheel centre where it rides</title
								>
							</path>
						{/each}
						{#each labels(n) as c, i (i)}
							<g class="near {c.meets ? 'meets' : ''}" data-testid="near">
								<circle cx={c.cx} cy={c.cy} r="7" />
								<path d="M{c.cx} {c.cy}L{c.x} {c.y + 2}" />
								<text x={c.x} y={c.y} text-anchor="middle"
									>{c.name} <tspan class="figure">{number(c.mm, 0)}</tspan></text
								>
							</g>
						{/each}
					</g>
				{/each}
				{#each spots as a (a.key)}
					<g class="spot">
						<circle cx={a.cx} cy={a.cy} r="6" />
						<path d="M{a.cx} {a.cy}L{a.x} {a.y + 2}" />
						<text x={a.x} y={a.y} text-anchor="middle"><title>{a.name}</title>{a.says}</text>
					</g>
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
			<span class="text-quiet">{seen?.ends[0] ?? 'droop'}</span>
			<input
				type="range"
				class="accent-dye h-6 min-w-0 flex-1"
				aria-label="{turns ? 'Turn of the wheels' : 'Wheel travel'} of the {axle} end"
				aria-valuetext="{number(travel, digits, true)}{unit}, {word}"
				disabled={!seen || apart}
				min="0"
				max={last}
				value={at}
				oninput={(e) => (frame = Number(e.currentTarget.value))}
			/>
			<span class="text-quiet">{seen?.ends[1] ?? 'bump'}</span>
		</label>
		<span class="figure min-w-[84px] text-right text-lg font-bold">{number(travel, digits, true)}{unit}</span>
		<button
			class="btn min-h-7"
			disabled={rides && !apart}
			onclick={() => {
				frame = undefined;
				apart = false;
			}}>{seen?.rest ?? 'where it rides'}</button
		>
		<button
			class="btn min-h-7 {apart ? 'border-dye text-dye bg-wash' : ''}"
			aria-pressed={apart}
			onclick={() => (apart = !apart)}>both ends</button
		>
		{#if locks}
			<button
				class="btn min-h-7 {wanted === 'lock' ? 'border-dye text-dye bg-wash' : ''}"
				aria-pressed={wanted === 'lock'}
				onclick={() => {
					frame = undefined;
					wanted = wanted === 'lock' ? 'travel' : 'lock';
				}}>lock to lock</button
			>
		{/if}
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
	.name {
		font-size: 14px;
		font-weight: 700;
		fill: var(--ink);
	}
	.near,
	.spot {
		--tone: var(--fix);
	}
	.near.meets {
		--tone: var(--stops);
	}
	.spot {
		--tone: var(--dye);
	}
	.near circle,
	.spot circle {
		fill: none;
		stroke: var(--tone);
		stroke-width: 2.2;
	}
	.near path,
	.spot path {
		stroke: var(--tone);
		stroke-width: 1;
	}
	.near text,
	.spot text {
		font-size: 13px;
		font-weight: 700;
		fill: var(--tone);
		paint-order: stroke;
		stroke: var(--chalk);
		stroke-width: 4px;
	}
</style>
