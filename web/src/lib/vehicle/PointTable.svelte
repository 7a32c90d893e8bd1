<script lang="ts">
	import { api, sentence, type Schemas } from '../api/client';
	import { number } from '../format';
	import NumberField from '../ui/NumberField.svelte';
	import type { Axle, AxleBench, Place } from './vehicleBench.svelte';

	let {
		bench,
		axle,
		name,
		chosen,
		onaxle,
		onchoose,
		onmove
	}: {
		bench: AxleBench;
		axle: Axle;
		/** Of the file that is written. */
		name: string;
		chosen: string;
		onaxle: (axle: Axle) => void;
		onchoose: (name: string) => void;
		onmove: (name: string, to: Place) => void;
	} = $props();

	const placeholder = 'lower_outer; 9; 707; 188\nTie rod, inner joint; -122; 372; 258';
	let pasted = $state('');
	let trouble = $state<string[]>([]);

	async function take() {
		const { data, error } = await api
			.POST('/api/points/read', { body: { axle, text: pasted } })
			.catch(() => ({ data: undefined, error: undefined }));
		if (data) {
			onaxle(data as Axle);
			pasted = '';
			trouble = [];
		} else {
			const all = (error as Schemas['Refusal'] | undefined)?.complaints ?? [];
			trouble = all.length ? all.map((c) => `${c.path}: ${c.sentence}`) : [sentence(error)];
		}
	}
	async function write() {
		const { data } = await api.POST('/api/points/write', { body: axle, parseAs: 'text' });
		if (data === undefined) return;
		const link = document.createElement('a');
		link.href = URL.createObjectURL(new Blob([data as unknown as string], { type: 'text/csv' }));
		link.download = `${name}.csv`;
		link.click();
		URL.revokeObjectURL(link.href);
	}
</script>

<p class="text-quiet mb-2">
	From the wheel centre forward (x), from the centre line to the left (y), from the ground up (z). Drag a
	point in a drawing, nudge it with the arrow keys, or type it here.
</p>
<table class="w-full">
	<thead>
		<tr class="label text-left"
			><th>point</th><th class="w-[74px]">x</th><th class="w-[74px]">y</th><th class="w-[74px]">z</th><th
				class="w-[70px] text-right">known to</th
			></tr
		>
	</thead>
	<tbody>
		{#each bench.points as p (p.name)}
			<tr
				class="border-rule border-t {chosen === p.name ? 'bg-wash' : ''}"
				data-point={p.name}
				onfocusin={() => onchoose(p.name)}
			>
				<td class="py-1 pr-1 leading-tight">{p.title}</td>
				{#each [0, 1, 2] as const as i (i)}
					<td class="py-1 pr-1">
						<NumberField
							value={(p.at as Place)[i]}
							label="{p.title}, {'xyz'[i]}"
							onvalue={(v) =>
								v !== null && onmove(p.name, (p.at as Place).map((c, j) => (j === i ? v : c)) as Place)}
						/>
					</td>
				{/each}
				<td class="figure text-right leading-tight">
					± {number(p.plus_minus, 0)}<span class="text-quiet block font-sans text-xs">{p.source}</span>
				</td>
			</tr>
		{/each}
	</tbody>
</table>
<div class="mt-3">
	<label class="grid gap-1">
		<span class="label">Paste a table: name, x, y, z on each line</span>
		<textarea class="field figure h-20" bind:value={pasted} {placeholder}></textarea>
	</label>
	{#each trouble as line (line)}<p class="text-stops mt-1 text-xs font-semibold" role="alert">
			{line}
		</p>{/each}
	<div class="mt-2 flex gap-2">
		<button class="btn btn-dye" disabled={!pasted.trim()} onclick={take}>Take the table</button>
		<button class="btn" onclick={write}>Copy out as CSV</button>
	</div>
</div>
