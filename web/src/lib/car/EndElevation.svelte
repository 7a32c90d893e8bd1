<script lang="ts">
	import type { AxleName, Prediction, Schemas } from '../api/client';
	import { number } from '../format';

	let { prediction, axle }: { prediction: Prediction; axle: AxleName } = $props();
	let width = $state(360);
	let height = $state(200);

	const before = $derived(prediction.drawing.before);
	const after = $derived(prediction.drawing.after);
	const half = $derived(prediction.drawing.width_mm / 2 + 130);
	const tall = $derived(Math.max(...after[axle].members.flatMap((m) => [m.start[2], m.end[2]])) + 90);
	const scale = $derived(Math.min((width - 8) / (2 * half), (height - 30) / tall));
	// Seen from behind the vehicle for the rear, from the front for the front: left stays named.
	const facing = $derived(axle === 'front' ? 1 : -1);
	const px = (y: number) => width / 2 + facing * y * scale;
	const pz = (z: number) => height - 16 - z * scale;

	function tyre(w: Schemas['WheelDrawing'], side: 1 | -1) {
		const tilt = (w.camber_deg * Math.PI) / 180;
		const y = side * w.centre[1];
		const [dy, dz] = [side * Math.sin(tilt) * w.radius, Math.cos(tilt) * w.radius];
		const t = 85 * side;
		const corner = (a: number, b: number) => `${px(y + a).toFixed(1)} ${pz(w.centre[2] + b).toFixed(1)}`;
		return `M${corner(dy - t, dz)}L${corner(dy + t, dz)}L${corner(-dy + t, -dz)}L${corner(-dy - t, -dz)}Z`;
	}
</script>

<div class="h-full w-full overflow-hidden" bind:clientWidth={width} bind:clientHeight={height}>
	<svg {width} {height} role="img" aria-label="End elevation of the {axle} axle, to scale">
		<line x1="4" x2={width - 4} y1={pz(0)} y2={pz(0)} stroke="var(--ink)" />
		{#each [1, -1] as const as side (side)}
			<path d={tyre(before[axle], side)} fill="none" stroke="var(--quiet)" stroke-dasharray="6 4" />
			{#each side === 1 || before[axle].mirrored ? before[axle].members : [] as m, i (i)}
				<line
					x1={px(side * m.start[1])}
					y1={pz(m.start[2])}
					x2={px(side * m.end[1])}
					y2={pz(m.end[2])}
					stroke="var(--quiet)"
					stroke-dasharray="6 4"
				/>
			{/each}
			<path d={tyre(after[axle], side)} fill="var(--chalk)" stroke="var(--ink)" stroke-width="2.2" />
			{#each side === 1 || after[axle].mirrored ? after[axle].members : [] as m, i (i)}
				<line
					x1={px(side * m.start[1])}
					y1={pz(m.start[2])}
					x2={px(side * m.end[1])}
					y2={pz(m.end[2])}
					stroke="var(--dye)"
					stroke-width={m.kind === 'strut' || m.kind === 'spring' ? 3 : 1.7}
				/>
				<circle
					cx={px(side * m.start[1])}
					cy={pz(m.start[2])}
					r="2.6"
					fill="var(--chalk)"
					stroke="var(--dye)"
				/>
			{/each}
		{/each}
		<text
			x={width / 2}
			y={pz(prediction.drawing.after[axle].centre[2]) + 4}
			text-anchor="middle"
			class="figure"
		>
			{number(prediction[axle].angles_after.camber_deg, 2, true)}° camber
		</text>
		<text
			x={width / 2}
			y={pz(prediction.drawing.after[axle].centre[2]) + 20}
			text-anchor="middle"
			class="small figure"
		>
			from {number(prediction[axle].angles_before.camber_deg, 2, true)}°
		</text>
		<text x="6" y="13" class="small">{axle} axle seen from {axle === 'front' ? 'ahead' : 'behind'}</text>
	</svg>
</div>

<style>
	text {
		fill: var(--ink);
		font-size: 14px;
		font-weight: 700;
	}
	.small {
		font-size: 11px;
		font-weight: 400;
		fill: var(--quiet);
	}
</style>
