<script lang="ts">
	import { number } from '../format';
	import Offer from '../ui/Offer.svelte';
	import { theBike } from './bikeBench.svelte';

	const bench = theBike();
	const p = $derived(bench.prediction);
	const s = $derived(p?.steering);
	const rows = $derived(
		p
			? ([
					['Rake, °', 2, p.before.laden.rake_deg, p.planned.laden.rake_deg],
					['Trail, mm', 1, p.before.laden.trail_mm, p.planned.laden.trail_mm],
					['Wheelbase, mm', 0, p.before.laden.wheelbase_mm, p.planned.laden.wheelbase_mm],
					['Swing arm below level, °', 1, p.before.laden.arm_angle_deg, p.planned.laden.arm_angle_deg],
					['Seat, mm', 0, p.before.laden.seat_mm, p.planned.laden.seat_mm],
					...Object.entries(p.clearances).map(
						([name, [was, now]]) => [`${name} above ground, mm`, 0, was, now] as const
					)
				] as const)
			: []
	);
	const missing = (v: number | null) => (v === null ? '–' : v <= 0 ? 'flat' : `${number(v, 0)} short`);
</script>

{#if p && s}
	<h2 class="head mb-1">Steering, rider on</h2>
	<table class="w-full">
		<thead
			><tr class="label text-right"
				><td class="text-left"></td><th>as it came</th><th>planned</th><th>change</th></tr
			></thead
		>
		<tbody class="figure text-right">
			{#each rows as [name, digits, was, now] (name)}
				<tr class="border-rule border-t">
					<td class="py-0.5 text-left font-sans first-letter:uppercase">{name}</td>
					<td class="text-quiet">{number(was, digits)}</td>
					<td class="font-bold">{number(now, digits)}</td>
					<td>{number(now - was, digits, true)}</td>
				</tr>
			{/each}
		</tbody>
	</table>

	<h2 class="head mt-4 mb-1">Keep the steering as it was</h2>
	{#if bench.machine.fork.crown === 'single'}
		<p>
			A single-crown fork is not raised in clamps: trail stays {number(s.trail_after_mm, 1)} mm, it was {number(
				s.trail_before_mm,
				1
			)}.
		</p>
	{:else}
		<div class="grid grid-cols-3 gap-2">
			<div>
				<span class="label block">Unchanged trail wants</span>
				<span class="figure text-[26px] font-bold" data-testid="raise-wanted"
					>{number(s.raise_wanted_mm, 1)}</span
				>
				mm
			</div>
			<div>
				<span class="label block">The fork allows</span>
				<span class="figure text-[26px] font-bold {s.clipped ? 'text-fix' : ''}" data-testid="raise-allowed"
					>{number(s.raise_allowed_mm, 1)}</span
				>
				mm
			</div>
			<div>
				<span class="label block">Now planned</span>
				<span class="figure text-[26px] font-bold">{number(s.raise_now_mm, 1)}</span> mm
			</div>
		</div>
		<p class="mt-1">
			{#if s.clipped}
				Clipped by {s.clipped_by}: <strong class="figure">{number(s.trail_left_mm, 1, true)} mm</strong> of trail
				is left.
			{:else}Within the clamp zone; trail ends {number(Math.abs(s.trail_left_mm), 1)} mm from what it was.{/if}
		</p>
		<div class="mt-2 flex flex-wrap gap-2">
			{#if p.raises.allowed}
				{@const cure = p.raises.allowed}
				<Offer of={bench} class="btn-dye" onclick={() => bench.plan(cure.changes)}>{cure.title}</Offer>
			{/if}
			{#if p.raises.supplier && s.supplier_raise_mm !== null && s.trail_by_supplier_mm !== null}
				{@const cure = p.raises.supplier}
				<Offer of={bench} onclick={() => bench.plan(cure.changes)}
					>Supplier's {number(s.supplier_raise_mm, 1)} mm: trail {number(s.trail_by_supplier_mm, 1)} ({number(
						s.trail_by_supplier_mm - s.trail_before_mm,
						1,
						true
					)})</Offer
				>
			{/if}
		</div>
	{/if}

	<div class="mt-4 grid grid-cols-2 gap-4">
		{#if p.stand}
			<div>
				<h2 class="head mb-1">On its side stand</h2>
				<p>
					<span class="figure text-[26px] font-bold" data-testid="lean"
						>{number(p.stand.lean_after_deg, 1)}°</span
					>
					<span class="text-quiet">was {number(p.stand.lean_before_deg, 1)}°</span>
				</p>
				<p>
					On the yard's {number(bench.job.brief.slope_deg ?? 0, 0)}° slope {number(
						p.stand.lean_after_slope_deg,
						1
					)}° <span class="text-quiet">(was {number(p.stand.lean_before_slope_deg, 1)}°)</span>.
					{#if Math.abs(p.stand.shortening_mm) >= 0.5}
						With its leg {number(Math.abs(p.stand.shortening_mm), 1)} mm {p.stand.shortening_mm > 0
							? 'shorter'
							: 'longer'} it leans as before.
					{/if}
				</p>
			</div>
		{/if}
		{#if p.centre_stand}
			{@const c = p.centre_stand}
			<div data-testid="centre-stand">
				<h2 class="head mb-1">On its centre stand</h2>
				<p>
					<span class="figure text-[26px] font-bold">{number(c.clear_after_mm, 0)}</span> mm
					<span class="text-quiet">under the hanging tyre, was {number(c.clear_before_mm, 0)}</span>
				</p>
				<p>
					{#if c.clear_after_mm <= 0}The tyre stays on the ground: the stand is too short now.
					{:else if Math.abs(c.lifted_more_mm) < 0.5}Rolled on as before.
					{:else}
						Rolling it on lifts it <strong class="figure">{number(Math.abs(c.lifted_more_mm), 0)} mm</strong>
						{c.lifted_more_mm > 0 ? 'more' : 'less'} than before;
						<span class="text-quiet"
							>{number(c.clear_before_mm + c.lifted_more_mm, 0)} of {number(c.most_mm, 0)} mm that can be lifted.</span
						>
					{/if}
				</p>
			</div>
		{/if}
		<div>
			<h2 class="head mb-1">Feet on the ground</h2>
			<p>
				Both: <strong class="figure">{missing(p.reach.both_missing_after_mm)}</strong>
				<span class="text-quiet">was {missing(p.reach.both_missing_before_mm)}</span>
			</p>
			<p>
				One: <strong class="figure">{missing(p.reach.one_missing_after_mm)}</strong>
				<span class="text-quiet">was {missing(p.reach.one_missing_before_mm)}</span>
			</p>
		</div>
	</div>
{/if}
<label class="mt-4 grid gap-1">
	<span class="label">What was decided</span>
	<textarea
		class="field h-16"
		value={bench.job.align.note}
		maxlength="4000"
		onchange={(e) => bench.change('align', { ...bench.job.align, note: e.currentTarget.value })}></textarea>
</label>
