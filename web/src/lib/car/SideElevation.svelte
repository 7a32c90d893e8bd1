<script lang="ts">
	import { scaleLinear } from 'd3-scale';
	import type { AxleName, Job, Prediction, Schemas } from '../api/client';
	import { length, number } from '../format';
	import { settings } from '../settings.svelte';

	let {
		prediction,
		job,
		axle = $bindable('front'),
		reach,
		onreach
	}: {
		prediction: Prediction;
		job: Job;
		axle?: AxleName;
		reach?: { axle: AxleName; rise: number };
		/** An axle is dragged, or moved by the keyboard, to a rise. */
		onreach: (axle: AxleName, rise: number, done: boolean) => void;
	} = $props();

	let width = $state(760);
	let height = $state(330);
	const AXLES: AxleName[] = ['front', 'rear'];
	const GAUGE_PX = 118;
	const GAUGE_OFF_MM = 640;

	const drawing = $derived(prediction.drawing);
	const span = $derived(drawing.high[0] - drawing.low[0]);
	// One scale for both axes: the drawing is true.
	const scale = $derived(Math.min((width - 156) / span, (height - 58) / (drawing.high[1] + 60)));
	const left = $derived((width - span * scale) / 2);
	const px = (x: number) => left + (drawing.high[0] - x) * scale;
	const py = (z: number) => height - 30 - z * scale;
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
	const gauges = $derived(
		AXLES.map((name) => ({
			name,
			x: px(wheel(drawing.after, name).centre[0] + (name === 'front' ? -GAUGE_OFF_MM : GAUGE_OFF_MM)),
			top: py(400) - GAUGE_PX,
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
			.filter((c) => c.quantity === 'hub_to_arch' && c.side === 'left')
			.map((c) => {
				const w = wheel(drawing.after, c.axle);
				return { x: px(w.centre[0]), y: py(w.centre[2] + c.reading.value), value: c.reading.value };
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
		if (Math.abs(moved) >= 1) onreach(dragged.axle, Math.round(dragged.rise + moved), false);
	}
	function up() {
		if (dragged && reach?.axle === dragged.axle) onreach(reach.axle, reach.rise, true);
		dragged = undefined;
	}
	function key(event: KeyboardEvent, name: AxleName) {
		const step = { ArrowUp: 1, ArrowDown: -1, PageUp: 10, PageDown: -10 }[event.key];
		if (!step) return;
		event.preventDefault();
		axle = name;
		const from = reach?.axle === name ? reach.rise : Math.round(prediction[name].rise);
		onreach(name, from + step, true);
	}
</script>

<div class="h-full w-full overflow-hidden select-none" bind:clientWidth={width} bind:clientHeight={height}>
	<svg {width} {height} role="group" aria-label="Side elevation to scale, before and planned">
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

		<!-- Baseline: a chalk line. Plan: a scribed line. -->
		<path d={path(drawing.after.body)} fill="var(--raised)" fill-opacity="0.65" />
		<path
			d={path(drawing.before.body)}
			fill="none"
			stroke="var(--quiet)"
			stroke-width="var(--line-chalk)"
			stroke-dasharray="7 4"
		/>
		<path d={path(drawing.after.body)} fill="none" stroke="var(--dye)" stroke-width="var(--line-scribe)" />
		{#each drawing.after.glass as pane, i (i)}
			<path d={path(pane)} fill="var(--bench)" fill-opacity="0.6" stroke="var(--dye)" stroke-width="0.8" />
		{/each}

		{#each AXLES as name (name)}
			{@const w = wheel(drawing.after, name)}
			{@const x = px(w.centre[0])}
			{@const y = py(w.centre[2])}
			{@const dim = archMean(name)}
			{@const archY = py(w.arch_top[1])}
			<circle cx={x} cy={y} r={w.radius * scale} fill="var(--chalk)" stroke="var(--ink)" stroke-width="3" />
			<circle cx={x} cy={y} r={w.radius * scale * 0.62} fill="none" stroke="var(--quiet)" stroke-width="1" />
			{#each w.members as m, i (i)}
				<line
					x1={px(m.start[0])}
					y1={py(m.start[2])}
					x2={px(m.end[0])}
					y2={py(m.end[2])}
					stroke="var(--ink)"
					stroke-width={m.kind === 'strut' || m.kind === 'spring' ? 2.4 : 1.3}
					stroke-opacity="0.55"
				/>
			{/each}

			<!-- Hub to arch, dimensioned. -->
			<path
				d="M{x - 4} {archY}h8M{x - 4} {y}h8M{x} {y}V{archY}"
				stroke="var(--dye)"
				stroke-width="1.1"
				fill="none"
			/>
			<path d="M{x} {archY}l-2.6 6h5.2zM{x} {y}l-2.6 -6h5.2z" fill="var(--dye)" />
			<g
				role="slider"
				tabindex="0"
				aria-label="Rise of the {name} axle"
				aria-valuenow={Math.round(reach?.axle === name ? reach.rise : prediction[name].rise)}
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
					y={archY - 52}
					width="116"
					height="48"
					rx="3"
					fill="var(--chalk)"
					fill-opacity="0.86"
					stroke={axle === name ? 'var(--dye)' : 'var(--rule)'}
					stroke-width={axle === name ? 1.6 : 1}
				/>
				<path
					d="M{x - 50} {archY - 31}l4.5 -7l4.5 7zM{x - 50} {archY - 25}l4.5 7l4.5 -7z"
					fill="var(--dye)"
				/>
				<text {x} dx="7" y={archY - 26} text-anchor="middle" class="figure big"
					>{length(dim.after, settings.units)}</text
				>
				<text {x} dx="4" y={archY - 10} text-anchor="middle" class="figure small">
					from {length(dim.before, settings.units)} ±{length(dim.pm, settings.units)}
				</text>
			</g>
		{/each}

		<!-- Travel windows, magnified, beside their wheels. -->
		{#each gauges as g (g.name)}
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
				<text x={g.x} y={at(Math.max(g.after.bump, g.before.bump)) - 5} text-anchor="middle" class="small"
					>bump {length(g.after.bump - g.after.ride, settings.units)}</text
				>
				<text x={g.x} y={at(Math.min(g.after.droop, g.before.droop)) + 13} text-anchor="middle" class="small"
					>droop {length(g.after.ride - g.after.droop, settings.units)}</text
				>
			</g>
		{/each}
		<text x={width - 10} y={height - 7} text-anchor="end" class="small">
			drawn to scale · travel bars {number(magnified, 1)}×
		</text>
		<text x="10" y={height - 7} class="small">
			<tspan fill="var(--quiet)">– – as measured</tspan>
			<tspan fill="var(--dye)" dx="10">— planned</tspan>
			{#if punches.length}<tspan fill="var(--ink)" dx="10">● measured after</tspan>{/if}
		</text>

		{#each stations as s (s.label)}
			{@const x = px(s.at[0])}
			{@const y = py(s.at[1])}
			<path d="M{x - 4} {y}h8M{x} {y - 4}v8" stroke="var(--dye)" stroke-width="1.2" />
			{@const tx = s.outside === -1 ? left - 8 : s.outside === 1 ? width - left + 8 : x}
			{@const anchor = s.outside === -1 ? 'end' : s.outside === 1 ? 'start' : 'middle'}
			<text x={tx} y={y + (s.outside ? 2 : -18)} text-anchor={anchor} class="figure mid"
				>{length(s.after, settings.units)}<title>{s.label}: {length(s.before, settings.units)} before</title
				></text
			>
			<text x={tx} y={y + (s.outside ? 14 : -6)} text-anchor={anchor} class="small">{s.label}</text>
		{/each}

		{#each punches as p, i (i)}
			<circle cx={p.x} cy={p.y} r="4" fill="var(--ink)" />
			<circle cx={p.x} cy={p.y} r="7" fill="none" stroke="var(--ink)" stroke-width="1" />
		{/each}
	</svg>
</div>

<style>
	text {
		fill: var(--ink);
		font-size: 12px;
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
		font-size: 11px;
		fill: var(--quiet);
	}
	.handle:hover rect {
		stroke: var(--dye);
	}
</style>
