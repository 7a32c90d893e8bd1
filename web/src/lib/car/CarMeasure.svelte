<script lang="ts">
	import { number } from '../format';
	import NarrowMost from '../bench/NarrowMost.svelte';
	import SidePhotograph from '../bench/SidePhotograph.svelte';
	import EntryField from '../ui/EntryField.svelte';
	import NumberField from '../ui/NumberField.svelte';
	import { carView, theCar } from './carBench.svelte';
	import CarOwnFigures from './CarOwnFigures.svelte';
	import CarReadings from './CarReadings.svelte';

	const bench = theCar();
	const measure = $derived(bench.job.measure);
	const vehicle = $derived(bench.job.vehicle);
	const asked = $derived({
		front: bench.prediction?.front.angles_read ?? [],
		rear: bench.prediction?.rear.angles_read ?? []
	});
	const narrow = $derived([
		{ name: 'Front', input: bench.prediction?.front.inputs[0] },
		{ name: 'Rear', input: bench.prediction?.rear.inputs[0] }
	]);
</script>

<p class="text-quiet mb-2">
	Level ground, tyres to pressure, {bench.job.brief.load || 'usual load on board'}. Type as the tape reads:
	<span class="figure">146</span>, <span class="figure">5 3/4</span>, <span class="figure">14.6 cm</span>,
	<span class="figure">397 ± 1</span>. Enter goes to the next.
</p>
<CarReadings
	readings={measure}
	quantities={[
		{ id: 'hub_to_arch', name: 'Hub to arch', hint: 'Hub centre straight up to the edge of the arch' },
		{ id: 'tyre_radius', name: 'Tyre radius', hint: 'Hub centre to the ground, loaded' },
		{ id: 'bump_stop_gap', name: 'Stop gap', hint: 'From the stop to what it lands on' },
		{ id: 'exposed_rod', name: 'Rod showing', hint: 'Bare damper rod at this height' },
		{ id: 'tyre_to_arch', name: 'Tyre to arch', hint: 'From the tread, on top, to the edge of the arch' }
	]}
	stations={vehicle.stations.map((s) => s.name)}
	scales
	angleSides={asked}
	keep="{bench.job.id}.measure"
	questions={bench.prediction?.questions}
	onlook={(at) => (carView.tape = at)}
	onreadings={(readings) => bench.change('measure', readings)}
/>

<div class="mt-4 grid grid-cols-2 items-start gap-3">
	{#each ['front', 'rear'] as const as axle (axle)}
		{@const field = axle === 'front' ? 'front_as_new' : 'rear_as_new'}
		<div class="grid gap-1">
			<span class="label">With healthy springs the {axle} stood at, hub to arch</span>
			<EntryField
				entry={measure[field] ?? undefined}
				label="Hub to arch with healthy springs, {axle}"
				quantity="hub_to_arch"
				placeholder="leave out where nobody knows"
				keep="{bench.job.id}.measure.as-new.{axle}"
				onentry={(reading) => bench.change('measure', { ...measure, [field]: reading ?? null })}
			/>
			{#if bench.prediction?.[axle].springs_lost != null}
				<p class="text-quiet">
					The fitted springs have lost <span class="figure text-ink font-semibold"
						>{number(bench.prediction[axle].springs_lost ?? 0, 1)}</span
					>
					{bench.prediction[axle].springs_lost_of}.
				</p>
			{/if}
		</div>
	{/each}
</div>

<div class="mt-4"><CarOwnFigures /></div>

{#each bench.prediction?.body.disagreements ?? [] as line, n (n)}
	<p class="text-fix mt-1 font-semibold">{line}</p>
{/each}

<div class="mt-4">
	<SidePhotograph
		photograph={measure.photograph}
		onphotograph={(photograph) => bench.change('measure', { ...measure, photograph })}
	/>
</div>
<div class="mt-4 grid grid-cols-[1fr_150px] items-start gap-3">
	<label class="grid gap-1">
		<span class="label">Note</span>
		<textarea
			class="field h-14"
			value={measure.note}
			maxlength="4000"
			onchange={(e) => bench.change('measure', { ...measure, note: e.currentTarget.value })}></textarea>
	</label>
	<div class="grid gap-1">
		<span class="label">A tape reading is good to ±</span>
		<NumberField
			value={measure.default_tolerance_mm}
			label="Tolerance of a tape reading"
			unit="mm"
			min={0}
			max={50}
			onvalue={(v) => v !== null && bench.change('measure', { ...measure, default_tolerance_mm: v })}
		/>
	</div>
</div>

<NarrowMost ends={narrow} />
