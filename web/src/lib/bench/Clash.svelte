<script lang="ts">
	import Dialog from '../ui/Dialog.svelte';

	let {
		conflict,
		mine,
		what,
		ontheirs,
		onmine
	}: {
		/** What somebody else saved meanwhile. */
		conflict: { sentence: string; theirs: unknown; by: string } | undefined;
		mine: unknown;
		/** Both hands were on it. */
		what: string;
		ontheirs: () => void;
		/** Save mine on top, where that may be. */
		onmine?: () => void;
	} = $props();

	function different(
		mine: unknown,
		theirs: unknown,
		path = ''
	): { path: string; mine: string; theirs: string }[] {
		if (JSON.stringify(mine) === JSON.stringify(theirs)) return [];
		if (mine && theirs && typeof mine === 'object' && typeof theirs === 'object') {
			const keys = [...new Set([...Object.keys(mine), ...Object.keys(theirs)])];
			return keys.flatMap((k) =>
				different(
					(mine as Record<string, unknown>)[k],
					(theirs as Record<string, unknown>)[k],
					path ? `${path} · ${k}` : k
				)
			);
		}
		const word = (v: unknown) =>
			v === undefined || v === null ? '(nothing)' : typeof v === 'object' ? '(an entry)' : String(v);
		return [{ path: path.replaceAll('_', ' '), mine: word(mine), theirs: word(theirs) }];
	}
	const rows = $derived(conflict ? different(mine, conflict.theirs) : []);
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
					<tr class="border-rule border-t">
						<td class="py-1 pr-3">{row.path}</td>
						<td class="figure pr-3 font-bold">{row.mine}</td>
						<td class="figure">{row.theirs}</td>
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
	<div class="mt-4 flex gap-2">
		<button class="btn btn-dye" onclick={ontheirs}>Keep theirs</button>
		{#if onmine}<button class="btn" onclick={onmine}>Save mine on top</button>{/if}
	</div>
</Dialog>
