<script lang="ts" module>
	import type { Schemas } from '../api/client';
	export type Pose = Schemas['BikePose'];
	/** From the machine's mm to the drawing's pixels. */
	export type OnScreen = {
		x: (q: [number, number]) => number;
		y: (q: [number, number]) => number;
		scale: number;
	};
	/** A point that can be taken hold of. */
	export type Held = { title: string; source: string; plusMinus: number; fixed: boolean };
</script>

<script lang="ts">
	import type { Snippet } from 'svelte';
	import { number } from '../format';
	import Fills from '../draw/Fills.svelte';
	import PhotoBehind from '../draw/PhotoBehind.svelte';
	import Shapes from '../draw/Shapes.svelte';
	import { nudge } from '../ui/nudge';
	import { inFrame, type Place } from './rearPoints';

	let {
		pose,
		ghost,
		label,
		foot = ['', ''],
		beside = 0,
		seat,
		tape = [],
		chosen = '',
		held = {},
		origin,
		onchoose,
		onmove,
		photograph,
		over,
		drawn = $bindable()
	}: {
		pose: Pose;
		/** As it came, dashed. */
		ghost?: Pose;
		label: string;
		/** Written below, left and right. */
		foot?: [string, string];
		/** Left free at both sides, px. */
		beside?: number;
		/** Seat height told, mm. */
		seat?: number;
		/** Points between which a calliper is held. */
		tape?: string[];
		chosen?: string;
		held?: Record<string, Held>;
		/** Where the document has a point, before its readings pull on it. */
		origin?: (name: string) => Place | undefined;
		onchoose?: (name: string) => void;
		/** A point dragged or nudged; only while the machine is drawn as its points hold. */
		onmove?: (name: string, to: Place) => void;
		/** Of the machine as it came, to lie behind it. */
		photograph?: Schemas['PlacedPhotograph'] | null;
		/** Drawn over it. */
		over?: Snippet<[OnScreen]>;
		/** What is on the screen, for a file. */
		drawn?: SVGSVGElement;
	} = $props();

	let width = $state(760);
	let height = $state(330);
	const low = $derived(-pose.rear_radius - 30);
	const span = $derived(pose.front_axle[0] + pose.front_radius + 60 - low);
	const tall = $derived(Math.max(pose.seat[1] + 130, pose.fork.head[1][1] + 90));
	/** While a point is dragged the picture stays put, whatever the machine does in it. */
	let pinned = $state.raw<{ scale: number; left: number; low: number }>();
	const fitting = $derived(Math.min((width - 2 * beside - 20) / span, (height - 60) / tall));
	const scale = $derived(pinned?.scale ?? fitting);
	const left = $derived(pinned?.left ?? (width - span * scale) / 2);
	const px = (q: Place) => left + (q[0] - (pinned?.low ?? low)) * scale;
	/** Where the paper is taller than the drawing, it stands in its middle. */
	const lift = $derived(Math.max(0, (height - 60 - tall * scale) / 2));
	const py = (q: Place) => height - 28 - lift - q[1] * scale;
	const x = $derived((u: number) => px([u, 0]));
	const y = $derived((v: number) => py([0, v]));
	const named = $derived(pose.points as Record<string, Place>);
	const taped = $derived(tape.map((n) => named[n]).filter((q): q is Place => Boolean(q)));

	/** Where a drag began: at the pointer, and in the document. */
	let drag = $state.raw<{ name: string; from: Place; at: Place }>();
	const free = (name: string) => Boolean(onmove && held[name] && !held[name].fixed);
	function down(name: string, event: PointerEvent) {
		onchoose?.(name);
		const at = origin?.(name);
		if (!free(name) || !at) return;
		(event.currentTarget as SVGElement).setPointerCapture(event.pointerId);
		pinned = { scale, left, low };
		drag = { name, from: [event.clientX, event.clientY], at };
	}
	function moves(name: string, event: PointerEvent) {
		if (drag?.name !== name) return;
		const shift: Place = [(event.clientX - drag.from[0]) / scale, (drag.from[1] - event.clientY) / scale];
		const by = inFrame(shift, pose.turn);
		onmove?.(name, [drag.at[0] + by[0], drag.at[1] + by[1]]);
	}
	function up() {
		drag = pinned = undefined;
	}
	function keyed(name: string, event: KeyboardEvent) {
		const by = nudge(event);
		const at = origin?.(name);
		if (!by || !at || !free(name)) return;
		event.preventDefault();
		onmove?.(name, [at[0] + by[0], at[1] + by[1]]);
	}
</script>

<div class="h-full w-full overflow-hidden" bind:clientWidth={width} bind:clientHeight={height}>
	<svg bind:this={drawn} {width} {height} role={onmove ? 'group' : 'img'} aria-label={label}>
		<line x1="8" x2={width - 8} y1={py([0, 0])} y2={py([0, 0])} stroke="var(--ink)" stroke-width="1.3" />
		<Fills />
		{#if photograph}<PhotoBehind {photograph} {x} {y} />{/if}
		{#if ghost}<Shapes shapes={ghost.shapes} {x} {y} {scale} ghost />{/if}
		<g opacity={photograph ? 0.55 : 1}><Shapes shapes={pose.shapes} {x} {y} {scale} /></g>
		{#if taped.length === 2 && taped[0] && taped[1]}
			<line x1={px(taped[0])} y1={py(taped[0])} x2={px(taped[1])} y2={py(taped[1])} class="tape-line" />
		{:else if taped[0]}
			<line x1={px(taped[0])} y1={py(taped[0])} x2={px(taped[0])} y2={py([0, 0])} class="tape-line" />
		{/if}
		<line x1={px(pose.seat)} y1={py(pose.seat)} x2={px(pose.seat)} y2={py([0, 0])} class="dimension" />
		<text x={px(pose.seat) - 8} y={py(pose.seat) - 12} class="big" text-anchor="middle"
			>{number(seat ?? pose.seat[1], 0)}</text
		>
		<text x={px(pose.seat) - 8} y={py(pose.seat) - 30} text-anchor="middle">seat, mm</text>
		{#each Object.entries(pose.stations) as [name, q] (name)}
			<path
				d="M{px(q as Place) - 5} {py(q as Place)}h10M{px(q as Place)} {py(q as Place) - 5}v10"
				class="station"
			/>
			<text x={px(q as Place) + 7} y={py(q as Place) + 13}>{name} {number(q[1] as number, 0)}</text>
		{/each}
		{@render over?.({ x: px, y: py, scale })}
		{#each Object.entries(named) as [name, q] (name)}
			{@const on = tape.includes(name) || chosen === name}
			{@const h = held[name]}
			{#if h && onmove}
				<circle
					cx={px(q)}
					cy={py(q)}
					r={on ? 7 : 5}
					class="joint {h.source} {on ? 'on' : ''} {h.fixed ? 'plain' : ''}"
					role="button"
					tabindex="0"
					aria-label="{h.title}, {h.source}"
					data-point={name}
					onpointerdown={(e) => down(name, e)}
					onpointermove={(e) => moves(name, e)}
					onpointerup={up}
					onpointercancel={up}
					onfocus={() => onchoose?.(name)}
					onkeydown={(e) => keyed(name, e)}
				>
					<title
						>{h.title}: {h.fixed
							? 'all others are told from it'
							: `${h.source}, ± ${number(h.plusMinus, 1)} mm`}</title
					>
				</circle>
			{:else}
				<circle cx={px(q)} cy={py(q)} r={on ? 6 : 3.4} class="joint plain {on ? 'on' : ''}"
					><title>{h?.title ?? name.replaceAll('_', ' ')}</title></circle
				>
			{/if}
		{/each}
		{#if chosen && named[chosen] && held[chosen]}
			{@const c = named[chosen]}
			<text x={px(c) + 10} y={py(c) - 9} class="name">{held[chosen].title}</text>
		{/if}
		<text x="10" y={height - 8}>{foot[0]}</text>
		<text x={width - 10} y={height - 8} text-anchor="end">{foot[1]}</text>
	</svg>
</div>

<style>
	svg :global(text) {
		font-size: 13px;
		fill: var(--quiet);
		paint-order: stroke;
		stroke: var(--chalk);
		stroke-width: 3px;
	}
	svg .big {
		font: 700 20px var(--font-figure);
		fill: var(--ink);
	}
	svg :global(.name) {
		font-weight: 650;
		fill: var(--ink);
		font-size: 13px;
	}
	.plain {
		stroke-width: 1.6;
		cursor: inherit;
	}
	.dimension {
		stroke: var(--quiet);
		stroke-width: 1;
	}
	.station {
		stroke: var(--quiet);
		stroke-width: 1.2;
	}
</style>
