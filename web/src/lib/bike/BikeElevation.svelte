<script lang="ts">
	import { number } from '../format';
	import SagBar from './SagBar.svelte';
	import { bikeView, type BikeJob, type BikePrediction, type Condition, type End } from './bikeBench.svelte';

	let {
		prediction: p,
		job,
		onsag
	}: {
		prediction: BikePrediction;
		job: BikeJob;
		/** A laden sag dragged or typed, mm. */
		onsag: (end: End, sag: number) => void;
	} = $props();

	let width = $state(760);
	let height = $state(330);
	const CONDITIONS: [Condition, string][] = [
		['extended', 'hanging'],
		['unladen', 'unladen'],
		['laden', 'rider on'],
		['full', 'full bump']
	];
	const BARS = 96;
	const pose = $derived(p.drawing[bikeView.condition]);
	const before = $derived(
		bikeView.condition === 'unladen'
			? p.drawing.before_unladen
			: bikeView.condition === 'laden'
				? p.drawing.before_laden
				: undefined
	);
	const low = $derived(-pose.rear_radius - 30);
	const span = $derived(pose.front_axle[0] + pose.front_radius + 60 - low);
	const tall = $derived(Math.max(pose.seat[1] + 130, pose.head[1][1] + 90));
	const scale = $derived(Math.min((width - 2 * BARS - 20) / span, (height - 60) / tall));
	const left = $derived((width - span * scale) / 2);
	type Point = [number, number];
	const px = (q: Point) => left + (q[0] - low) * scale;
	const py = (q: Point) => height - 28 - q[1] * scale;
	const path = (shape: Point[]) =>
		`M${shape.map((q) => `${px(q).toFixed(1)} ${py(q).toFixed(1)}`).join('L')}Z`;
	const looks: Record<string, [string, number, string]> = {
		arm: ['var(--dye)', 4, ''],
		rocker: ['var(--dye)', 3, ''],
		rod: ['var(--dye)', 2.4, ''],
		damper: ['var(--ink)', 4, ''],
		slider: ['var(--ink)', 5.5, ''],
		fork: ['var(--ink)', 3, ''],
		clamp: ['var(--quiet)', 3, ''],
		chain: ['var(--quiet)', 1.4, '2 3']
	};
	const named = $derived(
		Object.fromEntries(
			pose.lines.flatMap((l) =>
				l.names[0] ? [[l.names[0], l.start] as const, [l.names[1], l.end] as const] : []
			)
		) as Record<string, Point>
	);
	const taped = $derived(bikeView.tape.map((n) => named[n]).filter((q): q is Point => Boolean(q)));
	/** A rider's leg from the seat's edge to the sole, as long as the inseam. */
	const leg = $derived(job.brief.inseam_mm ? job.brief.inseam_mm + (job.brief.sole_mm ?? 0) : undefined);
	const stood = $derived(p.planned[bikeView.condition]);
</script>

<div class="relative h-full w-full overflow-hidden" bind:clientWidth={width} bind:clientHeight={height}>
	<svg {width} {height} role="img" aria-label="Side elevation to scale, {bikeView.condition}">
		<line x1="8" x2={width - 8} y1={py([0, 0])} y2={py([0, 0])} stroke="var(--ink)" stroke-width="1.3" />
		{#if before}
			<g class="chalk">
				{#each before.body as shape, i (i)}<path d={path(shape as Point[])} />{/each}
				<circle cx={px(before.rear_axle)} cy={py(before.rear_axle)} r={before.rear_radius * scale} />
				<circle cx={px(before.front_axle)} cy={py(before.front_axle)} r={before.front_radius * scale} />
				{#each before.lines as l, i (i)}
					<line x1={px(l.start)} y1={py(l.start)} x2={px(l.end)} y2={py(l.end)} />
				{/each}
			</g>
		{/if}
		{#each pose.body as shape, i (i)}<path d={path(shape as Point[])} class="body" />{/each}
		<circle cx={px(pose.rear_axle)} cy={py(pose.rear_axle)} r={pose.rear_radius * scale} class="tyre" />
		<circle cx={px(pose.front_axle)} cy={py(pose.front_axle)} r={pose.front_radius * scale} class="tyre" />
		{#each [...pose.chain, ...pose.lines] as l, i (i)}
			{@const look = looks[l.look] ?? ['var(--dye)', 2, '']}
			<line
				x1={px(l.start)}
				y1={py(l.start)}
				x2={px(l.end)}
				y2={py(l.end)}
				stroke={look[0]}
				stroke-width={look[1]}
				stroke-dasharray={look[2]}
				stroke-linecap="round"
			/>
		{/each}
		{#each Object.entries(named) as [name, q] (name)}
			<circle
				cx={px(q)}
				cy={py(q)}
				r={bikeView.tape.includes(name) ? 6 : 3.4}
				class="point {bikeView.tape.includes(name) ? 'on' : ''}"
				><title>{name.replaceAll('_', ' ')}</title></circle
			>
		{/each}
		{#if taped.length === 2 && taped[0] && taped[1]}
			<line x1={px(taped[0])} y1={py(taped[0])} x2={px(taped[1])} y2={py(taped[1])} class="tape" />
		{:else if taped[0]}
			<line x1={px(taped[0])} y1={py(taped[0])} x2={px(taped[0])} y2={py([0, 0])} class="tape" />
		{/if}
		<!-- seat height, and how far the rider's leg comes down -->
		<line x1={px(pose.seat)} y1={py(pose.seat)} x2={px(pose.seat)} y2={py([0, 0])} class="dimension" />
		{#if leg && bikeView.condition !== 'full'}
			{@const foot = [pose.seat[0] + 26 / scale, pose.seat[1] - leg] as Point}
			{@const hip = [pose.seat[0] + 26 / scale, pose.seat[1]] as Point}
			<line x1={px(hip)} y1={py(hip)} x2={px(foot)} y2={py(foot)} class="leg" />
			<path d="M{px(foot) - 3} {py(foot)}h14" class="leg" />
		{/if}
		<text x={px(pose.seat) - 8} y={py(pose.seat) - 12} class="big" text-anchor="middle"
			>{number(stood.seat_mm, 0)}</text
		>
		<text x={px(pose.seat) - 8} y={py(pose.seat) - 30} text-anchor="middle">seat, mm</text>
		{#each Object.entries(pose.stations) as [name, q] (name)}
			<path
				d="M{px(q as Point) - 5} {py(q as Point)}h10M{px(q as Point)} {py(q as Point) - 5}v10"
				class="station"
			/>
			<text x={px(q as Point) + 7} y={py(q as Point) + 13} class="small"
				>{name} {number(q[1] as number, 0)}</text
			>
		{/each}
		<text x={px(pose.head[1] as Point) + 6} y={py(pose.head[1] as Point) - 8} class="name"
			>rake {number(stood.rake_deg, 2)}° · trail {number(stood.trail_mm, 1)}</text
		>
		<text x="10" y={height - 8}>dashed: as it came · solid: planned</text>
		<text x={width - 10} y={height - 8} text-anchor="end"
			>drawn to scale{job.vehicle.body?.length ? '' : ' · frame sketched through its known points'}</text
		>
	</svg>
	<div class="absolute top-1 left-1/2 flex -translate-x-1/2 gap-1" role="group" aria-label="Standing">
		{#each CONDITIONS as [name, text] (name)}
			<button
				class="min-h-7 rounded-[3px] px-2 font-semibold {bikeView.condition === name
					? 'bg-wash text-dye'
					: 'text-quiet bg-chalk'}"
				aria-pressed={bikeView.condition === name}
				onclick={() => (bikeView.condition = name)}>{text}</button
			>
		{/each}
	</div>
	<div class="absolute top-9 bottom-7 left-1">
		<SagBar bench={p.sags.rear as NonNullable<typeof p.sags.rear>} onsag={(s) => onsag('rear', s)} />
	</div>
	<div class="absolute top-9 right-1 bottom-7">
		<SagBar bench={p.sags.front as NonNullable<typeof p.sags.front>} onsag={(s) => onsag('front', s)} />
	</div>
</div>

<style>
	text {
		font-size: 11px;
		fill: var(--quiet);
		paint-order: stroke;
		stroke: var(--chalk);
		stroke-width: 3px;
	}
	.big {
		font: 700 20px var(--font-figure);
		fill: var(--ink);
	}
	.name {
		font-weight: 650;
		fill: var(--ink);
		font-size: 12px;
	}
	.body {
		fill: var(--wash);
		fill-opacity: 0.55;
		stroke: var(--dye);
		stroke-width: 1.4;
		stroke-linejoin: round;
	}
	.tyre {
		fill: none;
		stroke: var(--ink);
		stroke-width: 2.4;
	}
	.chalk * {
		fill: none;
		stroke: var(--quiet);
		stroke-width: 1.3;
		stroke-dasharray: 6 4;
	}
	.point {
		fill: var(--chalk);
		stroke: var(--dye);
		stroke-width: 1.6;
	}
	.point.on {
		stroke: var(--stops);
		stroke-width: 2.4;
	}
	.tape {
		stroke: var(--stops);
		stroke-width: 2.4;
		stroke-dasharray: 2 3;
	}
	.dimension {
		stroke: var(--quiet);
		stroke-width: 1;
	}
	.leg {
		fill: none;
		stroke: var(--fix);
		stroke-width: 3;
		stroke-linecap: round;
	}
	.station {
		stroke: var(--quiet);
		stroke-width: 1.2;
	}
</style>
