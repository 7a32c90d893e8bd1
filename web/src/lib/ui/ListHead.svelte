<script lang="ts">
	import type { Snippet } from 'svelte';
	import { shopQuery } from '../queries';
	import Preferences from './Preferences.svelte';

	let { here, children }: { here: 'jobs' | 'vehicles' | 'parts' | 'bin'; children?: Snippet } = $props();
	const shop = shopQuery();
	const lists = [
		{ id: 'jobs', name: 'Jobs', href: '/' },
		{ id: 'vehicles', name: 'Vehicles', href: '/vehicles' },
		{ id: 'parts', name: 'Part bench', href: '/parts' },
		{ id: 'bin', name: 'Bin', href: '/bin' }
	];
</script>

<header class="mb-4 flex items-center justify-between gap-4">
	<div class="flex items-center gap-3">
		<img src="/mark.svg" alt="" class="h-9 w-9" />
		<div>
			<h1 class="text-2xl leading-tight font-bold">Inclinum</h1>
			<p class="text-quiet">{shop.data?.name ?? ' '}</p>
		</div>
		<nav class="ml-4 flex gap-1" aria-label="Lists">
			{#each lists as list (list.id)}
				<a
					href={list.href}
					class="min-h-8 rounded-[3px] px-3 py-1.5 font-semibold {here === list.id
						? 'bg-dye text-on-dye'
						: 'text-quiet'}"
					aria-current={here === list.id ? 'page' : undefined}>{list.name}</a
				>
			{/each}
		</nav>
	</div>
	<div class="flex items-center gap-2">
		<Preferences all />
		{@render children?.()}
	</div>
</header>
