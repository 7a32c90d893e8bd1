<script lang="ts">
	import type { AxleName, Schemas } from '../api/client';
	import { kindQuery } from '../queries';
	import DocumentForm from '../ui/DocumentForm.svelte';
	import EntryField from '../ui/EntryField.svelte';
	import { fieldOf, nodeOf, type Schema } from '../ui/form';
	import Length from '../ui/Length.svelte';
	import NumberField from '../ui/NumberField.svelte';
	import { theCar } from './carBench.svelte';

	const bench = theCar();
	const brief = $derived(bench.job.brief);
	const kind = kindQuery(() => bench.kind);
	const shelf = $derived(kind.data && fieldOf(nodeOf(kind.data.brief as Schema), 'shelf'));
	const AXLES: AxleName[] = ['front', 'rear'];
	const LIMITS = {
		rise: 'Body may rise at most',
		lamp_height_max: 'Lamp centres at most',
		lamp_height_min: 'Lamp centres at least'
	} as const;

	function put(part: Partial<Schemas['Brief']>) {
		bench.change('brief', { ...brief, ...part });
	}
	type Said = Schemas['AxleAim']['by'];
	const SAID: Record<NonNullable<Said>, string> = {
		rise: 'rises by',
		hub_to_arch: 'hub to arch is',
		arch_to_ground: 'arch to ground is',
		tyre_to_arch: 'tyre to arch is',
		station: 'station is at',
		fits_under: 'fits under',
		sag: 'sag from droop is',
		rake: 'rake of arches',
		none: 'no aim'
	};
	const other = (axle: AxleName): AxleName => (axle === 'front' ? 'rear' : 'front');
	const aim = (axle: AxleName, part: Partial<Schemas['AxleAim']>) =>
		put({ [axle]: { ...brief[axle], ...part } });
	/** Said in another way, beginning where it stands now. */
	function say(axle: AxleName, by: Said) {
		// Where nothing could be worked out, it begins where the vehicle's own data stand.
		const own = bench.job.vehicle[axle];
		const rows = bench.prediction?.heights.filter((h) => h.side === 'left') ?? [];
		const stations = bench.job.vehicle.stations;
		const station = stations[axle === 'front' ? 0 : stations.length - 1];
		const at = (kind: string) => rows.find((h) => h.kind === kind && h.axle === axle)?.before;
		const hub = at('hub_to_arch') ?? own.hub_to_arch_mm;
		const stroke = bench.prediction?.[axle].travel_before;
		const begins: Partial<Record<NonNullable<Said>, number>> = {
			hub_to_arch: hub,
			arch_to_ground: at('arch_to_ground') ?? hub + own.tyre_radius_mm,
			tyre_to_arch: at('tyre_to_arch') ?? hub - own.tyre_radius_mm,
			station: rows.find((h) => h.label === station?.name)?.before ?? station?.height_mm,
			fits_under: Math.max(1500, ...stations.map((place) => place.height_mm)),
			sag: stroke === undefined ? 80 : stroke.ride - stroke.droop
		};
		const stands = by && begins[by];
		aim(axle, {
			by,
			height: stands === undefined ? null : entry(Math.round(stands)),
			right: null,
			station: by === 'station' ? (station?.name ?? '') : '',
			rake: by === 'rake' ? { text: '0', value: 0, tolerance: null, unit: 'deg' } : null
		});
	}
	/** Whether how near counts was typed with what is wanted. */
	function typed(axle: AxleName): boolean {
		const a = brief[axle];
		const wanted = a.by === 'rise' ? [a.rise] : a.by === 'rake' ? [a.rake] : [a.height, a.right];
		return wanted.some((w) => !!w?.tolerance);
	}
	/** Which readings a height is one of. */
	function quantityOf(by: Said) {
		if (by === 'sag') return 'rise';
		return by === 'hub_to_arch' || by === 'tyre_to_arch' ? by : 'station';
	}
	/** Heights that the two sides can differ in. */
	const sided = (by: Said) => by === 'hub_to_arch' || by === 'arch_to_ground' || by === 'tyre_to_arch';
	const entry = (mm: number): Schemas['Length'] => ({
		text: String(mm),
		value: mm,
		tolerance: null,
		unit: 'mm'
	});
	const cargo = $derived(brief.cargo ?? []);
	const putCargo = (i: number, fields: Partial<Schemas['Cargo']>) =>
		put({ cargo: cargo.map((c, n) => (n === i ? { ...c, ...fields } : c)) });
	function putLimit(index: number, part: Partial<Schemas['LocalLimit']>) {
		put({ local_limits: brief.local_limits.map((l, i) => (i === index ? { ...l, ...part } : l)) });
	}
</script>

<fieldset class="grid gap-2">
	<legend class="head mb-1">Aim (minus: drops)</legend>
	<div class="grid grid-cols-[46px_1.35fr_1fr_92px] items-start gap-2">
		{#each AXLES as axle (axle)}
			<span class="pt-1.5 font-semibold capitalize">{axle}</span>
			<select
				class="field"
				aria-label="How the {axle} aim is said"
				value={brief[axle].by}
				onchange={(e) => say(axle, e.currentTarget.value as Said)}
			>
				{#each Object.entries(SAID) as [by, words] (by)}
					<option value={by} disabled={by === 'rake' && brief[other(axle)].by === 'rake'}>{words}</option>
				{/each}
			</select>
			{#if brief[axle].by === 'rise'}
				<EntryField
					entry={brief[axle].rise}
					label="Aim, {axle}"
					quantity="rise"
					keep="{bench.job.id}.aim.{axle}"
					onentry={(rise) => rise && aim(axle, { rise })}
				/>
			{:else if brief[axle].by === 'rake'}
				<EntryField
					entry={brief[axle].rake ?? undefined}
					label="Rake wanted, {axle}"
					kind="angle"
					quantity="rake"
					keep="{bench.job.id}.rake.{axle}"
					onentry={(rake) => rake && aim(axle, { rake })}
				/>
			{:else if brief[axle].by === 'none'}
				<span class="text-quiet pt-1.5">judged by nothing</span>
			{:else}
				<EntryField
					entry={brief[axle].height ?? undefined}
					label="Height wanted, {axle}"
					quantity={quantityOf(brief[axle].by)}
					keep="{bench.job.id}.height.{axle}"
					onentry={(height) => height && aim(axle, { height })}
				/>
			{/if}
			{#if typed(axle)}
				<span class="text-quiet pt-1.5" data-testid="near-{axle}"
					>{bench.prediction?.[axle].aim_near ?? ''}</span
				>
			{:else}
				<NumberField
					value={brief[axle].tolerance_mm}
					label="Aim counts as met within, {axle}"
					unit="mm"
					prefix="±"
					min={0.5}
					max={100}
					onvalue={(v) => v !== null && aim(axle, { tolerance_mm: v })}
				/>
			{/if}
			{#if brief[axle].by === 'station'}
				<span></span>
				<select
					class="field col-span-3"
					aria-label="Station of the {axle} aim"
					value={brief[axle].station}
					onchange={(e) => aim(axle, { station: e.currentTarget.value })}
				>
					{#each bench.job.vehicle.stations as s (s.name)}<option value={s.name}>{s.name}</option>{/each}
				</select>
			{/if}
			{#if sided(brief[axle].by)}
				<span></span>
				<span class="text-quiet pt-1.5">on the right, where it is to be another</span>
				<EntryField
					entry={brief[axle].right ?? undefined}
					label="Height wanted on the right, {axle}"
					quantity={quantityOf(brief[axle].by)}
					placeholder="alike"
					keep="{bench.job.id}.right.{axle}"
					onentry={(right) => aim(axle, { right: right ?? null })}
				/>
				<span></span>
			{/if}
			{#if brief[axle].by !== 'rise' && brief[axle].by !== 'none' && bench.prediction?.[axle].aim != null}
				<span></span>
				<p class="text-quiet col-span-3 -mt-1">
					That is a rise of <Length mm={bench.prediction[axle].aim} signed /> from where it was read.
				</p>
			{/if}
		{/each}
		<span class="pt-1.5 font-semibold">Rake</span>
		<NumberField
			value={brief.rake_change_max_deg}
			label="Rake may change by"
			unit="°"
			prefix="at most"
			min={0.01}
			max={10}
			onvalue={(v) => v !== null && put({ rake_change_max_deg: v })}
		/>
		<span class="text-quiet col-span-2 pt-1.5">of change, where both ends aim at a height</span>
	</div>
</fieldset>

<label class="grid gap-1">
	<span class="label">Height reference the owner means</span>
	<input
		class="field"
		value={brief.reference}
		maxlength="120"
		onchange={(e) => e.currentTarget.value.trim() && put({ reference: e.currentTarget.value })}
	/>
</label>
<label class="grid gap-1">
	<span class="label">On board when heights are taken</span>
	<input
		class="field"
		value={brief.load}
		maxlength="4000"
		onchange={(e) => put({ load: e.currentTarget.value })}
	/>
</label>

<details>
	<summary class="head cursor-pointer">The shop's shelf of springs: {(brief.shelf ?? []).length}</summary>
	<p class="text-quiet mb-1">
		They stand side by side on the card of a spring change, one press from being planned.
	</p>
	{#if shelf}
		<DocumentForm
			node={shelf.node}
			value={brief.shelf}
			label="Springs"
			onvalue={(to) => put({ shelf: to as Schemas['SpringOnShelf'][] })}
		/>
	{/if}
</details>

<fieldset class="grid gap-2">
	<legend class="head mb-1">Cargo, looked at on top of the planned stance</legend>
	{#each cargo as item, i (i)}
		<div class="border-rule grid grid-cols-[1fr_88px_112px_100px_34px] items-start gap-2 border-t pt-2">
			<input
				class="field"
				aria-label="Cargo {i + 1}"
				value={item.name}
				onchange={(e) => e.currentTarget.value.trim() && putCargo(i, { name: e.currentTarget.value })}
			/>
			<NumberField
				value={item.mass_kg}
				label="Mass of cargo {i + 1}"
				unit="kg"
				min={0}
				exclusive
				max={20000}
				onvalue={(v) => v !== null && putCargo(i, { mass_kg: v })}
			/>
			<NumberField
				value={item.behind_front_axle_mm}
				label="Cargo {i + 1} behind the front axle"
				unit="mm"
				min={-4000}
				max={12000}
				onvalue={(v) => v !== null && putCargo(i, { behind_front_axle_mm: v })}
			/>
			<NumberField
				value={item.left_mm}
				label="Cargo {i + 1} left of the middle"
				unit="mm"
				min={-2000}
				max={2000}
				onvalue={(v) => v !== null && putCargo(i, { left_mm: v })}
			/>
			<button
				class="btn btn-plain px-2"
				aria-label="Remove cargo {i + 1}"
				onclick={() => put({ cargo: cargo.filter((_, n) => n !== i) })}>✕</button
			>
		</div>
	{/each}
	{#if cargo.length}<p class="text-quiet">
			Mass, distance behind the front axle, distance left of the middle. The Plan shows the corners with it.
		</p>{/if}
	<button
		class="btn justify-self-start"
		onclick={() =>
			put({
				cargo: [
					...cargo,
					{
						name: 'load',
						mass_kg: 100,
						behind_front_axle_mm: Math.round(bench.job.vehicle.wheelbase_mm),
						left_mm: 0
					}
				]
			})}>Add cargo</button
	>
</fieldset>

<fieldset class="grid gap-2">
	<legend class="head mb-1">Local limits, in the shop's own words</legend>
	<p class="text-quiet">The plan is compared with these. Local law and inspection decide, not this list.</p>
	{#each brief.local_limits as limit, i (i)}
		<div class="border-rule grid grid-cols-[1fr_130px_34px] items-start gap-2 border-t pt-2">
			<select
				class="field"
				aria-label="Kind of limit {i + 1}"
				value={limit.quantity}
				onchange={(e) =>
					putLimit(i, { quantity: e.currentTarget.value as Schemas['LocalLimit']['quantity'] })}
			>
				{#each Object.entries(LIMITS) as [value, name] (value)}<option {value}>{name}</option>{/each}
			</select>
			<NumberField
				value={limit.value_mm}
				label="Limit {i + 1}"
				unit="mm"
				min={-500}
				max={3000}
				onvalue={(v) => v !== null && putLimit(i, { value_mm: v })}
			/>
			<button
				class="btn btn-plain px-2"
				aria-label="Remove limit {i + 1}"
				onclick={() => put({ local_limits: brief.local_limits.filter((_, n) => n !== i) })}>✕</button
			>
			<input
				class="field col-span-3"
				aria-label="Wording of limit {i + 1}"
				value={limit.text}
				onchange={(e) => e.currentTarget.value.trim() && putLimit(i, { text: e.currentTarget.value })}
			/>
		</div>
	{/each}
	<button
		class="btn justify-self-start"
		onclick={() =>
			put({
				local_limits: [
					...brief.local_limits,
					{ quantity: 'rise', value_mm: 50, text: 'Where this rule stands' }
				]
			})}>Add a limit</button
	>
</fieldset>
