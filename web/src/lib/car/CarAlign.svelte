<script lang="ts">
	import Printer from '@lucide/svelte/icons/printer';
	import Minus from '@lucide/svelte/icons/minus';
	import Plus from '@lucide/svelte/icons/plus';
	import type { Schemas } from '../api/client';
	import { number } from '../format';
	import Told from '../ui/Told.svelte';
	import { carView, theCar } from './carBench.svelte';

	const bench = theCar();
	const alignment = $derived(bench.alignment);
	$effect(() => {
		void bench.job;
		bench.computeAlignment();
	});
	$effect(() => {
		carView.instrument = 'angles';
	});

	function choose(setting: Schemas['Setting'], mm: number | undefined) {
		const chosen = { ...bench.job.align.chosen };
		if (mm === undefined) delete chosen[setting.key];
		else
			chosen[setting.key] = Math.round(Math.min(setting.high_mm, Math.max(setting.low_mm, mm)) * 1e6) / 1e6;
		bench.change('align', { ...bench.job.align, chosen });
	}
	/** One step from what is chosen now, so that quick presses all count. */
	function step(setting: Schemas['Setting'], by: 1 | -1) {
		choose(setting, (bench.job.align.chosen[setting.key] ?? setting.set_mm) + by * setting.step_mm);
	}
	type Whole = Schemas['CoupledAxle'];
	const solid = $derived(
		(['front', 'rear'] as const).flatMap((name) => {
			const whole = bench.prediction?.[name].coupled;
			return whole ? [{ name, whole }] : [];
		})
	);
	/** So much this way or that; what is nothing goes neither way. */
	const way = (value: number, more: string, less: string, digits: number, unit: string) => {
		const told = `${number(Math.abs(value), digits)}${unit === '°' ? '' : ' '}${unit}`;
		return Math.abs(value) < 0.5 * 10 ** -digits ? told : `${told} ${value < 0 ? less : more}`;
	};
	/** What a solid axle does under the body, as it is measured; parts it does not have are left out. */
	function told(whole: Whole): [string, string][] {
		const rows: [string, string][] = [
			['stands', way(whole.shift_left_mm, 'left', 'right', 1, 'mm')],
			['axle turned', way(whole.nose_up_deg, 'front up', 'front down', 2, '°')],
			['steers', way(whole.steer_left_deg, 'left', 'right', 2, '°')]
		];
		if (whole.drag_link_short_mm !== null)
			rows.push(['drag link', way(whole.drag_link_short_mm, 'longer', 'shorter', 1, 'mm')]);
		if (whole.steering_wheel_deg !== null)
			rows.push(['steering wheel, until it is set', `${number(whole.steering_wheel_deg, 0, true)}°`]);
		if (whole.shaft)
			rows.push([
				'propeller shaft, gearbox / pinion',
				`${number(whole.shaft.gearbox, 1)} / ${number(whole.shaft.pinion, 1)}°`
			]);
		return rows;
	}
	async function print() {
		if (await bench.flush()) window.open(`/api/jobs/${bench.job.id}/alignment.pdf`);
	}
</script>

<div class="mb-2 flex items-center justify-between">
	<h2 class="head">Settings at the planned height</h2>
	<button class="btn" onclick={print}><Printer size={16} /> Alignment sheet</button>
</div>

<Told sentence={bench.alignTrouble} class="mb-3">
	{#if alignment}<p>Below is what was worked out before.</p>{/if}
</Told>
{#if !alignment && bench.alignTrouble}
	<!-- Said above. -->
{:else if !alignment}
	<p class="text-quiet">Solving the adjusters together…</p>
{:else}
	{#if alignment.left_over.length}
		<div class="border-fix mb-3 border-l-4 pl-2.5" data-testid="left-over">
			<h3 class="text-fix font-bold">Left over</h3>
			<ul class="list-inside list-disc">
				{#each alignment.left_over as line, n (n)}<li>{line}</li>{/each}
			</ul>
		</div>
	{:else if alignment.within}
		<p class="text-good mb-3 font-semibold">Every angle with a target ends within its window.</p>
	{/if}
	{#each alignment.not_judged as line, n (n)}
		<p class="border-fix mb-3 border-l-4 pl-2.5" data-testid="not-judged">{line}</p>
	{/each}

	{#each solid as { name, whole } (name)}
		<section class="border-rule mb-2 border-b pb-2" aria-label="{name} axle as a whole">
			<h3 class="font-semibold first-letter:uppercase">{name} axle as a whole</h3>
			<dl class="grid grid-cols-3 gap-x-4 gap-y-1">
				{#each told(whole) as [what, value] (what)}
					<div>
						<dt class="label leading-tight">{what}</dt>
						<dd class="figure text-base font-bold">{value}</dd>
					</div>
				{/each}
			</dl>
		</section>
	{/each}
	<div class="grid gap-2">
		{#each alignment.wheels as wheel (wheel.axle + wheel.side)}
			<section
				class="bg-raised border-rule rounded-[3px] border p-2.5"
				aria-label="{wheel.axle} {wheel.side}"
			>
				<h3 class="mb-1 flex justify-between font-semibold">
					<span class="inline-block first-letter:uppercase">{wheel.axle} {wheel.side}</span>
					<span class="text-quiet font-normal" title="toe of this wheel across the tyre"
						>toe across the tyre <span class="figure">{number(wheel.toe_length_mm, 1, true)} mm</span></span
					>
				</h3>
				<table class="w-full [&_td+td]:pl-2 [&_th+th]:pl-2">
					<thead>
						<tr class="label text-right">
							<td class="text-left"></td><th class="max-[1150px]:hidden">before</th><th>if left alone</th><th
								>target</th
							><th>with settings</th><td></td>
						</tr>
					</thead>
					<tbody class="figure text-right">
						{#each wheel.angles as a (a.angle)}
							<tr>
								<td class="text-left font-sans capitalize">{a.angle}</td>
								<td class="text-quiet max-[1150px]:hidden"
									>{a.read ? number(a.before, 2, true) : `(${number(a.before, 2, true)})`}</td
								>
								<td class="text-quiet">{number(a.planned, 2, true)}</td>
								<td
									>{#if a.target !== null && a.window !== null}{number(a.target, 2, true)}
										<span class="text-quiet">{a.assumed ? 'usual' : `±${number(a.window, 2)}`}</span
										>{:else}<span class="text-quiet font-sans">no target</span>{/if}</td
								>
								<td class="text-base font-bold">{number(a.achieved, 2, true)}°</td>
								<td
									class="w-[74px] font-sans font-semibold {a.within === null
										? 'text-quiet'
										: a.within
											? 'text-good'
											: 'text-fix'}"
								>
									{a.remaining === null
										? ''
										: a.within
											? '✓ within'
											: `${a.within === null ? '' : '✗ '}${number(a.remaining, 2, true)}`}
								</td>
							</tr>
						{/each}
					</tbody>
				</table>
				{#each wheel.settings as s (s.key)}
					<div class="border-rule mt-1.5 flex items-center gap-2 border-t pt-1.5">
						<span class="flex-1">
							<span class="font-semibold">{s.name}</span>{#if s.at_stop}<span class="text-fix font-bold"
									>&nbsp;· at its stop</span
								>{/if}
						</span>
						<span class="figure text-base font-bold">{s.instruction}</span>
						<span class="flex">
							<button
								class="btn min-h-7 px-1.5"
								aria-label="Less, {s.name} {wheel.axle} {wheel.side}"
								onclick={() => step(s, -1)}><Minus size={14} /></button
							>
							<button
								class="btn min-h-7 px-1.5"
								aria-label="More, {s.name} {wheel.axle} {wheel.side}"
								onclick={() => step(s, 1)}><Plus size={14} /></button
							>
							{#if bench.job.align.chosen[s.key] !== undefined}
								<button class="btn min-h-7 px-2" onclick={() => choose(s, undefined)}>solved</button>
							{/if}
						</span>
					</div>
				{:else}
					<p class="text-quiet mt-1">
						{wheel.set_with
							? `Set at the left wheel for both: ${wheel.set_with}.`
							: 'No adjuster on this wheel.'}
					</p>
				{/each}
			</section>
		{/each}
	</div>
	{#if alignment.wheels.some((w) => w.angles.some((a) => !a.read))}
		<p class="text-quiet mt-1 max-[1150px]:hidden">
			Before, in brackets: not read, from the vehicle's figures.
		</p>
	{/if}
	<h3 class="head mt-4 mb-1">Both wheels together</h3>
	<table class="w-full">
		<thead>
			<tr class="label text-right"
				><td class="text-left"></td><th>total toe</th><th>cross camber</th><th>cross caster</th><th
					>thrust angle</th
				></tr
			>
		</thead>
		<tbody class="figure text-right">
			{#each alignment.axles as a (a.axle)}
				<tr class="border-rule border-t">
					<td class="text-left font-sans capitalize">{a.axle}</td>
					{#each [a.total_toe, a.cross_camber, a.cross_caster, a.thrust_angle] as v, i (i)}
						<td class="py-0.5">{v === null ? '–' : `${number(v, 2, true)}°`}</td>
					{/each}
				</tr>
			{/each}
		</tbody>
	</table>
	<p class="text-quiet mt-1">Cross: left less right. Thrust angle: positive points to the right.</p>
{/if}
