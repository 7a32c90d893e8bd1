<script lang="ts">
	import Moon from '@lucide/svelte/icons/moon';
	import Sun from '@lucide/svelte/icons/sun';
	import { DAYS, settings, type Days } from '../settings.svelte';
	import { shopQuery } from '../queries';

	/** Beside a job there is room for what is changed at the bench only. */
	let { all = false }: { all?: boolean } = $props();
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
{#if all}
	<select
		class="field w-auto"
		aria-label="How days are written"
		title="How days are written"
		value={settings.days}
		onchange={(e) => settings.chooseDays(e.currentTarget.value as Days)}
	>
		{#each DAYS as [order, says] (order)}<option value={order}>{says}</option>{/each}
	</select>
{/if}
<button
	class="btn px-2"
	onclick={() => settings.toggleTheme()}
	title="Light or dark"
	aria-label="Light or dark"
>
	{#if settings.theme === 'light'}<Moon size={16} />{:else}<Sun size={16} />{/if}
</button>
