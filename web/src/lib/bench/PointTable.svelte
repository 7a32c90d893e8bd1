<script lang="ts">
	import type { Asked, Schemas } from '../api/client';
	import { number } from '../format';
	import NumberField from '../ui/NumberField.svelte';
	import Told from '../ui/Told.svelte';

	type Point = {
		name: string;
		title: string;
		at: readonly number[];
		source: string;
		plus_minus: number;
		fixed?: boolean;
	};
	let {
		points,
		axes,
		note,
		placeholder,
		file,
		chosen,
		onread,
		onwrite,
		onchoose,
		onmove
	}: {
		points: readonly Point[];
		/** Names of the coordinates. */
		axes: readonly string[];
		note: string;
		/** A line or two of a table. */
		placeholder: string;
		/** Name of the file that is written. */
		file: string;
		chosen: string;
		/** Take a pasted table; what is wrong where it cannot be read. */
		onread: (text: string) => Promise<Asked<unknown>>;
		/** The points as CSV. */
		onwrite: () => Promise<Asked<unknown>>;
		onchoose: (name: string) => void;
		onmove: (name: string, to: number[]) => void;
	} = $props();

	let pasted = $state('');
	let trouble = $state<string[]>([]);

	async function take() {
		const asked = await onread(pasted);
		const all = (asked.refusal as Schemas['Refusal'] | undefined)?.complaints ?? [];
		if (!asked.trouble) trouble = [];
		else trouble = all.length ? all.map((c) => `${c.path}: ${c.sentence}`) : [asked.trouble];
		if (!trouble.length) pasted = '';
	}
	async function write() {
		const asked = await onwrite();
		trouble = asked.trouble ? [asked.trouble] : [];
		if (asked.trouble) return;
		const text = asked.data as string;
		const link = document.createElement('a');
		link.href = URL.createObjectURL(new Blob([text], { type: 'text/csv' }));
		link.download = `${file}.csv`;
		link.click();
		URL.revokeObjectURL(link.href);
	}
</script>

<p class="text-quiet mb-2">{note}</p>
<table class="w-full">
	<thead>
		<tr class="label text-left"
			><th>point</th>{#each axes as axis (axis)}<th class="w-[74px]">{axis}</th>{/each}<th
				class="w-[70px] text-right">known to</th
			></tr
		>
	</thead>
	<tbody>
		{#each points as p (p.name)}
			<tr
				class="border-rule border-t {chosen === p.name ? 'bg-wash' : ''}"
				data-point={p.name}
				onfocusin={() => onchoose(p.name)}
			>
				<td class="py-1 pr-1 leading-tight">{p.title}</td>
				{#each axes as axis, i (axis)}
					<td class="py-1 pr-1">
						{#if p.fixed}<span class="figure px-1">{number(p.at[i] ?? 0, 1)}</span>
						{:else}
							<NumberField
								value={p.at[i] ?? null}
								label="{p.title}, {axis}"
								onvalue={(v) =>
									v !== null &&
									onmove(
										p.name,
										p.at.map((c, j) => (j === i ? v : c))
									)}
							/>
						{/if}
					</td>
				{/each}
				<td class="figure text-right leading-tight">
					{#if p.fixed}<span class="text-quiet font-sans text-[13px]">the origin</span>
					{:else}± {number(p.plus_minus, p.plus_minus < 10 && axes.length === 2 ? 1 : 0)}<span
							class="text-quiet block font-sans text-[13px]">{p.source}</span
						>{/if}
				</td>
			</tr>
		{/each}
	</tbody>
</table>
<div class="mt-3">
	<label class="grid gap-1">
		<span class="label">Paste a table: name, {axes.join(', ')} on each line</span>
		<textarea class="field figure h-20" bind:value={pasted} {placeholder}></textarea>
	</label>
	{#each trouble as line, n (n)}<Told sentence={line} class="mt-1" />{/each}
	<div class="mt-2 flex gap-2">
		<button class="btn btn-dye" disabled={!pasted.trim()} onclick={take}>Take the table</button>
		<button class="btn" onclick={write}>Copy out as CSV</button>
	</div>
</div>
