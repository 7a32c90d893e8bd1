<script lang="ts">
	let { sentence, raw }: { sentence: string; raw: string } = $props();
</script>

<p class="text-stops font-semibold">Cannot be opened</p>
<p class="text-quiet leading-snug break-words">{sentence}</p>
<a class="btn mt-1" href={raw} download>Download what is stored</a>
