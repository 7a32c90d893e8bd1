<script lang="ts">
	import type { Schemas } from '../api/client';
	import { picturesQuery } from '../queries';
	import Thumb from './Thumb.svelte';

	/** A machine on a list, small: its own outline and wheels, or the picture of what it was set up from. */
	let {
		of,
		kind,
		width = 92,
		height = 46
	}: { of: Schemas['Silhouette'] | null; kind: string; width?: number; height?: number } = $props();
	const pictures = picturesQuery(
		() => kind,
		() => 'archetype',
		() => kind !== 'car' && Boolean(of?.archetype)
	);
	const picture = $derived(of && pictures.data?.[of.archetype]);
	const drawn = $derived.by(() => {
		if (!of || kind !== 'car') return undefined;
		const wheels = [
			{ x: 0, r: of.radii[0] },
			{ x: -of.wheelbase_mm, r: of.radii[1] }
		];
		const xs = [...of.body.map(([x]) => x), ...wheels.flatMap((w) => [w.x - w.r, w.x + w.r])];
		const top = Math.max(...of.body.map(([, z]) => z), ...wheels.map((w) => 2 * w.r));
		const [low, high] = [Math.min(...xs), Math.max(...xs)];
		const scale = Math.min((width - 4) / (high - low), (height - 4) / top);
		const x = (mm: number) => width / 2 + ((low + high) / 2 - mm) * scale;
		const y = (mm: number) => height - 2 - mm * scale;
		return {
			body: of.body.length
				? `M${of.body.map(([a, b]) => `${x(a).toFixed(1)} ${y(b).toFixed(1)}`).join('L')}Z`
				: '',
			wheels: wheels.map((w) => ({ cx: x(w.x), cy: y(w.r), r: w.r * scale }))
		};
	});
</script>

{#if picture}
	<Thumb {picture} {width} {height} />
{:else}
	<svg {width} {height} aria-hidden="true" class="shrink-0">
		{#if drawn}
			<path
				d={drawn.body}
				fill="var(--raised)"
				stroke="var(--dye)"
				stroke-width="1.3"
				stroke-linejoin="round"
			/>
			{#each drawn.wheels as w, i (i)}
				<circle {...w} fill="var(--tyre)" stroke="var(--ink)" stroke-width="1.5" />
			{/each}
		{/if}
	</svg>
{/if}
