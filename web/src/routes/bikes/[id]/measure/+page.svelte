<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import { bikeView, theBike } from '$lib/bike/bikeBench.svelte';
	import SagReadings from '$lib/bike/SagReadings.svelte';
	import { number } from '$lib/format';
	import { bikeChoicesQuery } from '$lib/queries';
	import DocumentForm from '$lib/ui/DocumentForm.svelte';
	import EntryField from '$lib/ui/EntryField.svelte';
	import { nodeOf, type Schema } from '$lib/ui/form';

	const bench = theBike();
	const measure = $derived(bench.job.measure);
	const fit = $derived(bench.prediction?.fit);
	const read = $derived(new Map((measure.tape ?? []).map((t) => [t.key, t.reading as Schemas['Length']])));
	const choices = bikeChoicesQuery();
	const form = $derived(choices.data && nodeOf(choices.data.vehicle as Schema));
	$effect(() => () => {
		bikeView.tape = [];
		bikeView.condition = 'laden';
	});

	const put = (part: Partial<Schemas['BikeMeasurements']>) =>
		bench.change('measure', { ...measure, ...part });
	function putTape(key: string, entry: Schemas['Length'] | undefined) {
		const others = (measure.tape ?? []).filter((t) => t.key !== key);
		put({ tape: entry ? [...others, { key, reading: entry }] : others });
	}
	function look(points: readonly string[]) {
		bikeView.tape = [...points];
		bikeView.condition = 'extended';
	}
	const says = (end: 'front' | 'rear', state: 'unladen' | 'laden') => {
		const at = bench.prediction?.before[state];
		if (!at) return '';
		return `spring says ${number(end === 'rear' ? at.rear_sag_mm : at.front_sag_mm, 0)}`;
	};
</script>

<h2 class="head mb-1">Sags, each against the machine's own full extension</h2>
<p class="text-quiet mb-2">
	Rear from the axle straight up to a mark; fork along the tube. Lift the wheel for “hanging”; bounce before
	the others. The rider in kit, feet on the rests, somebody holding the bars.
</p>
<SagReadings
	readings={measure}
	keep="{bench.job.id}.measure"
	beside={says}
	onreadings={(to) => bench.change('measure', to)}
/>
{#each bench.prediction?.questions ?? [] as q (q)}
	<p class="border-fix text-fix mt-2 border-l-4 pl-2 font-semibold">{q}</p>
{/each}
<div class="mt-3 grid grid-cols-3 gap-3">
	<div>
		<span class="label block">Seat above the ground, on its own</span>
		<EntryField
			entry={measure.seat as Schemas['Length'] | undefined}
			label="Seat height"
			keep="{bench.job.id}.seat"
			onentry={(entry) => put({ seat: entry ?? null })}
		/>
	</div>
</div>

<h2 class="head mt-4 mb-1">
	Calliper and tape on the rear end {#if fit}<span class="text-quiet font-normal"
			>· leverage known to ± {number(fit.ratio_percent, 1)} %</span
		>{/if}
</h2>
<p class="text-quiet mb-1">
	Hole to hole by calliper, heights with the wheels hanging just clear. Each reading moves the drawing; the
	dotted line shows where it goes.
</p>
<table class="w-full">
	<thead
		><tr class="label text-left"
			><th class="font-semibold">{measure.tape?.length ?? 0} of {fit?.rows.length ?? 0} read</th><th
				class="w-[104px]">reading</th
			><th class="w-[86px] text-right">drawing</th></tr
		></thead
	>
	<tbody>
		{#each fit?.rows ?? [] as row (row.key)}
			<tr class="border-rule border-t align-top" data-place={row.key} onfocusin={() => look(row.points)}>
				<td class="py-1 pr-2 leading-tight">
					{row.title}
					{#if fit?.next.includes(row.key)}<span class="text-dye text-xs font-bold whitespace-nowrap"
							>&nbsp;{fit.next.indexOf(row.key) + 1}. next</span
						>{/if}
				</td>
				<td class="py-1">
					<EntryField
						entry={read.get(row.key)}
						label={row.title}
						keep="{bench.job.id}.tape.{row.key}"
						onentry={(entry) => putTape(row.key, entry)}
					/>
				</td>
				<td class="figure py-1.5 text-right"
					>{number(row.fitted, 1)}{#if row.residual !== null && Math.abs(row.residual) >= 0.3}<span
							class="text-quiet block text-xs">off {number(row.residual, 1, true)}</span
						>{/if}</td
				>
			</tr>
		{/each}
	</tbody>
</table>
{#if form}
	<details class="mt-4">
		<summary class="head cursor-pointer"
			>The machine as it came: springs, damper, fork, stand, seat, masses</summary
		>
		<p class="text-quiet my-1">As it was found: off its stampings, by calliper, or its maker's sheet.</p>
		<DocumentForm
			node={form}
			value={bench.machine}
			label="Machine"
			hide={['rear', 'body', 'known', 'archetype', 'name', 'plate', 'wheels']}
			onvalue={(to) => put({ machine: to as Schemas['Bike'] })}
		/>
	</details>
{/if}
