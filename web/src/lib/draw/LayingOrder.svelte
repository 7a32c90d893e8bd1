<script lang="ts">
	import type { Schemas } from '../api/client';
	import { number } from '../format';

	/** Rings, washers and spacers drawn apart, the first of them at the bottom; what has a thickness is to scale. */
	let {
		layers,
		begin,
		large = false
	}: { layers: readonly Schemas['Layer'][]; begin: string; large?: boolean } = $props();
	const ROOM = $derived(large ? 150 : 90);
	/** What is only there to be lain on is drawn as a cut, of no thickness that anybody measured. */
	const CUT = 12;
	const total = $derived(layers.reduce((sum, layer) => sum + (layer.thickness_mm ?? 0), 0));
	const scale = $derived(Math.min(large ? 5 : 3, ROOM / Math.max(total, 1)));
	const said = (layer: Schemas['Layer']) =>
		layer.thickness_mm == null
			? layer.name
			: `${layer.name}, ${number(layer.thickness_mm, layer.thickness_mm % 1 ? 1 : 0)} mm`;
</script>

<figure class="my-2" data-testid="laying-order">
	<ol
		class="flex flex-col-reverse gap-1.5"
		aria-label="In this order, {begin}: {layers.map(said).join(', ')}"
	>
		{#each layers as layer, n (n)}
			<li class="grid grid-cols-[90px_minmax(0,1fr)] items-center gap-3 {large ? 'text-xl' : 'text-[13px]'}">
				<span
					class="border-ink block border {layer.new ? 'bg-dye' : 'cut'}"
					style="height: {layer.thickness_mm == null ? CUT : Math.max(3, layer.thickness_mm * scale)}px"
				></span>
				<span class={layer.new ? 'font-bold' : ''}>{said(layer)}</span>
			</li>
		{/each}
	</ol>
	<figcaption class="text-quiet {large ? 'text-base' : 'text-[13px]'}">
		{begin} ↑ · thickness to scale
	</figcaption>
</figure>

<style>
	.cut {
		background: repeating-linear-gradient(45deg, var(--rule) 0 2px, transparent 2px 6px);
	}
</style>
