<script lang="ts">
	import Fills from '../draw/Fills.svelte';
	import Shapes, { type Shape } from '../draw/Shapes.svelte';
	import { number } from '../format';
	import { nudge } from '../ui/nudge';
	import type { AxleBench, Place, Side, TapeAt } from './axlesBench.svelte';

	type View = 'end' | 'side' | 'plan';
	let {
		bench,
		view,
		frame,
		title,
		parts,
		tape,
		chosen = '',
		side: chosenSide = 'left',
		onchoose,
		onmove
	}: {
		bench: AxleBench;
		view: View;
		/** Index into the bench's frames. */
		frame: number;
		title: string;
		/** Its parts at the bench's frames; without them its points are joined by lines. */
		parts?: readonly (readonly Shape[])[];
		/** Where the tape is held. */
		tape?: TapeAt;
		chosen?: string;
		/** Side the chosen point belongs to, where the sides differ. */
		side?: Side;
		onchoose?: (name: string, side: Side) => void;
		/** A point dragged or nudged, at the reference height only; told as a left one. */
		onmove?: (name: string, to: Place, side: Side) => void;
	} = $props();

	let width = $state(300);
	let height = $state(200);
	const baseline = $derived(
		bench.travel.reduce((best, z, i) => (Math.abs(z) < Math.abs(bench.travel[best] ?? 0) ? i : best), 0)
	);
	const atRest = $derived(frame === baseline);
	const at = (name: string, f = frame): Place | undefined => bench.frames[name]?.[f] as Place | undefined;
	/** Seen from behind, from the left, from above: which coordinate goes right, which goes up. */
	const across = { end: 1, side: 0, plan: 1 } as const;
	const up = { end: 2, side: 2, plan: 0 } as const;
	const flip = $derived(view === 'side' ? 1 : -1);

	const both = $derived(bench.coupled || Boolean(bench.right));
	const otherFrame = $derived.by(() => {
		const z = bench.right?.travel ?? [];
		const here = bench.travel[frame] ?? 0;
		return z.reduce((best, v, i) => (Math.abs(v - here) < Math.abs((z[best] ?? 0) - here) ? i : best), 0);
	});

	const spread = $derived.by(() => {
		const a: number[] = [];
		const b: number[] = [];
		for (const name of Object.keys(bench.frames)) {
			for (const f of [0, baseline, bench.travel.length - 1]) {
				const p = at(name, f);
				if (!p) continue;
				a.push(flip * p[across[view]]);
				b.push(p[up[view]]);
			}
		}
		const w = at(bench.wheel, baseline) ?? [0, 700, 300];
		const r = bench.tyre_radius;
		if (view === 'end') {
			// An independent side is its mirror image: the left half is drawn large, the other one faintly begun.
			a.push(-(w[1] + 0.34 * r), both ? w[1] + 0.34 * r : 150);
			b.push(w[2] - r - 12, w[2] + r * 0.7);
		} else if (view === 'side') {
			a.push(w[0] - r, w[0] + r);
			b.push(w[2] - r - 12, w[2] + r);
		} else {
			a.push(-(w[1] + 0.34 * r), both ? w[1] + 0.34 * r : 150);
			b.push(w[0] - r, w[0] + r);
		}
		return { a0: Math.min(...a), a1: Math.max(...a), b0: Math.min(...b), b1: Math.max(...b) };
	});
	/** While a point is dragged the picture stays put, whatever the axle does in it. */
	let pinned = $state.raw<{ scale: number; mid: { a: number; b: number } }>();
	const scale = $derived(
		pinned?.scale ?? Math.min((width - 26) / (spread.a1 - spread.a0), (height - 40) / (spread.b1 - spread.b0))
	);
	const mid = $derived(pinned?.mid ?? { a: (spread.a0 + spread.a1) / 2, b: (spread.b0 + spread.b1) / 2 });
	const px = (p: Place) => width / 2 + (flip * p[across[view]] - mid.a) * scale;
	const py = (p: Place) => (height + 18) / 2 - (p[up[view]] - mid.b) * scale;
	const mirrored = (p: Place): Place => [p[0], -p[1], p[2]];
	/** The right wheel's own place of a point where the sides differ, else the left one's image. */
	const other = (name: string): Place | undefined => {
		const p = (bench.right?.frames[name]?.[otherFrame] as Place | undefined) ?? at(name);
		return p && mirrored(p);
	};
	/** Whether the right side has points of its own; where it has none it is the mirror image of the left one. */
	const whole = $derived(
		bench.members.some((m) => m.start.split('_').includes('right') || m.end.includes('lateral'))
	);
	/** A spring or damper given for the left side of a whole axle alone. */
	const halfGiven = (m: (typeof bench.members)[number]) =>
		view !== 'side' && m.start.includes('_left_') && !bench.frames[m.start.replace('left', 'right')];
	const sides = $derived(whole || view === 'side' ? [1] : [1, -1]);

	function wheelPath(side: number): string {
		const w = at(bench.wheel);
		if (!w) return '';
		const r = bench.tyre_radius;
		const c = side === 1 ? w : (other(bench.wheel) ?? w);
		const [seen, f] = side === -1 && bench.right ? [bench.right, otherFrame] : [bench, frame];
		const lean = ((seen.camber_deg[f] ?? 0) * Math.PI) / 180;
		const toe = ((seen.toe_deg[f] ?? 0) * Math.PI) / 180;
		const half = 0.3 * r;
		const corner = (u: number, v: number): Place =>
			view === 'end'
				? [c[0], c[1] + side * (v * Math.sin(lean) + u), c[2] + v * Math.cos(lean)]
				: [c[0] + v * Math.cos(toe), c[1] + side * (u - v * Math.sin(toe)), c[2]];
		return (
			[
				[-half, -r],
				[half, -r],
				[half, r],
				[-half, r]
			]
				.map(([u, v]) => corner(u ?? 0, v ?? 0))
				.map((p, i) => `${i ? 'L' : 'M'}${px(p).toFixed(1)} ${py(p).toFixed(1)}`)
				.join('') + 'Z'
		);
	}
	const looks: Record<string, { colour: string; width: number; dash?: string }> = {
		arm: { colour: 'var(--dye)', width: 3 },
		rod: { colour: 'var(--dye)', width: 1.8 },
		strut: { colour: 'var(--ink)', width: 4 },
		spring: { colour: 'var(--ink)', width: 2, dash: '5 3' },
		hub: { colour: 'var(--quiet)', width: 2 },
		pivot: { colour: 'var(--quiet)', width: 1.2, dash: '3 3' }
	};
	const sloped = $derived(bench.members.filter((m) => m.slope_deg !== null && m.look === 'arm'));
	/** Angles of all arms where there are few, else of those the chosen point belongs to. */
	const told = $derived(
		sloped.filter((m) =>
			sloped.length <= 4
				? !m.start.includes('rear')
				: [m.start, m.end].some((n) => n === chosen || tape?.points.includes(n))
		)
	);
	/** Sides whose points can be taken hold of: the right wheel has its own only where it differs. */
	const pointSides = $derived<Side[]>(bench.right && view !== 'side' ? ['left', 'right'] : ['left']);
	const drawnPoints = $derived(bench.points.filter((p) => p.name !== bench.wheel && at(p.name)));
	const ground = $derived.by(() => {
		const w = at(bench.wheel);
		return w ? w[2] - bench.tyre_radius : 0;
	});

	/** Where a drag began: at the pointer, and on the vehicle. */
	let drag: { name: string; side: Side; from: [number, number]; at: Place } | undefined;
	/** Which way a side's points lie across the vehicle: the core is told the right wheel as a left one. */
	const turned = (side: Side) => (side === 'right' && view !== 'side' ? -1 : 1);
	function onpointerdown(name: string, side: Side, event: PointerEvent) {
		onchoose?.(name, side);
		const from = side === 'right' ? other(name) : at(name);
		if (!onmove || !atRest || !from) return;
		(event.currentTarget as SVGElement).setPointerCapture(event.pointerId);
		pinned = { scale, mid };
		drag = { name, side, from: [event.clientX, event.clientY], at: from };
	}
	function onpointermove(name: string, side: Side, event: PointerEvent) {
		if (drag?.name !== name || drag.side !== side) return;
		const tenth = (mm: number) => Math.round(10 * mm) / 10;
		const to: Place = [...drag.at];
		to[across[view]] = tenth(to[across[view]] + (flip * (event.clientX - drag.from[0])) / scale);
		to[up[view]] = tenth(to[up[view]] + (drag.from[1] - event.clientY) / scale);
		onmove?.(name, turned(side) === -1 ? mirrored(to) : to, side);
	}
	function letGo() {
		drag = pinned = undefined;
	}
	function onkeydown(name: string, side: Side, event: KeyboardEvent) {
		const by = nudge(event);
		const from = side === 'right' ? (bench.right ?? bench) : bench;
		const p = from.points.find((q) => q.name === name)?.at as Place | undefined;
		if (!by || !p || !onmove || !atRest) return;
		event.preventDefault();
		const to: Place = [...p];
		to[across[view]] += turned(side) * flip * by[0];
		to[up[view]] += by[1];
		onmove(name, to, side);
	}
	const drawn = $derived(parts?.[frame]);
	const source = { measured: 'measured', scaled: 'scaled', assumed: 'assumed' };
</script>

<div class="h-full w-full overflow-hidden" bind:clientWidth={width} bind:clientHeight={height}>
	<svg {width} {height} role="group" aria-label="{title}, to scale">
		<text x="8" y="15" class="title">{title}</text>
		{#if view !== 'plan'}
			<line
				x1="4"
				x2={width - 4}
				y1={py([0, 0, ground])}
				y2={py([0, 0, ground])}
				stroke="var(--ink)"
				stroke-width="1.2"
			/>
		{:else}
			<line x1={px([0, 0, 0])} x2={px([0, 0, 0])} y1="20" y2={height - 4} class="centre" />
		{/if}
		{#if view === 'end'}<line
				x1={px([0, 0, 0])}
				x2={px([0, 0, 0])}
				y1="20"
				y2={height - 4}
				class="centre"
			/>{/if}
		{#if drawn}
			<Fills />
			<Shapes
				shapes={drawn}
				x={(u) => width / 2 + ((view === 'side' ? -u : u) - mid.a) * scale}
				y={(v) => (height + 18) / 2 - (v - mid.b) * scale}
				{scale}
			/>
		{:else if view === 'side'}
			{@const w = at(bench.wheel)}
			{#if w}<circle cx={px(w)} cy={py(w)} r={bench.tyre_radius * scale} class="tyre" />{/if}
		{:else}
			{#each [1, -1] as side (side)}<path d={wheelPath(side)} class="tyre" />{/each}
		{/if}
		{#each [1, -1] as side (side)}
			{#each bench.members.filter((m) => side === 1 || sides.includes(-1) || halfGiven(m)) as m (m.start + m.end)}
				{@const a = at(m.start)}
				{@const b = at(m.end)}
				{#if a && b}
					{@const look = looks[m.look] ?? { colour: 'var(--dye)', width: 2 }}
					{@const s = side === 1 ? a : (other(m.start) ?? a)}
					{@const e = side === 1 ? b : (other(m.end) ?? b)}
					{#if !drawn}<line
							x1={px(s)}
							y1={py(s)}
							x2={px(e)}
							y2={py(e)}
							stroke={look.colour}
							stroke-width={look.width}
							stroke-dasharray={look.dash}
							stroke-linecap="round"
							opacity={side === 1 || both ? 1 : 0.35}
						/>{/if}
					{#if view === 'end' && side === 1 && m.slope_deg !== null && atRest && told.includes(m)}
						<text x={(px(s) + px(e)) / 2} y={(py(s) + py(e)) / 2 - 5} text-anchor="middle" class="angle"
							>{number(m.slope_deg, 1, true)}°</text
						>
					{/if}
				{/if}
			{/each}
		{/each}
		{#if view === 'end' && atRest}
			{#if bench.roll_centre}
				{@const rc = bench.roll_centre as Place}
				<g stroke="var(--fix)" stroke-width="1.6" fill="none">
					<circle cx={px(rc)} cy={py(rc)} r="5" />
					<path d="M{px(rc) - 9} {py(rc)}h18M{px(rc)} {py(rc) - 9}v18" />
				</g>
				<text x={px(rc) + (both ? 11 : -11)} y={py(rc) - 8} text-anchor={both ? 'start' : 'end'} class="note"
					>roll centre {number(rc[2] - ground, 0)}</text
				>
			{/if}
			{#if bench.instant_centre}
				{@const ic = bench.instant_centre as Place}
				{@const w = at(bench.wheel)}
				{#if w}<line
						x1={px([0, w[1], ground])}
						y1={py([0, w[1], ground])}
						x2={px(ic)}
						y2={py(ic)}
						class="ray"
					/>{/if}
				<circle cx={px(ic)} cy={py(ic)} r="3.5" fill="var(--fix)" />
				{#if Math.abs(px(ic) - width / 2) < width / 2 - 40}<text
						x={px(ic)}
						y={py(ic) - 8}
						text-anchor="middle"
						class="note">instant centre</text
					>{/if}
			{/if}
		{/if}
		{#if tape && atRest}
			{@const [a, b] = tape.line as [Place, Place]}
			<line x1={px(a)} y1={py(a)} x2={px(b)} y2={py(b)} class="tape-line" data-testid="tape" />
		{/if}
		{#each pointSides as side (side)}
			{#each drawnPoints as p (p.name)}
				{@const here = side === 'right' ? other(p.name) : at(p.name)}
				{@const on =
					(chosen === p.name && (side === chosenSide || !bench.right)) || tape?.points.includes(p.name)}
				{#if here}
					<circle
						cx={px(here)}
						cy={py(here)}
						r={on ? 6.5 : 4.5}
						class="joint {p.source} {on ? 'on' : ''}"
						role="button"
						tabindex={onmove ? 0 : -1}
						aria-label="{p.title}, {source[p.source]}{bench.right ? `, ${side}` : ''}"
						onpointerdown={(e) => onpointerdown(p.name, side, e)}
						onpointermove={(e) => onpointermove(p.name, side, e)}
						onpointerup={letGo}
						onpointercancel={letGo}
						onfocus={() => onchoose?.(p.name, side)}
						onkeydown={(e) => onkeydown(p.name, side, e)}
					>
						<title>{p.title}: {p.source}, ± {number(p.plus_minus, 0)} mm</title>
					</circle>
				{/if}
			{/each}
		{/each}
		{#if chosen && at(chosen)}
			{@const c = (
				chosenSide === 'right' && pointSides.includes('right') ? other(chosen) : at(chosen)
			) as Place}
			{@const p = bench.points.find((q) => q.name === chosen)}
			{@const left = px(c) > width * 0.6}
			<text
				x={px(c) + (left ? -10 : 10)}
				y={Math.max(28, py(c) - 10)}
				text-anchor={left ? 'end' : 'start'}
				class="name">{p?.title}</text
			>
		{/if}
	</svg>
</div>

<style>
	text {
		font-size: 13px;
		fill: var(--quiet);
	}
	.title {
		font-weight: 650;
		font-size: 13px;
		fill: var(--ink);
	}
	.name,
	.note,
	.angle {
		font-weight: 650;
		fill: var(--ink);
		paint-order: stroke;
		stroke: var(--chalk);
		stroke-width: 3.5px;
	}
	.note {
		fill: var(--fix);
	}
	.angle {
		fill: var(--dye);
	}
	.centre {
		stroke: var(--rule);
		stroke-dasharray: 12 4 2 4;
	}
	.tyre {
		fill: none;
		stroke: var(--ink);
		stroke-width: 2.2;
	}
	.ray {
		stroke: var(--fix);
		stroke-dasharray: 5 4;
		stroke-width: 1;
	}
</style>
