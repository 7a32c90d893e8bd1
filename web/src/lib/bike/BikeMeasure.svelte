<script lang="ts">
	import type { Schemas } from '../api/client';
	import { number } from '../format';
	import { kindQuery } from '../queries';
	import NarrowMost from '../bench/NarrowMost.svelte';
	import SidePhotograph from '../bench/SidePhotograph.svelte';
	import DocumentForm from '../ui/DocumentForm.svelte';
	import EntryField from '../ui/EntryField.svelte';
	import NumberField from '../ui/NumberField.svelte';
	import { nodeOf, type Schema } from '../ui/form';
	import { bikeView, theBike } from './bikeBench.svelte';
	import CalliperList from './CalliperList.svelte';
	import SagReadings from './SagReadings.svelte';

	const bench = theBike();
	const measure = $derived(bench.job.measure);
	const fit = $derived(bench.prediction?.fit);
	/** Read on the machine's own bench, and in this job: the job's come before. */
	const read = $derived(
		new Map(
			[...(bench.machine.tape ?? []), ...(measure.tape ?? [])].map((t) => [
				t.key,
				t.reading as Schemas['Length']
			])
		)
	);
	const narrow = $derived([
		{ name: 'Rear', input: bench.prediction?.spread.rear?.inputs[0] },
		{ name: 'Fork', input: bench.prediction?.spread.front?.inputs[0] }
	]);
	const kind = kindQuery(() => bench.kind);
	const form = $derived(kind.data && nodeOf(kind.data.machine as Schema));
	$effect(() => () => {
		bikeView.tape = [];
		bench.look('laden');
	});

	const put = (part: Partial<Schemas['BikeMeasurements']>) =>
		bench.change('measure', { ...measure, ...part });
	function putTape(key: string, entry: Schemas['Length'] | undefined) {
		const others = (measure.tape ?? []).filter((t) => t.key !== key);
		put({ tape: entry ? [...others, { key, reading: entry }] : others });
	}
	const says = (end: 'front' | 'rear', state: 'unladen' | 'laden') => {
		const at = bench.prediction?.before[state];
		if (!at) return '';
		return `by spring ${number(end === 'rear' ? at.rear_sag_mm : at.front_sag_mm, 0)}`;
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
<div class="mt-3 grid grid-cols-3 items-end gap-3">
	<div>
		<span class="label block">Seat above the ground, on its own</span>
		<EntryField
			entry={measure.seat as Schemas['Length'] | undefined}
			label="Seat height"
			keep="{bench.job.id}.seat"
			onentry={(entry) => put({ seat: entry ?? null })}
		/>
	</div>
	<div>
		<span class="label block">A sag or seat is read to ±</span>
		<NumberField
			value={measure.default_tolerance_mm ?? 1}
			label="Tolerance of a sag or seat"
			unit="mm"
			min={0}
			max={20}
			onvalue={(v) => v !== null && put({ default_tolerance_mm: v })}
		/>
	</div>
</div>

<h2 class="head mt-4 mb-1">Calliper and tape on the rear end</h2>
{#if fit}
	<CalliperList
		{fit}
		readings={read}
		keep="{bench.job.id}.tape"
		onread={putTape}
		onplace={(points) => {
			bikeView.tape = points;
			bikeView.chosen = '';
			bench.look('extended');
		}}
	/>
{/if}
<div class="mt-4">
	<SidePhotograph photograph={measure.photograph} onphotograph={(photograph) => put({ photograph })} />
</div>
<NarrowMost ends={narrow} />
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
			hide={['rear', 'body', 'known', 'archetype', 'name', 'plate', 'wheels', 'tape']}
			onvalue={(to) => put({ machine: to as Schemas['Bike'] })}
		/>
	</details>
{/if}
