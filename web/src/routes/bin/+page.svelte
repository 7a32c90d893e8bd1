<script lang="ts">
	import { useQueryClient } from '@tanstack/svelte-query';
	import Undo from '@lucide/svelte/icons/undo-2';
	import { api, ask, type Schemas } from '$lib/api/client';
	import { day, moment } from '$lib/format';
	import { binQuery } from '$lib/queries';
	import ListHead from '$lib/ui/ListHead.svelte';
	import MoreOfList from '$lib/ui/MoreOfList.svelte';
	import Told from '$lib/ui/Told.svelte';
	import Unopened from '$lib/ui/Unopened.svelte';

	/** What was deleted, and can be put back for a while. */
	const bin = binQuery();
	const queries = useQueryClient();
	const lying = $derived(bin.data?.pages.flatMap((page) => page.items) ?? []);
	let trouble = $state('');
	let back = $state.raw<{ title: string; href: string }>();
	async function putBack(one: Schemas['BinnedSummary']) {
		const asked = await ask(
			api.POST('/api/bin/{binned_id}/put-back', { params: { path: { binned_id: one.id } } })
		);
		trouble = asked.trouble;
		const { what, id } = asked.data ?? {};
		back = what && { title: one.title, href: what === 'job' ? `/jobs/${id}/plan` : `/vehicles/${id}` };
		for (const list of ['bin', 'jobs', 'vehicles']) await queries.invalidateQueries({ queryKey: [list] });
	}
</script>

<svelte:head><title>Bin · Inclinum</title></svelte:head>

<main class="mx-auto flex h-screen max-w-[1180px] flex-col px-6 py-5">
	<ListHead here="bin" />
	<Told sentence={trouble} class="mb-3" />
	{#if back}<p class="mb-3 font-semibold" role="status">
			“{back.title}” is back. <a class="btn ml-2" href={back.href}>Open it</a>
		</p>{/if}
	{#if bin.isPending}
		<p class="text-quiet p-4">Looking into the bin…</p>
	{:else if bin.isError}
		<Unopened query={bin} />
	{:else if lying.length === 0}
		<div class="panel p-8 text-center">
			<p class="head mb-1">The bin is empty</p>
			<p class="text-quiet">A job or a vehicle that is deleted lies here for 30 days and can be put back.</p>
		</div>
	{:else}
		<ul class="grid min-h-0 gap-1.5 overflow-y-auto" aria-label="Bin">
			{#each lying as one (one.id)}
				<li class="panel grid grid-cols-[80px_minmax(0,1fr)_auto] items-center gap-4 px-4 py-2">
					<span class="label">{one.what}</span>
					<span class="min-w-0">
						<span class="block text-base leading-snug font-semibold break-words">{one.title}</span>
						<span class="text-quiet"
							>deleted by {one.deleted_by}, {moment(one.deleted_at)} · gone for good on {day(
								one.gone_on
							)}</span
						>
					</span>
					<button class="btn min-h-10" aria-label="Put back {one.title}" onclick={() => putBack(one)}
						><Undo size={17} /> Put back</button
					>
				</li>
			{/each}
			<li>
				<MoreOfList list={bin} shown={lying.length} total={bin.data?.pages[0]?.total ?? 0} what="things" />
			</li>
		</ul>
	{/if}
</main>
