<script lang="ts">
	import { isTyped } from '../ui/typing';
	import Redo from '@lucide/svelte/icons/redo-2';
	import Undo from '@lucide/svelte/icons/undo-2';

	let { bench }: { bench: { undoable: boolean; redoable: boolean; undo: () => void; redo: () => void } } =
		$props();
	function onkeydown(event: KeyboardEvent) {
		if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
		if (isTyped(event)) return;
		event.preventDefault();
		if (event.shiftKey) bench.redo();
		else bench.undo();
	}
</script>

<svelte:window {onkeydown} />
<div class="flex gap-1">
	<button class="btn min-h-8 px-1.5" aria-label="Undo" disabled={!bench.undoable} onclick={() => bench.undo()}
		><Undo size={15} /></button
	>
	<button class="btn min-h-8 px-1.5" aria-label="Redo" disabled={!bench.redoable} onclick={() => bench.redo()}
		><Redo size={15} /></button
	>
</div>
