<script lang="ts">
	import Dialog from '../ui/Dialog.svelte';
	import type { Chosen, Conflict } from './saved.svelte';

	/** Entries that two people changed, each to something else: asked one by one. */
	let {
		conflict,
		what,
		onchoose
	}: {
		conflict: Conflict<string> | undefined;
		/** Both hands were on it. */
		what: string;
		onchoose: (chosen: Chosen) => void;
	} = $props();
	let chosen = $state<Chosen>({});
	const rows = $derived(conflict?.contested ?? []);
	const left = $derived(rows.filter((row) => !chosen[row.path]).length);
	const all = (whose: 'mine' | 'theirs') =>
		(chosen = Object.fromEntries(rows.map((row) => [row.path, whose])));
	$effect(() => {
		void conflict;
		chosen = {};
	});
</script>

<Dialog
	open={!!conflict}
	closable={false}
	wide
	title="Two hands on the same {what}"
	note={conflict?.sentence}
>
	<div class="max-h-[46vh] overflow-y-auto">
		<table class="w-full text-left">
			<thead>
				<tr class="label"
					><th class="py-1 pr-3">Where</th><th class="pr-3">Yours</th><th>{conflict?.by}</th></tr
				>
			</thead>
			<tbody>
				{#each rows as row (row.path)}
					<tr class="border-rule border-t" data-contested={row.path}>
						<th class="py-1.5 pr-3 font-normal">{row.where}</th>
						{#each ['mine', 'theirs'] as const as whose (whose)}
							<td class="py-1 pr-3">
								<button
									class="btn figure min-h-10 w-full justify-start text-left whitespace-normal! {chosen[
										row.path
									] === whose
										? 'border-dye bg-wash text-dye'
										: ''}"
									aria-pressed={chosen[row.path] === whose}
									aria-label="{row.where}: {whose === 'mine' ? 'yours' : `${conflict?.by}'s`}, {row[whose]}"
									onclick={() => (chosen[row.path] = whose)}>{row[whose]}</button
								>
							</td>
						{/each}
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
	<div class="mt-4 flex flex-wrap items-center gap-2">
		<button class="btn btn-dye" disabled={left > 0} onclick={() => onchoose($state.snapshot(chosen))}
			>Keep these</button
		>
		<button class="btn" onclick={() => all('mine')}>All of yours</button>
		<button class="btn" onclick={() => all('theirs')}>All of theirs</button>
		{#if left}<span class="text-quiet">{left} to choose</span>{/if}
	</div>
</Dialog>
