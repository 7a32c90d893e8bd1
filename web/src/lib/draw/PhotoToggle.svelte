<script lang="ts">
	import { view } from '../bench/context.svelte';
</script>

<button
	class="min-h-7 rounded-[3px] px-2 font-semibold {view.photograph
		? 'bg-wash text-dye'
		: 'text-quiet bg-chalk'}"
	aria-pressed={view.photograph}
	onclick={() => (view.photograph = !view.photograph)}>photograph</button
>
