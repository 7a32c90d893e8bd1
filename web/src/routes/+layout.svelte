<script lang="ts">
	import '../app.css';
	import { QueryClient, QueryClientProvider } from '@tanstack/svelte-query';
	import WhoWorks from '$lib/ui/WhoWorks.svelte';

	let { children } = $props();
	const client = new QueryClient({
		defaultOptions: { queries: { refetchOnWindowFocus: false, retry: 1, staleTime: 0 } }
	});
</script>

<QueryClientProvider {client}>
	{@render children()}
	<WhoWorks />
</QueryClientProvider>
