<script lang="ts">
	import Dialog from './Dialog.svelte';
	import { settings } from '../settings.svelte';
	import { shopQuery } from '../queries';

	const shop = shopQuery();
	const people = $derived(shop.data?.people ?? []);
	const nobody = $derived(people.length > 0 && !people.includes(settings.person));
</script>

<Dialog
	open={nobody}
	closable={false}
	title="Who is at the bench?"
	note="Ticks, torques and changes are recorded under this name."
>
	<div class="grid gap-2">
		{#each people as name (name)}
			<button class="btn min-h-11 justify-start text-base" onclick={() => settings.choosePerson(name)}>
				{name}
			</button>
		{/each}
	</div>
</Dialog>
