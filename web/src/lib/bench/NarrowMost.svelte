<script lang="ts">
	import type { Schemas } from '../api/client';
	import { number } from '../format';

	let {
		ends
	}: {
		/** Per end, the input that spreads its prediction most; none where nothing is uncertain there. */
		ends: { name: string; input: Schemas['InputShare'] | undefined }[];
	} = $props();
</script>

<h2 class="head mt-4 mb-1">What would narrow the prediction most</h2>
<ul data-testid="narrow-most">
	{#each ends as { name, input } (name)}
		{#if input}
			<li>
				<span class="font-semibold">{name}:</span>
				{input.label}, <span class="figure">{number(input.share * 100, 0)} %</span> of the spread (alone
				<span class="figure">± {number(input.plus_minus, 1)} mm</span>)
				<span class="block">{input.better}</span>
			</li>
		{/if}
	{/each}
</ul>
