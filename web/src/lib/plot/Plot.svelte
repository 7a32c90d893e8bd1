<script lang="ts">
	import { scaleLinear } from 'd3-scale';
	import { line } from 'd3-shape';
	import { number } from '../format';

	export type Series = { label: string; x: number[]; y: number[]; look: 'chalk' | 'scribe' | 'second' };
	export type Mark = { x: number; y?: number; label: string; look: 'chalk' | 'scribe' };
	let {
		series,
		marks = [],
		xLabel,
		yLabel,
		digits = 0,
		label
	}: {
		series: Series[];
		/** A vertical at x, with a dot where y is given. */
		marks?: Mark[];
		xLabel: string;
		yLabel: string;
		digits?: number;
		label: string;
	} = $props();

	let width = $state(360);
	let height = $state(200);
	const [top, bottom, right, digitWide] = [34, 32, 10, 8.5];
	const colour = { chalk: 'var(--quiet)', scribe: 'var(--dye)', second: 'var(--fix)' };
	const dash = { chalk: '6 4', scribe: '', second: '2 3' };

	const extent = (values: number[]): [number, number] => [Math.min(...values), Math.max(...values)];
	const y = $derived(scaleLinear(extent(series.flatMap((s) => s.y)), [height - bottom, top]).nice(4));
	/** The longest figure beside the curves has its room. */
	const longest = $derived(Math.max(0, ...y.ticks(4).map((tick) => number(tick, digits).length)));
	const pad = $derived({ left: Math.max(44, 9 + digitWide * longest), right, top, bottom });
	const x = $derived(scaleLinear(extent(series.flatMap((s) => s.x)), [pad.left, width - pad.right]));
	const draw = $derived((s: Series) =>
		line<number>(
			(_, i) => x(s.x[i] ?? 0),
			(_, i) => y(s.y[i] ?? 0)
		)(s.x)
	);
	let probe = $state<number>();
	/** Arrow keys go along the curves, page keys in tenths; Escape leaves them. */
	function onkeydown(event: KeyboardEvent) {
		const [from, to] = [pad.left, width - pad.right];
		const step = (to - from) / 60;
		const by = { ArrowLeft: -step, ArrowRight: step, PageDown: -6 * step, PageUp: 6 * step }[event.key];
		if (event.key === 'Escape') probe = undefined;
		else if (event.key === 'Home') probe = from;
		else if (event.key === 'End') probe = to;
		else if (by) probe = Math.min(to, Math.max(from, (probe ?? (from + to) / 2) + by));
		else return;
		event.preventDefault();
	}
	const probed = $derived.by(() => {
		if (probe === undefined) return [];
		const at = x.invert(probe);
		return series.map((s) => {
			const nearest = s.x.reduce(
				(best, v, i) => (Math.abs(v - at) < Math.abs((s.x[best] ?? 0) - at) ? i : best),
				0
			);
			return { s, x: s.x[nearest] ?? 0, y: s.y[nearest] ?? 0 };
		});
	});
</script>

<div class="h-full w-full overflow-hidden" bind:clientWidth={width} bind:clientHeight={height}>
	<svg
		{width}
		{height}
		role="slider"
		tabindex="0"
		aria-label={label}
		aria-valuemin={x.domain()[0]}
		aria-valuemax={x.domain()[1]}
		aria-valuenow={probed[0]?.x ?? x.domain()[0]}
		aria-valuetext={probed.length
			? probed.map((p) => `${p.s.label}: ${number(p.y, Math.max(digits, 1))} at ${number(p.x, 0)}`).join('; ')
			: 'arrow keys read the curves'}
		class="plot"
		{onkeydown}
		onblur={() => (probe = undefined)}
		onpointermove={(e) =>
			(probe = e.offsetX > pad.left && e.offsetX < width - pad.right ? e.offsetX : undefined)}
		onpointerleave={() => (probe = undefined)}
	>
		{#each y.ticks(4) as tick (tick)}
			<line
				x1={pad.left}
				x2={width - pad.right}
				y1={y(tick)}
				y2={y(tick)}
				stroke="var(--rule)"
				stroke-width="0.7"
			/>
			<text x={pad.left - 5} y={y(tick) + 4} text-anchor="end" class="figure">{number(tick, digits)}</text>
		{/each}
		{#each x.ticks(Math.max(3, width / 80)) as tick (tick)}
			<line
				x1={x(tick)}
				x2={x(tick)}
				y1={height - pad.bottom}
				y2={height - pad.bottom + 4}
				stroke="var(--quiet)"
			/>
			<text x={x(tick)} y={height - pad.bottom + 15} text-anchor="middle" class="figure"
				>{number(tick, 0)}</text
			>
		{/each}
		<text x={width - pad.right} y={height - 3} text-anchor="end">{xLabel}</text>
		<text x={pad.left} y="10">{yLabel}</text>
		{#each marks as m, i (i)}
			<line
				x1={x(m.x)}
				x2={x(m.x)}
				y1={pad.top}
				y2={height - pad.bottom}
				stroke={colour[m.look]}
				stroke-width="1.1"
				stroke-dasharray={dash[m.look]}
			/>
		{/each}
		{#each series as s (s.label)}
			<path
				d={draw(s)}
				fill="none"
				stroke={colour[s.look]}
				stroke-width="2"
				stroke-dasharray={dash[s.look]}
			/>
		{/each}
		{#each marks as m, i (i)}
			{#if m.y !== undefined}
				<circle
					cx={x(m.x)}
					cy={y(m.y)}
					r="4.5"
					fill="var(--chalk)"
					stroke={colour[m.look]}
					stroke-width="2"
				/>
			{/if}
			<line
				x1={width - pad.right - 18}
				x2={width - pad.right}
				y1={7 + i * 14}
				y2={7 + i * 14}
				stroke={colour[m.look]}
				stroke-width="2"
				stroke-dasharray={dash[m.look]}
			/>
			<text x={width - pad.right - 23} y={11 + i * 14} text-anchor="end" class="mark">{m.label}</text>
		{/each}
		{#each probed as p, i (i)}
			<circle cx={x(p.x)} cy={y(p.y)} r="3" fill="var(--ink)" />
			<text
				x={width - pad.right}
				y={pad.top + 12 + i * 13 + 26}
				text-anchor="end"
				class="figure mark"
				fill="var(--ink)"
			>
				{p.s.label}: {number(p.y, Math.max(digits, 1))} at {number(p.x, 0)}
			</text>
		{/each}
	</svg>
</div>

<style>
	.plot:focus-visible {
		outline: 2px solid var(--dye);
		outline-offset: -2px;
	}
	text {
		fill: var(--quiet);
		font-size: 13px;
	}
	.mark {
		font-size: 13px;
		font-weight: 600;
		fill: var(--ink);
	}
</style>
