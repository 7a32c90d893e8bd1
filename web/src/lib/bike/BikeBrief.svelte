<script lang="ts">
	import Plus from '@lucide/svelte/icons/plus';
	import X from '@lucide/svelte/icons/x';
	import type { Schemas } from '../api/client';
	import { number } from '../format';
	import { kindQuery } from '../queries';
	import DocumentForm from '../ui/DocumentForm.svelte';
	import EntryField from '../ui/EntryField.svelte';
	import { fieldOf, nodeOf, type Schema } from '../ui/form';
	import NumberField from '../ui/NumberField.svelte';
	import { theBike } from './bikeBench.svelte';

	const bench = theBike();
	const brief = $derived(bench.job.brief);
	const kind = kindQuery(() => bench.kind);
	const form = $derived(kind.data && nodeOf(kind.data.brief as Schema));
	const rides = $derived(brief.rides ?? []);
	const USES = ['road', 'touring', 'commuting', 'enduro', 'trail', 'trials', 'downhill'] as const;
	const put = (part: Partial<Schemas['BikeBrief']>) => bench.change('brief', { ...brief, ...part });
	/** The rear aim in other words, beginning where the seat stands now. */
	function say(rear_by: Schemas['BikeBrief']['rear_by']) {
		const now = Math.round(bench.prediction?.reach.seat_before_mm ?? bench.machine.seat.height_mm);
		const wanted = { text: String(now), value: now, tolerance: null, unit: 'mm' } as Schemas['Length'];
		put({ rear_by, seat_wanted: rear_by === 'seat' ? wanted : null });
	}
	const putRide = (i: number, fields: Partial<Schemas['Rides']>) =>
		put({ rides: rides.map((r, n) => (n === i ? { ...r, ...fields } : r)) });
	const fresh = (): Schemas['Rides'] => ({
		name: rides.length ? 'luggage' : 'rider',
		role: rides.length ? 'luggage' : 'rider',
		mass: { text: rides.length ? '10' : '75', value: rides.length ? 10 : 75, tolerance: null, unit: 'kg' },
		x_mm: Math.round(bench.machine.wheelbase_mm * (rides.length ? 0.1 : 0.38)),
		aboard: true
	});
	/** Our windows for the use, to begin the shop's own with. */
	const ours = $derived(
		((kind.data?.extras.windows ?? []) as Schemas['SagWindow'][]).filter((w) => w.use === brief.use)
	);
</script>

<div class="grid grid-cols-3 items-end gap-3">
	<div class="col-span-3 grid grid-cols-[minmax(0,2fr)_minmax(0,1fr)] items-center gap-x-3">
		<select
			class="field"
			aria-label="How the rear aim is said"
			value={brief.rear_by}
			onchange={(e) => say(e.currentTarget.value as Schemas['BikeBrief']['rear_by'])}
		>
			<option value="drop">Rear comes down by (minus: up)</option>
			<option value="seat">Seat, rider on, is at</option>
			<option value="both_feet" disabled={!brief.inseam_mm}>Both feet flat on the ground</option>
			<option value="one_foot" disabled={!brief.inseam_mm}>One foot flat, leaning</option>
		</select>
		{#if brief.rear_by === 'drop'}
			<EntryField
				entry={(brief.rear_drop as Schemas['Length'] | null) ?? undefined}
				label="Aim, rear"
				placeholder="no height wanted"
				keep="{bench.job.id}.rear_drop"
				onentry={(entry) => put({ rear_drop: entry ?? null })}
			/>
		{:else if brief.rear_by === 'seat'}
			<EntryField
				entry={(brief.seat_wanted as Schemas['Length'] | null) ?? undefined}
				label="Seat height wanted"
				keep="{bench.job.id}.seat_wanted"
				onentry={(entry) => entry && put({ seat_wanted: entry })}
			/>
		{/if}
		{#if brief.rear_by !== 'drop' && bench.prediction?.aim_mm != null}
			<p class="text-quiet col-span-2">
				that is {number(bench.prediction.aim_mm, 0, true)} mm of drop at the rear.
			</p>
		{/if}
	</div>
	<div>
		<span class="label block">Front comes down by</span>
		<EntryField
			entry={(brief.front_drop as Schemas['Length'] | null) ?? undefined}
			label="Aim, front"
			placeholder="no own aim"
			keep="{bench.job.id}.front_drop"
			onentry={(entry) => put({ front_drop: entry ?? null })}
		/>
	</div>
	<div>
		<span class="label block">met within ±</span>
		<NumberField
			value={brief.tolerance_mm}
			label="Aim counts as met within"
			unit="mm"
			min={0}
			exclusive
			onvalue={(v) => v !== null && put({ tolerance_mm: v })}
		/>
	</div>
	<label>
		<span class="label block">Ridden as</span>
		<select
			class="field"
			value={brief.use}
			onchange={(e) => put({ use: e.currentTarget.value as Schemas['BikeBrief']['use'] })}
		>
			{#each USES as u (u)}<option value={u}>{u}</option>{/each}
		</select>
	</label>
	<label class="col-span-2 flex items-center gap-2">
		<input
			type="checkbox"
			class="accent-dye h-5 w-5"
			checked={brief.keep_steering}
			onchange={(e) => put({ keep_steering: e.currentTarget.checked })}
		/> Keep the steering as it was: trail unchanged
	</label>
	<div>
		<span class="label block">Supplier's fork raise, if stated</span>
		<NumberField
			value={brief.supplier_raise_mm}
			label="Supplier's fork raise"
			unit="mm"
			optional
			onvalue={(v) => put({ supplier_raise_mm: v })}
		/>
	</div>
</div>

<fieldset>
	<legend class="head mb-1">Who and what rides along</legend>
	<div class="grid gap-1.5">
		{#each rides as r, i (i)}
			<div class="grid grid-cols-[22px_minmax(70px,1fr)_80px_60px_88px_26px] items-center gap-1.5">
				<input
					type="checkbox"
					class="accent-dye h-5 w-5"
					aria-label="{r.name} aboard"
					checked={r.aboard}
					onchange={(e) => putRide(i, { aboard: e.currentTarget.checked })}
				/>
				<input
					class="field"
					aria-label="Who or what {i + 1}"
					value={r.name}
					maxlength="120"
					onchange={(e) => e.currentTarget.value.trim() && putRide(i, { name: e.currentTarget.value })}
				/>
				<select
					class="field px-1"
					aria-label="As what {i + 1}"
					value={r.role}
					onchange={(e) => putRide(i, { role: e.currentTarget.value as Schemas['Rides']['role'] })}
				>
					{#each ['rider', 'kit', 'luggage', 'passenger'] as role (role)}<option>{role}</option>{/each}
				</select>
				<EntryField
					entry={r.mass as Schemas['Length']}
					kind="mass"
					label="Mass of {r.name}, kg"
					keep="{bench.job.id}.mass.{i}"
					onentry={(entry) => entry && putRide(i, { mass: entry as Schemas['Mass'] })}
				/>
				<NumberField
					value={r.x_mm}
					label="{r.name} ahead of the rear axle"
					unit="mm"
					onvalue={(v) => v !== null && putRide(i, { x_mm: v })}
				/>
				<button
					class="btn min-h-7 px-1"
					aria-label="Take {r.name} off"
					onclick={() => put({ rides: rides.filter((_, n) => n !== i) })}><X size={14} /></button
				>
			</div>
		{/each}
		<div>
			<button class="btn min-h-7" onclick={() => put({ rides: [...rides, fresh()] })}
				><Plus size={14} /> {rides.length ? 'Add luggage, kit or passenger' : 'Add the rider'}</button
			>
			<span class="text-quiet ml-2">kg, and how far ahead of the rear axle</span>
		</div>
	</div>
</fieldset>

{#if form}
	<fieldset>
		<legend class="head mb-1">Rider's legs and the yard</legend>
		<DocumentForm
			node={form}
			value={brief}
			label="Brief"
			hide={[
				'owner',
				'purpose',
				'rear_drop',
				'front_drop',
				'rear_by',
				'seat_wanted',
				'tolerance_mm',
				'use',
				'keep_steering',
				'supplier_raise_mm',
				'rides',
				'windows',
				'shelf',
				'due',
				'reversible',
				'schools'
			]}
			onvalue={(to) => bench.change('brief', to as Schemas['BikeBrief'])}
		/>
	</fieldset>
	<fieldset>
		<legend class="head mb-1">Sag windows</legend>
		{#if (brief.windows ?? []).length === 0}
			<p class="text-quiet mb-1">
				Ours until the shop writes its own: {#each ours as w (w.end)}{w.end} laden {Math.round(
						w.laden_low * 100
					)} to {Math.round(w.laden_high * 100)} % ({w.reason}){w.end === 'rear' ? '; ' : '.'}{/each}
			</p>
			<button class="btn min-h-7" onclick={() => put({ windows: ours })}>Write the shop's own</button>
		{:else}
			{@const windows = fieldOf(form, 'windows')}
			{#if windows}<DocumentForm
					node={windows.node}
					value={brief.windows}
					label="Windows"
					onvalue={(to) => put({ windows: to as Schemas['SagWindow'][] })}
				/>{/if}
		{/if}
	</fieldset>
	<details>
		<summary class="head cursor-pointer">The shop's shelf: {(brief.shelf ?? []).length} rear springs</summary>
		{#if fieldOf(form, 'shelf')}
			<DocumentForm
				node={fieldOf(form, 'shelf')!.node}
				value={brief.shelf}
				label="Springs"
				onvalue={(to) => put({ shelf: to as Schemas['ShelfSpring'][] })}
			/>
		{/if}
	</details>
{/if}
