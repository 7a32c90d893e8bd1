<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { onMount } from 'svelte';

	onMount(() => void goto(`/bikes/${page.params.id}/plan`, { replaceState: true }));
</script>
