<script lang="ts">
	import Download from '@lucide/svelte/icons/download';
	import { savePng, saveSvg } from './save';

	let { drawn, name }: { drawn: SVGSVGElement | undefined; name: string } = $props();
</script>

<div class="flex gap-1" role="group" aria-label="Save the drawing">
	<button
		class="btn min-h-7 px-1.5 text-[13px]"
		disabled={!drawn}
		onclick={() => drawn && saveSvg(drawn, name)}
		title="Save this drawing as lines"><Download size={14} /> SVG</button
	>
	<button
		class="btn min-h-7 px-1.5 text-[13px]"
		disabled={!drawn}
		onclick={() => drawn && void savePng(drawn, name)}
		title="Save this drawing as a picture">PNG</button
	>
</div>
