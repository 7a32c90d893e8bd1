<script lang="ts">
	import type { AxleName, Schemas, Side } from '../api/client';
	import { length } from '../format';
	import { settings } from '../settings.svelte';
	import EntryField from '../ui/EntryField.svelte';

	type Measurements = Schemas['Measurements'];
	type Quantity = Schemas['CornerReading']['quantity'];
	let {
		readings,
		quantities,
		stations,
		angles = true,
		scales = false,
		angleSides,
		keep,
		questions = [],
		beside,
		onlook,
		onreadings
	}: {
		readings: Measurements;
		quantities: { id: Quantity; name: string; hint?: string }[];
		stations: string[];
		angles?: boolean;
		/** Whether wheel scales are asked for. */
		scales?: boolean;
		/** Angles asked for, per axle. */
		angleSides: Record<AxleName, Schemas['AngleReading']['angle'][]>;
		keep: string;
		questions?: Schemas['Question'][];
		/** A line under a corner's hub-to-arch field, or a station's: what it should read. */
		beside?: (where: { axle?: AxleName; station?: string; side: Side; angle?: string }) => string;
		/** A field has the focus: where its tape goes. */
		onlook?: (at: { axle?: AxleName; side: Side; quantity: string; station?: string }) => void;
		onreadings: (readings: Measurements) => void;
	} = $props();

	const PLACES: { axle: AxleName; side: Side; short: string }[] = [
		{ axle: 'front', side: 'left', short: 'Front left' },
		{ axle: 'front', side: 'right', short: 'Front right' },
		{ axle: 'rear', side: 'left', short: 'Rear left' },
		{ axle: 'rear', side: 'right', short: 'Rear right' }
	];
	const ANGLES = ['camber', 'toe', 'caster'] as const;
	const read = (name: (typeof ANGLES)[number]) => PLACES.some((p) => angleSides[p.axle].includes(name));

	const corner = (axle: AxleName, side: Side, quantity: Quantity) =>
		readings.corners.find((c) => c.axle === axle && c.side === side && c.quantity === quantity)?.reading;
	const station = (name: string, side: Side) =>
		readings.stations.find((s) => s.station === name && s.side === side)?.reading;
	const angle = (axle: AxleName, side: Side, name: string) =>
		readings.angles.find((a) => a.axle === axle && a.side === side && a.angle === name)?.reading;
	const scale = (axle: AxleName, side: Side) =>
		(readings.scales ?? []).find((s) => s.axle === axle && s.side === side)?.reading;
	const question = (where: string) => questions.find((q) => q.where === where)?.sentence ?? '';

	/** The list with one item set, replaced in place or taken out. */
	function set<T>(list: T[], same: (item: T) => boolean, item: T | undefined): T[] {
		const at = list.findIndex(same);
		if (at === -1) return item ? [...list, item] : list;
		return item ? list.with(at, item) : list.toSpliced(at, 1);
	}
	const apart = (axle: AxleName) => {
		const [l, r] = (['left', 'right'] as const).map((s) => corner(axle, s, 'hub_to_arch')?.value);
		return l === undefined || r === undefined
			? ''
			: `${length(l - r, settings.units, { signed: true, digits: settings.units === 'mm' ? 1 : 0 })} ${settings.units}`;
	};
</script>

<table class="w-full table-fixed border-separate border-spacing-x-1.5 border-spacing-y-1 text-left">
	<colgroup><col class="w-[88px]" /></colgroup>
	<thead>
		<tr class="label">
			<td></td>
			{#each PLACES as p (p.short)}<th scope="col">{p.short}</th>{/each}
		</tr>
	</thead>
	<tbody>
		{#each quantities as q (q.id)}
			<tr class="align-top">
				<th scope="row" class="pt-1.5 leading-tight font-semibold" title={q.hint}>{q.name}</th>
				{#each PLACES as p (p.short)}
					<td onfocusin={() => onlook?.({ axle: p.axle, side: p.side, quantity: q.id })}>
						<EntryField
							entry={corner(p.axle, p.side, q.id)}
							label="{q.name}, {p.axle} {p.side}"
							quantity={q.id}
							keep="{keep}.{p.axle}.{p.side}.{q.id}"
							question={question(`${p.axle}.${p.side}.${q.id}`)}
							onentry={(reading) =>
								onreadings({
									...readings,
									corners: set(
										readings.corners,
										(c) => c.axle === p.axle && c.side === p.side && c.quantity === q.id,
										reading && { axle: p.axle, side: p.side, quantity: q.id, reading }
									)
								})}
						/>
						{#if q.id === 'hub_to_arch' && beside}
							<p class="text-dye figure text-[13px] leading-tight break-words whitespace-normal!">
								{beside({ axle: p.axle, side: p.side })}
							</p>
						{/if}
					</td>
				{/each}
			</tr>
			{#if q.id === 'hub_to_arch' && (apart('front') || apart('rear'))}
				<tr class="text-quiet text-[13px]">
					<th scope="row" class="font-normal">left less right</th>
					<td colspan="2" class="figure text-center">{apart('front')}</td>
					<td colspan="2" class="figure text-center">{apart('rear')}</td>
				</tr>
			{/if}
		{/each}
	</tbody>
</table>

{#if scales}
	<h3 class="head mt-4 mb-1">On wheel scales, kg; leave out where there are none</h3>
	<table class="w-full table-fixed border-separate border-spacing-x-1.5 border-spacing-y-1 text-left">
		<colgroup><col class="w-[88px]" /></colgroup>
		<tbody>
			<tr class="align-top">
				<th scope="row" class="pt-1.5 font-semibold">Wheel load</th>
				{#each PLACES as p (p.short)}
					<td>
						<EntryField
							entry={scale(p.axle, p.side)}
							label="Wheel load, {p.axle} {p.side}"
							kind="mass"
							quantity="scale"
							keep="{keep}.{p.axle}.{p.side}.scale"
							onentry={(reading) =>
								onreadings({
									...readings,
									scales: set(
										readings.scales ?? [],
										(s) => s.axle === p.axle && s.side === p.side,
										reading && { axle: p.axle, side: p.side, reading }
									)
								})}
						/>
					</td>
				{/each}
			</tr>
		</tbody>
	</table>
{/if}

{#if stations.length}
	<h3 class="head mt-4 mb-1">Height above ground at a station</h3>
	<table class="w-full table-fixed border-separate border-spacing-x-1.5 border-spacing-y-1 text-left">
		<thead>
			<tr class="label"><td></td><th scope="col">Left</th><th scope="col">Right</th></tr>
		</thead>
		<tbody>
			{#each stations as name (name)}
				<tr class="align-top">
					<th scope="row" class="pt-1.5 font-semibold">{name}</th>
					{#each ['left', 'right'] as const as side (side)}
						<td onfocusin={() => onlook?.({ side, quantity: 'station', station: name })}>
							<EntryField
								entry={station(name, side)}
								label="{name}, {side}"
								quantity="station"
								keep="{keep}.{name}.{side}"
								onentry={(reading) =>
									onreadings({
										...readings,
										stations: set(
											readings.stations,
											(s) => s.station === name && s.side === side,
											reading && { station: name, side, reading }
										)
									})}
							/>
							{#if beside}<p class="text-dye figure text-[13px] leading-tight break-words whitespace-normal!">
									{beside({ station: name, side })}
								</p>{/if}
						</td>
					{/each}
				</tr>
			{/each}
		</tbody>
	</table>
{/if}

{#if angles && ANGLES.some(read)}
	<h3 class="head mt-4 mb-1">Read on the rack, degrees; toe of each wheel</h3>
	<table class="w-full table-fixed border-separate border-spacing-x-1.5 border-spacing-y-1 text-left">
		<colgroup><col class="w-[88px]" /></colgroup>
		<thead>
			<tr class="label"
				><td></td>{#each PLACES as p (p.short)}<th scope="col">{p.short}</th>{/each}</tr
			>
		</thead>
		<tbody>
			{#each ANGLES.filter(read) as name (name)}
				<tr class="align-top">
					<th scope="row" class="pt-1.5 font-semibold capitalize">{name}</th>
					{#each PLACES as p (p.short)}
						<td>
							{#if angleSides[p.axle].includes(name)}
								<EntryField
									entry={angle(p.axle, p.side, name)}
									label="{name}, {p.axle} {p.side}"
									kind="angle"
									quantity={name}
									keep="{keep}.{p.axle}.{p.side}.{name}"
									onentry={(reading) =>
										onreadings({
											...readings,
											angles: set(
												readings.angles,
												(a) => a.axle === p.axle && a.side === p.side && a.angle === name,
												reading && { axle: p.axle, side: p.side, angle: name, reading }
											)
										})}
								/>
								{#if beside}<p
										class="text-dye figure text-[13px] leading-tight break-words whitespace-normal!"
									>
										{beside({ axle: p.axle, side: p.side, angle: name })}
									</p>{/if}
							{:else}
								<span class="text-quiet block pt-1.5">–</span>
							{/if}
						</td>
					{/each}
				</tr>
			{/each}
		</tbody>
	</table>
{/if}
