<script lang="ts" module>
	import type { Schemas } from '../api/client';
	export type Shape = Schemas['Shape'];
</script>

<script lang="ts">
	/** Parts as the core drew them; how each looks follows from its role alone (shapes.css). */
	let {
		shapes,
		x,
		y,
		scale,
		ghost = false
	}: {
		shapes: readonly Shape[];
		/** From the picture's mm to pixels. */
		x: (u: number) => number;
		y: (v: number) => number;
		scale: number;
		/** The other one of found and planned: dashed, edges only. */
		ghost?: boolean;
	} = $props();

	const path = (s: Shape) =>
		`M${s.line.map(([u, v]) => `${x(u).toFixed(1)} ${y(v).toFixed(1)}`).join('L')}${s.closed ? 'Z' : ''}`;
	const wide = (s: Shape) => Math.max((s.wide ?? 0) * scale, 1.6);
</script>

<g class={ghost ? 'ghost' : ''}>
	{#each shapes as s, i (i)}
		{#if s.line.length === 1 && s.line[0]}
			<circle
				class="shape {s.role}"
				cx={x(s.line[0][0])}
				cy={y(s.line[0][1])}
				r={Math.max(((s.wide ?? 0) * scale) / 2, 1.2)}
				>{#if s.name && !ghost}<title>{s.name}</title>{/if}</circle
			>
		{:else if s.closed || !s.wide}
			<path class="shape {s.role} {s.closed ? '' : 'line'}" d={path(s)}
				>{#if s.name && !ghost}<title>{s.name}</title>{/if}</path
			>
		{:else}
			<path class="shape edge {s.role}" d={path(s)} style:stroke-width="{ghost ? 1 : wide(s)}px"
				>{#if s.name && !ghost}<title>{s.name}</title>{/if}</path
			>
			<path class="shape core {s.role}" d={path(s)} style:stroke-width="{Math.max(wide(s) - 2, 0.4)}px" />
		{/if}
	{/each}
</g>
