<script lang="ts">
	import Moon from '@lucide/svelte/icons/moon';
	import Sun from '@lucide/svelte/icons/sun';
	import { settings } from '../settings.svelte';
	import { shopQuery } from '../queries';

	const shop = shopQuery();
</script>

<select
	class="field w-auto"
	aria-label="Who is at the bench"
	value={settings.person}
	onchange={(e) => settings.choosePerson(e.currentTarget.value)}
>
	{#each shop.data?.people ?? [] as name (name)}<option>{name}</option>{/each}
</select>
<button
	class="btn px-2"
	onclick={() => settings.toggleUnits()}
	title="Millimetres or inches (U)"
	aria-label="Units: {settings.units}"
>
	<span class="figure">{settings.units}</span>
</button>
<button
	class="btn px-2"
	onclick={() => settings.toggleTheme()}
	title="Light or dark"
	aria-label="Light or dark"
>
	{#if settings.theme === 'light'}<Moon size={16} />{:else}<Sun size={16} />{/if}
</button>
