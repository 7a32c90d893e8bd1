<script lang="ts">
	import Plus from '@lucide/svelte/icons/plus';
	import X from '@lucide/svelte/icons/x';
	import type { AxleName, Schemas } from '../api/client';
	import { kindQuery } from '../queries';
	import Length from '../ui/Length.svelte';
	import NumberField from '../ui/NumberField.svelte';
	import { theCar } from './carBench.svelte';

	const bench = theCar();
	const catalogue = kindQuery(() => 'car');
	const plan = $derived(bench.job.plan);
	const kits = $derived(plan.kits ?? []);
	const ENDS: AxleName[] = ['front', 'rear'];
	type Kit = Schemas['Kit'];

	const put = (to: Kit[]) => bench.change('plan', { ...plan, kits: to });
	const set = (i: number, part: Partial<Kit>) => put(kits.with(i, { ...(kits[i] as Kit), ...part }));
	function toggle(i: number, id: string) {
		const had = kits[i]?.changes ?? [];
		const now = had.includes(id) ? had.filter((c) => c !== id) : [...had, id];
		if (now.length) set(i, { changes: now });
	}
	const titleOf = (p: Schemas['PlannedChange']) =>
		`${catalogue.data?.changes.find((k) => k.type === p.change.type)?.title ?? p.change.type}, ${p.change.axle}`;
	const told = (name: string) => bench.prediction?.kits.find((k) => k.name === name)?.ends ?? [];
</script>

{#if plan.changes.length}
	<div class="mt-4 mb-1 flex items-center justify-between gap-2">
		<h2 class="head">Bought as a kit</h2>
		<button
			class="btn min-h-7 px-2 text-[13px]"
			onclick={() =>
				put([
					...kits,
					{
						name: `Kit ${kits.length + 1}`,
						changes: plan.changes.map((p) => p.id),
						front_mm: null,
						rear_mm: null
					}
				])}><Plus size={13} /> Add a kit</button
		>
	</div>
	{#each kits as kit, i (i)}
		<div class="border-rule mb-2 grid gap-1.5 rounded-[3px] border p-2" data-testid="kit">
			<div class="grid grid-cols-[1fr_104px_104px_30px] items-end gap-2">
				<label class="grid gap-0.5"
					><span class="label">Name</span>
					<input
						class="field"
						value={kit.name}
						maxlength="120"
						onchange={(e) => e.currentTarget.value.trim() && set(i, { name: e.currentTarget.value })}
					/></label
				>
				{#each ENDS as axle (axle)}
					{@const field = axle === 'front' ? 'front_mm' : 'rear_mm'}
					<div class="grid gap-0.5">
						<span class="label">Advertised, {axle}</span>
						<NumberField
							value={kit[field] ?? null}
							label="Advertised rise of {kit.name}, {axle}"
							unit="mm"
							min={-300}
							max={300}
							optional
							onvalue={(v) => set(i, { [field]: v })}
						/>
					</div>
				{/each}
				<button
					class="btn btn-plain px-1"
					aria-label="Take {kit.name} out: its changes stay"
					onclick={() => put(kits.toSpliced(i, 1))}><X size={15} /></button
				>
			</div>
			<div class="flex flex-wrap gap-x-3 gap-y-1">
				{#each plan.changes as p (p.id)}
					<label class="flex items-center gap-1.5 text-sm"
						><input
							type="checkbox"
							class="accent-dye h-5 w-5"
							checked={kit.changes.includes(p.id)}
							onchange={() => toggle(i, p.id)}
						/>
						{titleOf(p)}</label
					>
				{/each}
			</div>
			{#each told(kit.name) as end (end.axle)}
				<p>
					<span class="font-semibold capitalize">{end.axle}:</span>
					<span class="text-lg font-bold"><Length mm={end.predicted_mm} signed /></span> on this vehicle,
					advertised
					<Length mm={end.advertised_mm} signed />
				</p>
				{#each end.because as why, n (n)}<p class="text-quiet -mt-1">{why}</p>{/each}
			{/each}
		</div>
	{:else}
		<p class="text-quiet">
			Where parts were sold together with a lift on the box: name it, tick what belongs to it, and it is held
			against this vehicle.
		</p>
	{/each}
{/if}
