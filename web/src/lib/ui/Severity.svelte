<script lang="ts">
	let { severity }: { severity: 'stops' | 'fix' | 'know' } = $props();
	const word = { stops: 'Stops', fix: 'Fix', know: 'Know' };
	const tone = { stops: 'text-stops', fix: 'text-fix', know: 'text-quiet' };
</script>

<!-- Severity is a word and a shape before it is a colour: a filled bar, a corner, a dot. -->
<span class="inline-flex w-[58px] shrink-0 self-start items-center gap-1.5 font-bold {tone[severity]}">
	<svg width="13" height="13" viewBox="0 0 13 13" aria-hidden="true">
		{#if severity === 'stops'}
			<rect x="0.5" y="3.5" width="12" height="6" fill="currentColor" />
		{:else if severity === 'fix'}
			<path d="M1.5 11.5v-10l10 10z" fill="none" stroke="currentColor" stroke-width="1.8" />
		{:else}
			<circle cx="6.5" cy="6.5" r="3" fill="currentColor" />
		{/if}
	</svg>
	{word[severity]}
</span>
