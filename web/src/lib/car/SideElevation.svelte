<script lang="ts">
	import { scaleLinear } from 'd3-scale';
	import type { AxleName, Job, Prediction, Schemas, Side } from '../api/client';
	import { length, number, plusMinus } from '../format';
	import Fills from '../draw/Fills.svelte';
	import PhotoBehind from '../draw/PhotoBehind.svelte';
	import Shapes from '../draw/Shapes.svelte';
	import { settings } from '../settings.svelte';

	let {
		prediction,
		job,
		axle = $bindable('front'),
		drawn = $bindable(),
		stage = 'plan',
		proof,
		tape,
		wanted,
		photograph,
		other,
		onwanted
	}: {
		prediction: Prediction;
		job: Job;
		axle?: AxleName;
		/** What the screen is about. */
		stage?: string;
		/** What was read after, held against the prediction. */
		proof?: Schemas['Proof'];
		/** The reading whose field has the focus. */
		tape?: { axle?: AxleName; side: Side; quantity: string; station?: string };
		/** What is on the screen, for a file. */
		drawn?: SVGSVGElement;
		wanted?: { axle: AxleName; rise: number };
		/** What another job of this vehicle plans. */
		other?: { title: string; stance: Schemas['StanceDrawing'] };
		/** Of the vehicle as it came, to lie behind it. */
		photograph?: Schemas['PlacedPhotograph'] | null;
		/** An axle is dragged, or moved by the keyboard, to a rise. */
		onwanted: (axle: AxleName, rise: number, done: boolean) => void;
	} = $props();

	let width = $state(760);
	let height = $state(330);
	const AXLES: AxleName[] = ['front', 'rear'];
	const GAUGE_PX = 118;
	const GAUGE_OFF_MM = 640;

	const drawing = $derived(prediction.drawing);
	/** While it is measured the vehicle that came is the one that is drawn; what is planned comes later. */
	const measuring = $derived(stage === 'measure');
	const shown = $derived(measuring ? drawing.before : drawing.after);
	type Line = Schemas['TapeLine'];
	const CALLED: Record<Line['quantity'], string> = {
		hub_to_arch: 'hub to arch',
		tyre_radius: 'tyre radius',
		tyre_to_arch: 'tyre to arch',
		exposed_rod: 'rod',
		bump_stop_gap: 'stop gap',
		station: ''
	};
	const isLit = (t: Line) =>
		Boolean(tape) &&
		tape?.quantity === t.quantity &&
		(tape?.axle ?? null) === t.axle &&
		(tape?.station ?? '') === (t.station ?? '');
	/** What was read there, of the side whose field has the focus, else of the left. */
	function readAt(t: Line): number | undefined {
		const of = job.measure;
		const on = (side: Side) =>
			t.quantity === 'station'
				? of.stations.find((r) => r.station === t.station && r.side === side)
				: of.corners.find((r) => r.axle === t.axle && r.side === side && r.quantity === t.quantity);
		const side = isLit(t) ? (tape?.side ?? 'left') : 'left';
		return on(side)?.reading.value;
	}
	const lines = $derived(
		measuring
			? drawing.before.tape.map((t, i) => {
					const [a, b] = [t.start, t.end];
					// Readings at one place stand beside each other: each has its own lane.
					const lane = t.quantity === 'tyre_radius' ? 1 : t.quantity === 'tyre_to_arch' ? -1 : 0;
					return { ...t, i, a, b, lane: lane * 14, lit: isLit(t), value: readAt(t) };
				})
			: []
	);
	/** Where the edge of an arch is wanted, of an end that has an aim. */
	const aims = $derived(
		AXLES.flatMap((name) => {
			const rise = prediction[name].aim;
			const [x, z] = drawing.before[name].arch_top;
			return rise === null || measuring || proof
				? []
				: [{ name, x, z: z + rise, met: prediction[name].aim_met }];
		})
	);
	const span = $derived(drawing.high[0] - drawing.low[0]);
	// One scale for both axes: the drawing is true.
	const scale = $derived(Math.min((width - 156) / span, (height - 58) / (drawing.high[1] + 60)));
	const left = $derived((width - span * scale) / 2);
	const px = (x: number) => left + (drawing.high[0] - x) * scale;
	/** Where the paper is taller than the drawing, it stands in its middle. */
	const lift = $derived(Math.max(0, (height - 58 - (drawing.high[1] + 60) * scale) / 2));
	const py = (z: number) => height - 30 - lift - z * scale;
	const path = (line: [number, number][], close = true) =>
		line.length
			? `M${line.map(([x, z]) => `${px(x).toFixed(1)} ${py(z).toFixed(1)}`).join('L')}${close ? 'Z' : ''}`
			: '';

	const wheel = (stance: Schemas['StanceDrawing'], name: AxleName) => stance[name];
	const archMean = (name: AxleName) => {
		const rows = prediction.heights.filter((h) => h.axle === name && h.kind === 'hub_to_arch');
		const mean = (pick: (h: Schemas['Height']) => number) =>
			rows.reduce((s, h) => s + pick(h), 0) / rows.length;
		return { before: mean((h) => h.before), after: mean((h) => h.after), pm: rows[0]?.plus_minus ?? 0 };
	};
	const travelScale = $derived.by(() => {
		const windows = AXLES.flatMap((a) => [prediction[a].travel_before, prediction[a].travel_after]);
		const low = Math.min(...windows.map((w) => w.droop)) - 6;
		const high = Math.max(...windows.map((w) => w.bump)) + 6;
		return scaleLinear([low, high], [GAUGE_PX, 0]);
	});
	const magnified = $derived(Math.abs(travelScale(1) - travelScale(0)) / scale);
	/** Whether what was read at both wheels has no room beside each other. */
	const crowded = $derived(
		px(drawing.before.rear.centre[0]) - px(drawing.before.front.centre[0]) <
			(drawing.before.front.radius + drawing.before.rear.radius) * scale + 300
	);
	/** Over the body, where there is room. */
	const cardTop = $derived(Math.max(6, py(drawing.high[1]) - 56));
	const gauges = $derived(
		AXLES.map((name) => ({
			name,
			x: px(wheel(drawing.after, name).centre[0] + (name === 'front' ? -GAUGE_OFF_MM : GAUGE_OFF_MM)),
			// Below the cards, whatever the size of the screen.
			top: Math.min(Math.max(py(400) - GAUGE_PX, cardTop + 70), py(0) - GAUGE_PX - 18),
			before: prediction[name].travel_before,
			after: prediction[name].travel_after
		}))
	);
	const stations = $derived.by(() => {
		const rows = prediction.heights.filter((h) => h.kind === 'station' && h.side === 'left');
		return rows.flatMap((h) => {
			const at = drawing.after.stations[h.label];
			return at
				? [{ ...h, at, outside: at[0] > drawing.high[0] - 300 ? -1 : at[0] < drawing.low[0] + 300 ? 1 : 0 }]
				: [];
		});
	});
	const punches = $derived(
		job.prove.after.corners
			.filter((c) => c.quantity === 'hub_to_arch')
			.map((c) => {
				const w = wheel(drawing.after, c.axle);
				const judged = proof?.heights.find((h) => h.axle === c.axle && h.side === c.side);
				const beside = c.side === 'left' ? -1 : 1;
				return {
					key: c.axle + c.side,
					x: px(w.centre[0]) + 11 * beside,
					y: py(w.centre[2] + c.reading.value),
					beside,
					judged,
					says: judged && `${c.side} ${length(judged.residual, settings.units, { signed: true })}`
				};
			})
	);

	let dragged: { axle: AxleName; from: number; rise: number } | undefined;

	function down(event: PointerEvent, name: AxleName) {
		axle = name;
		dragged = { axle: name, from: event.clientY, rise: prediction[name].rise };
		(event.currentTarget as Element).setPointerCapture(event.pointerId);
	}
	function move(event: PointerEvent) {
		if (!dragged) return;
		const pxPerMm = Math.abs(travelScale(1) - travelScale(0));
		const moved = (dragged.from - event.clientY) / pxPerMm;
		if (Math.abs(moved) >= 1) onwanted(dragged.axle, Math.round(dragged.rise + moved), false);
	}
	function up() {
		if (dragged && wanted?.axle === dragged.axle) onwanted(wanted.axle, wanted.rise, true);
		dragged = undefined;
	}
	function key(event: KeyboardEvent, name: AxleName) {
		const step = { ArrowUp: 1, ArrowDown: -1, PageUp: 10, PageDown: -10 }[event.key];
		if (!step) return;
		event.preventDefault();
		axle = name;
		const from = wanted?.axle === name ? wanted.rise : Math.round(prediction[name].rise);
		onwanted(name, from + step, true);
	}
</script>

<div class="h-full w-full overflow-hidden select-none" bind:clientWidth={width} bind:clientHeight={height}>
	<svg
		bind:this={drawn}
		{width}
		{height}
		role="group"
		aria-label="Side elevation to scale, before and planned"
		class={photograph ? 'over-photo' : ''}
	>
		<Fills />
		<line x1="8" x2={width - 8} y1={py(0)} y2={py(0)} stroke="var(--ink)" stroke-width="1.2" />
		{#each Array.from({ length: Math.floor(width / 14) }, (_, i) => i) as i (i)}
			<line
				x1={12 + i * 14}
				x2={6 + i * 14}
				y1={py(0)}
				y2={py(0) + 6}
				stroke="var(--quiet)"
				stroke-width="0.7"
			/>
		{/each}

		{#if photograph}
			<PhotoBehind {photograph} x={px} y={py} />
		{:else}
			<path d={path(shown.body)} fill="var(--raised)" fill-opacity="0.65" />
		{/if}
		<!-- Baseline: a chalk line. Plan: a scribed line. -->
		<path
			d={path(drawing.before.body)}
			fill="none"
			stroke="var(--quiet)"
			stroke-width="var(--line-chalk)"
			stroke-dasharray={measuring ? undefined : '7 4'}
		/>
		{#if !measuring}
			<path d={path(drawing.after.body)} fill="none" stroke="var(--dye)" stroke-width="var(--line-scribe)" />
		{/if}
		{#if other}<path
				d={path(other.stance.body)}
				fill="none"
				stroke="var(--ink)"
				stroke-width="1.6"
				stroke-dasharray="1.5 4"
				data-testid="other-plan"
			/>{/if}
		{#each shown.glass as pane, i (i)}
			<path
				d={path(pane)}
				fill={photograph ? 'none' : 'var(--bench)'}
				fill-opacity="0.6"
				stroke={measuring ? 'var(--quiet)' : 'var(--dye)'}
				stroke-width="0.8"
			/>
		{/each}

		<!-- The picture's right is the vehicle's rear. -->
		<Shapes shapes={shown.parts} x={(u) => px(-u)} y={py} {scale} />

		{#each aims as aim (aim.name)}
			<path
				d="M{px(aim.x) - 34} {py(aim.z)}h68"
				stroke={aim.met ? 'var(--good)' : 'var(--fix)'}
				stroke-width="2.4"
			/>
			<text
				x={px(aim.x) + (aim.name === 'front' ? -38 : 38)}
				y={py(aim.z) + 4}
				text-anchor={aim.name === 'front' ? 'end' : 'start'}
				class="small"
				style:fill={aim.met ? 'var(--good)' : 'var(--fix)'}>aim {aim.met ? '✓' : '✗'}</text
			>
		{/each}
		{#each measuring ? [] : AXLES as name (name)}
			{@const w = wheel(drawing.after, name)}
			{@const x = px(w.centre[0])}
			{@const y = py(w.centre[2])}
			{@const dim = archMean(name)}
			{@const archY = py(w.arch_top[1])}
			{@const cardY = Math.min(archY - 52, cardTop)}
			<!-- Hub to arch, dimensioned. -->
			<path
				d="M{x - 4} {archY}h8M{x - 4} {y}h8M{x} {y}V{archY}"
				stroke="var(--dye)"
				stroke-width="1.1"
				fill="none"
			/>
			<path d="M{x} {archY}V{cardY + 48}" stroke="var(--dye)" stroke-width="0.8" stroke-dasharray="2 3" />
			<path d="M{x} {archY}l-2.6 6h5.2zM{x} {y}l-2.6 -6h5.2z" fill="var(--dye)" />
			<g
				role="slider"
				tabindex="0"
				aria-label="Rise of the {name} axle"
				aria-valuenow={Math.round(wanted?.axle === name ? wanted.rise : prediction[name].rise)}
				aria-valuemin="-150"
				aria-valuemax="150"
				aria-valuetext="{length(dim.after, settings.units)} {settings.units} hub to arch"
				class="handle touch-none cursor-ns-resize"
				onpointerdown={(e) => down(e, name)}
				onpointermove={move}
				onpointerup={up}
				onpointercancel={up}
				onkeydown={(e) => key(e, name)}
			>
				<rect
					x={x - 58}
					y={cardY}
					width="116"
					height="48"
					rx="3"
					fill="var(--chalk)"
					fill-opacity="0.86"
					stroke={axle === name ? 'var(--dye)' : 'var(--rule)'}
					stroke-width={axle === name ? 1.6 : 1}
				/>
				<path
					d="M{x - 50} {cardY + 14}l4.5 -7l4.5 7zM{x - 50} {cardY + 19}l4.5 7l4.5 -7z"
					fill="var(--dye)"
				/>
				<text {x} dx="7" y={cardY + 26} text-anchor="middle" class="figure big"
					>{length(dim.after, settings.units)}</text
				>
				<text {x} dx="4" y={cardY + 42} text-anchor="middle" class="figure small">
					±{plusMinus(dim.pm, settings.units)} · was {length(dim.before, settings.units)}
				</text>
			</g>
		{/each}

		<!-- Travel windows, magnified, beside their wheels. -->
		{#each measuring ? [] : gauges as g (g.name)}
			{@const at = (z: number) => g.top + travelScale(z)}
			<g>
				<title>Wheel travel of the {g.name} axle, mm from where it stood when measured</title>
				<rect
					x={g.x - 5}
					y={at(g.after.bump)}
					width="10"
					height={at(g.after.droop) - at(g.after.bump)}
					fill="var(--wash)"
					stroke="var(--dye)"
					stroke-width="1.2"
				/>
				{#if g.after.stop_contact !== null}
					<rect
						x={g.x - 5}
						y={at(g.after.bump)}
						width="10"
						height={Math.max(0, at(g.after.stop_contact) - at(g.after.bump))}
						fill="var(--dye)"
						fill-opacity="0.35"
					/>
				{/if}
				<path
					d="M{g.x - 9} {at(g.before.droop)}h18M{g.x - 9} {at(g.before.bump)}h18M{g.x - 9} {at(
						g.before.ride
					)}h18"
					stroke="var(--quiet)"
					stroke-width="1.2"
					stroke-dasharray="3 2"
				/>
				<line
					x1={g.x - 11}
					x2={g.x + 11}
					y1={at(g.after.ride)}
					y2={at(g.after.ride)}
					stroke="var(--dye)"
					stroke-width="2.6"
				/>
				<text
					x={g.x}
					y={at(Math.max(g.after.bump, g.before.bump)) - 5}
					text-anchor="middle"
					class="small clear">bump {length(g.after.bump - g.after.ride, settings.units)}</text
				>
				<text
					x={g.x}
					y={at(Math.min(g.after.droop, g.before.droop)) + 13}
					text-anchor="middle"
					class="small clear">droop {length(g.after.ride - g.after.droop, settings.units)}</text
				>
			</g>
		{/each}
		<text x={width - 10} y={height - 7} text-anchor="end" class="small">
			drawn to scale{measuring ? '' : ` · travel bars ${number(magnified, 1)}×`}
		</text>
		<text x="10" y={height - 7} class="small">
			{#if measuring}
				<tspan fill="var(--quiet)">as found, from the left</tspan>
				<tspan fill="var(--dye)" dx="10">— read</tspan>
				<tspan fill="var(--fix)" dx="10">— the reading in hand</tspan>
			{:else}
				<tspan fill="var(--quiet)">– – as measured</tspan>
				<tspan fill="var(--dye)" dx="10">— planned</tspan>
				{#if other}<tspan fill="var(--ink)" dx="10">··· {other.title}</tspan>{/if}
			{/if}
			{#if punches.length}<tspan fill="var(--ink)" dx="10"
					>● measured after{proof ? ', less planned' : ''}</tspan
				>{/if}
		</text>

		<!-- Where the tape goes. -->
		{#each lines as t (t.i)}
			{@const [x1, y1, x2, y2] = [px(t.a[0]) + t.lane, py(t.a[1]), px(t.b[0]) + t.lane, py(t.b[1])]}
			<path d="M{x1} {y1}L{x2} {y2}" class="tape {t.lit ? 'lit' : t.value === undefined ? 'open' : ''}" />
			{#if t.lit}
				<circle cx={x1} cy={y1} r="4" class="end" /><circle cx={x2} cy={y2} r="4" class="end" />
			{/if}
			{#if t.lit || (t.value !== undefined && t.quantity === 'station')}
				<text
					x={(x1 + x2) / 2 + (t.lane < 0 ? -6 : 6)}
					y={(y1 + y2) / 2 + 5}
					text-anchor={t.lane < 0 ? 'end' : 'start'}
					class="figure {t.lit ? 'litText' : 'readText'}"
					>{t.value === undefined ? '?' : length(t.value, settings.units)}</text
				>
			{/if}
		{/each}

		{#each measuring ? AXLES : [] as name (name)}
			{@const w = wheel(drawing.before, name)}
			{@const out = name === 'front' ? 1 : -1}
			{#each lines.filter((t) => t.axle === name && t.value !== undefined) as t, n (t.i)}
				<text
					x={px(w.centre[0]) + out * (w.radius * scale + 16)}
					y={py(w.centre[2]) - (crowded && name === 'rear' ? 112 : 22) + n * 18}
					text-anchor={out > 0 ? 'start' : 'end'}
					class="readText {t.lit ? 'chosen' : ''}"
					>{CALLED[t.quantity]} <tspan class="figure">{length(t.value ?? 0, settings.units)}</tspan></text
				>
			{/each}
		{/each}

		{#each measuring ? [] : stations as s (s.label)}
			{@const x = px(s.at[0])}
			{@const y = py(s.at[1])}
			<path d="M{x - 4} {y}h8M{x} {y - 4}v8" stroke="var(--dye)" stroke-width="1.2" />
			{@const wide = 7.4 * s.label.length}
			{@const room = left - 14 >= wide}
			{@const tx =
				s.outside === -1
					? room
						? left - 8
						: 6
					: s.outside === 1
						? room
							? width - left + 8
							: width - 6
						: x}
			{@const anchor = s.outside === 0 ? 'middle' : (s.outside === -1) === room ? 'end' : 'start'}
			<text x={tx} y={y + (s.outside ? 2 : -18)} text-anchor={anchor} class="figure mid"
				>{length(s.after, settings.units)}<title>{s.label}: {length(s.before, settings.units)} before</title
				></text
			>
			<text x={tx} y={y + (s.outside ? 14 : -6)} text-anchor={anchor} class="small">{s.label}</text>
		{/each}

		{#each punches as p (p.key)}
			{@const tone = p.judged ? (p.judged.within ? 'var(--good)' : 'var(--stops)') : 'var(--ink)'}
			<circle cx={p.x} cy={p.y} r="4" fill={tone} />
			<circle cx={p.x} cy={p.y} r="7" fill="none" stroke={tone} stroke-width="1" />
			{#if p.says}
				<text
					x={p.x + 12 * p.beside}
					y={p.y + 5}
					text-anchor={p.beside < 0 ? 'end' : 'start'}
					class="figure off"
					style:fill={tone}
					data-testid="deviation">{p.says}</text
				>
			{/if}
		{/each}
	</svg>
</div>

<style>
	.clear,
	.over-photo text {
		paint-order: stroke;
		stroke: var(--chalk);
		stroke-width: 3.5px;
		stroke-linejoin: round;
	}
	text {
		fill: var(--ink);
		font-size: 13px;
	}
	.big {
		font-size: 21px;
		font-weight: 700;
	}
	.mid {
		font-size: 13px;
		font-weight: 700;
	}
	.small {
		font-size: 13px;
		fill: var(--quiet);
	}
	.tape {
		stroke: var(--dye);
		stroke-width: 1.3;
		fill: none;
	}
	.tape.open {
		stroke: var(--quiet);
		stroke-dasharray: 2 4;
		stroke-width: 1;
	}
	.tape.lit {
		stroke: var(--fix);
		stroke-width: 3.2;
	}
	.end {
		fill: var(--fix);
	}
	.litText,
	.readText {
		font-weight: 700;
		paint-order: stroke;
		stroke: var(--chalk);
		stroke-width: 4px;
		font-size: 13px;
		fill: var(--dye);
	}
	.chosen {
		fill: var(--fix);
	}
	.litText {
		font-size: 24px;
		fill: var(--fix);
	}
	.off {
		font-size: 16px;
		font-weight: 700;
		paint-order: stroke;
		stroke: var(--chalk);
		stroke-width: 4px;
	}
	.handle:hover rect {
		stroke: var(--dye);
	}
</style>
