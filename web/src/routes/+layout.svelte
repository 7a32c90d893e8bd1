<script lang="ts">
	import '../app.css';
	import { QueryClient, QueryClientProvider } from '@tanstack/svelte-query';
	import WhoWorks from '$lib/ui/WhoWorks.svelte';

	import { outbox } from '$lib/bench/outbox.svelte';

	let { children } = $props();
	/** What somebody is in the middle of typing counts as typed when the page goes: the field is left first. */
	function leaveField() {
		const field = document.activeElement;
		if (field instanceof HTMLInputElement || field instanceof HTMLTextAreaElement) field.blur();
	}
	// What was done on a card may still be on its way when its page is left: no page goes without asking.
	function beforeunload(event: BeforeUnloadEvent) {
		leaveField();
		if (outbox.unsent.length) event.preventDefault();
	}
	const client = new QueryClient({
		defaultOptions: { queries: { refetchOnWindowFocus: false, retry: 1, staleTime: 0 } }
	});
</script>

<svelte:window onbeforeunload={beforeunload} onpagehide={leaveField} ononline={() => void outbox.send()} />
<QueryClientProvider {client}>
	{@render children()}
	<WhoWorks />
</QueryClientProvider>
