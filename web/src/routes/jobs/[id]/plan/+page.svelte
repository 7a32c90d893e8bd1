<script lang="ts">
	import { DropdownMenu } from 'bits-ui';
	import Plus from '@lucide/svelte/icons/plus';
	import { api, sentence, type AxleName, type Job, type Schemas } from '$lib/api/client';
	import ChangeCard from '$lib/bench/ChangeCard.svelte';
	import { theBench, view } from '$lib/bench/context.svelte';
	import { Latest } from '$lib/bench/latest';
	import { length, number } from '$lib/format';
	import { changeKindsQuery } from '$lib/queries';
	import { settings } from '$lib/settings.svelte';
	import Length from '$lib/ui/Length.svelte';

	type Planned = Schemas['PlannedChange'];
	const bench = theBench();
	const kinds = changeKindsQuery();
	const stack = $derived(bench.job.plan.changes);
	const stops = $derived(bench.prediction?.findings.some((f) => f.severity === 'stops') ?? false);
	let trouble = $state('');
	let found = $state.raw<{ axle: AxleName; rise: number; ways: Schemas['Way'][]; trouble: string }>();
	const ways = $derived(found?.ways);
	/** Whether the ways shown are still those of a height dragged past. */
	const stale = $derived(found?.axle !== view.reach?.axle || found?.rise !== view.reach?.rise);
	let dragging = $state('');

	const put = (changes: Planned[]) => bench.change('plan', { ...bench.job.plan, changes });

	async function add(type: string, axle: AxleName) {
		const { data, error } = await api.POST('/api/changes/begin', { body: { job: bench.job, type, axle } });
		trouble = data ? '' : sentence(error);
		view.trouble = '';
		if (data) {
			put([...stack, data]);
			view.axle = axle;
		}
	}
	function move(id: string, to: number) {
		const at = stack.findIndex((p) => p.id === id);
		const item = stack[at];
		if (item && to >= 0 && to < stack.length && to !== at) put(stack.toSpliced(at, 1).toSpliced(to, 0, item));
	}

	const reaching = new Latest(
		async (wish: { job: Job; axle: AxleName; rise: number }) => {
			const { data, error } = await api.POST('/api/ways', { body: wish });
			return {
				axle: wish.axle,
				rise: wish.rise,
				ways: (data ?? []) as Schemas['Way'][],
				trouble: data ? '' : sentence(error)
			};
		},
		(answer) => (found = answer)
	);
	$effect(() => {
		if (view.reach) reaching.wish({ job: bench.job, ...view.reach });
		else found = undefined;
	});
	$effect(() => () => (view.reach = undefined));
</script>

{#if view.reach}
	<div class="border-dye bg-wash mb-3 rounded-[3px] border-2 p-2.5" data-testid="ways">
		<div class="flex items-baseline justify-between">
			<h2 class="head">
				Ways to <Length mm={view.reach.rise} signed /> at the {view.reach.axle}
			</h2>
			<button class="btn btn-plain min-h-7 px-2" onclick={() => (view.reach = undefined)}>Never mind</button>
		</div>
		<ul class="mt-1 grid gap-1.5">
			{#each ways ?? [] as way, n (n)}
				<li>
					<button
						class="btn w-full justify-between text-left"
						disabled={stale}
						onclick={() => {
							put(way.changes);
							view.reach = undefined;
						}}
					>
						<span>{way.title}</span>
						<span class="shrink-0 {way.stops ? 'text-stops' : 'text-quiet'}">
							<Length mm={way.rise} signed />
							{way.stops
								? `· ${way.stops} stop${way.stops > 1 ? 's' : ''}`
								: way.fixes
									? `· ${way.fixes} to fix`
									: '· clear'}
						</span>
					</button>
				</li>
			{:else}
				<li
					class={found?.trouble ? 'text-stops font-semibold' : 'text-quiet'}
					role={found?.trouble ? 'alert' : undefined}
				>
					{found?.trouble || (ways ? 'Nothing on this axle reaches that height.' : 'Looking…')}
				</li>
			{/each}
		</ul>
	</div>
{/if}

<div class="mb-2 flex items-center justify-between">
	<h2 class="head">Stack of changes</h2>
	<DropdownMenu.Root>
		<DropdownMenu.Trigger class="btn btn-dye"><Plus size={16} /> Add a change</DropdownMenu.Trigger>
		<DropdownMenu.Portal>
			<DropdownMenu.Content align="end" sideOffset={4} class="panel z-30 min-w-[260px] p-1 shadow-lg">
				{#each kinds.data ?? [] as kind (kind.type)}
					{#each ['front', 'rear'] as const as axle (axle)}
						<DropdownMenu.Item
							class="data-highlighted:bg-wash flex cursor-pointer justify-between gap-6 rounded-[3px] px-2 py-1.5"
							onSelect={() => add(kind.type, axle)}
						>
							{kind.title}, {axle}
						</DropdownMenu.Item>
					{/each}
				{/each}
			</DropdownMenu.Content>
		</DropdownMenu.Portal>
	</DropdownMenu.Root>
</div>
{#if trouble || view.trouble}<p class="text-stops mb-2 font-semibold" role="alert">
		{trouble || view.trouble}
	</p>{/if}

<ol class="grid gap-2">
	{#each stack as planned, i (planned.id)}
		{@const kind = kinds.data?.find((k) => k.type === planned.change.type)}
		<li
			draggable={dragging === planned.id}
			class={dragging && dragging !== planned.id ? 'rounded-[3px] outline-1 outline-dashed' : ''}
			ondragover={(e) => e.preventDefault()}
			ondrop={() => move(dragging, i)}
			ondragend={() => (dragging = '')}
			onpointerdown={(e) =>
				(dragging = (e.target as Element).closest('input,button,[role=slider]') ? '' : planned.id)}
			onpointerup={() => (dragging = '')}
		>
			<ChangeCard
				{planned}
				title="{kind?.title}, {planned.change.axle}"
				schema={kind?.parameters}
				own={bench.prediction?.shares.find((s) => s.id === planned.id)?.[planned.change.axle] ?? 0}
				first={i === 0}
				last={i === stack.length - 1}
				onchange={(to) => put(stack.with(i, to as Planned))}
				onremove={() => put(stack.toSpliced(i, 1))}
				onmove={(by) => move(planned.id, i + by)}
			/>
		</li>
	{:else}
		<li class="text-quiet">
			Nothing planned yet. Add a change, or drag an axle on the drawing to the height wanted.
		</li>
	{/each}
</ol>

{#if bench.prediction}
	{@const p = bench.prediction}
	<h2 class="head mt-4 mb-1">Heights</h2>
	<table class="w-full">
		<thead>
			<tr class="label text-right"
				><th class="text-left">Reference</th><th>before</th><th>planned</th><th>change</th><th>±</th></tr
			>
		</thead>
		<tbody>
			{#each p.heights.filter((h) => h.kind !== 'arch_to_ground') as h (h.label + h.axle + h.side)}
				<tr class="border-rule figure border-t text-right">
					<td class="py-0.5 text-left font-sans">{h.axle ?? ''} {h.label}, {h.side}</td>
					<td class="text-quiet">{length(h.before, settings.units)}</td>
					<td class="font-bold">{length(h.after, settings.units)}</td>
					<td>{length(h.change, settings.units, { signed: true })}</td>
					<td class="text-quiet">{length(h.plus_minus, settings.units)}</td>
				</tr>
			{/each}
		</tbody>
	</table>

	<h2 class="head mt-4 mb-1">Ride and geometry</h2>
	<table class="w-full">
		<thead>
			<tr class="label text-right"
				><td class="text-left"></td><th>front before</th><th>planned</th><th>rear before</th><th>planned</th
				></tr
			>
		</thead>
		<tbody class="figure text-right">
			{#each [['Wheel rate, N/mm', 1, p.front.wheel_rate_before, p.front.wheel_rate_after, p.rear.wheel_rate_before, p.rear.wheel_rate_after], ['Ride frequency, Hz', 2, p.front.frequency_before, p.front.frequency_after, p.rear.frequency_before, p.rear.frequency_after], ['Wheel travel to the stop, mm', 0, p.front.travel_before.gap, p.front.travel_after.gap, p.rear.travel_before.gap, p.rear.travel_after.gap], ['Camber, °', 2, p.front.angles_before.camber_deg, p.front.angles_after.camber_deg, p.rear.angles_before.camber_deg, p.rear.angles_after.camber_deg], ['± by the hardpoints', 2, null, p.front.angle_plus_minus.camber_deg, null, p.rear.angle_plus_minus.camber_deg], ['Toe of a wheel, °', 2, p.front.angles_before.toe_deg, p.front.angles_after.toe_deg, p.rear.angles_before.toe_deg, p.rear.angles_after.toe_deg], ['± by the hardpoints ', 2, null, p.front.angle_plus_minus.toe_deg, null, p.rear.angle_plus_minus.toe_deg], ['Caster, °', 2, p.front.angles_before.caster_deg, p.front.angles_after.caster_deg, p.rear.angles_before.caster_deg, p.rear.angles_after.caster_deg], ['Trail, mm', 1, p.front.angles_before.trail_mm, p.front.angles_after.trail_mm, p.rear.angles_before.trail_mm, p.rear.angles_after.trail_mm], ['Roll centre, mm', 0, p.front.angles_before.roll_centre_mm, p.front.angles_after.roll_centre_mm, p.rear.angles_before.roll_centre_mm, p.rear.angles_after.roll_centre_mm]] as const as [name, digits, ...values] (name)}
				<tr class="border-rule border-t">
					<td class="py-0.5 text-left font-sans">{name}</td>
					{#each values as v, i (i)}
						<td class={i % 2 ? 'font-bold' : 'text-quiet'}>{v === null ? '–' : number(v, digits)}</td>
					{/each}
				</tr>
			{/each}
		</tbody>
	</table>

	<h2 class="head mt-4 mb-1">On its four corners</h2>
	<p class="text-quiet mb-1">
		Cross weight <span class="figure text-ink font-bold">{number(p.body.cross_after * 100, 1)} %</span>
		<span class="figure">(was {number(p.body.cross_before * 100, 1)} %)</span>, roll
		<span class="figure text-ink font-bold">{number(p.body.roll_deg, 2, true)}°</span> left side up
	</p>
	{#if p.body.cargo_trouble}<p class="text-stops mb-1 font-semibold" role="alert">
			{p.body.cargo_trouble}
		</p>{/if}
	<table class="w-full">
		<thead>
			<tr class="label text-right"
				><th class="text-left">Corner</th><th>carries, N</th><th>planned</th><th>rises, {settings.units}</th
				>{#if p.body.with_cargo.length}<th>with cargo</th>{/if}</tr
			>
		</thead>
		<tbody class="figure text-right">
			{#each p.body.corners as c, i (`${c.axle} ${c.side}`)}
				<tr class="border-rule border-t">
					<td class="py-0.5 text-left font-sans">{c.axle} {c.side}{c.by_scales ? ', by the scales' : ''}</td>
					<td class="text-quiet">{number(c.before_n, 0)}</td>
					<td class="font-bold">{number(c.after_n, 0)}</td>
					<td class="font-bold">{length(c.rise_mm, settings.units, { signed: true, digits: 0 })}</td>
					{#if p.body.with_cargo.length}<td class="font-bold"
							>{length(p.body.with_cargo[i] ?? 0, settings.units, { signed: true, digits: 0 })}</td
						>{/if}
				</tr>
			{/each}
		</tbody>
	</table>
	{#each ['front', 'rear'] as const as name (name)}
		{#if p[name].swap_estimate !== null}
			<p class="text-quiet mt-1">
				Rule of thumb for the {name} springs:
				<span class="figure">{number(p[name].swap_estimate ?? 0, 0, true)} mm</span>, first order only; the
				equilibrium above decides.
			</p>
		{/if}
	{/each}
{/if}

{#if stops || bench.job.plan.override}
	<label class="mt-4 grid gap-1">
		<span class="head">Built all the same? Write why, and who answers for it</span>
		<textarea
			class="field h-16"
			value={bench.job.plan.override}
			maxlength="4000"
			onchange={(e) => bench.change('plan', { ...bench.job.plan, override: e.currentTarget.value })}
		></textarea>
	</label>
{/if}
