<script lang="ts" module>
	/** Whether what is shown was worked out from what stands there now. */
	export type Answered = { computing: boolean; trouble: string };
</script>

<script lang="ts">
	import type { Snippet } from 'svelte';
	import type { HTMLButtonAttributes } from 'svelte/elements';
	import { unread } from './unread.svelte';

	/**
	 * A button that takes what an answer offers. While a newer answer is being worked out or asked for, or was refused, it
	 * offers nothing: what the old one holds is what stood there before, and would undo what was typed since.
	 */
	let {
		of,
		class: look = '',
		children,
		...rest
	}: { of: Answered; children: Snippet } & HTMLButtonAttributes = $props();
</script>

<button
	{...rest}
	class="btn offer {look}"
	disabled={of.computing || unread.reading > 0 || !!of.trouble || rest.disabled}>{@render children()}</button
>

<style>
	/* A quick answer is there before anybody could have pressed: no flicker while something is dragged. */
	.offer:disabled {
		transition: opacity 0.1s 0.4s;
	}
</style>
