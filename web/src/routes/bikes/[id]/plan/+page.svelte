<script lang="ts">
	import { DropdownMenu } from 'bits-ui';
	import Plus from '@lucide/svelte/icons/plus';
	import { api, sentence, type Schemas } from '$lib/api/client';
	import ChangeCard from '$lib/bench/ChangeCard.svelte';
	import { theBike, type End } from '$lib/bike/bikeBench.svelte';
	import { number } from '$lib/format';
	import { bikeChoicesQuery } from '$lib/queries';

	type Planned = Schemas['PlannedBikeChange'];
	const bench = theBike();
	const choices = bikeChoicesQuery();
	const kinds = $derived(new Map((choices.data?.changes ?? []).map((k) => [k.type, k])));
	const stack = $derived(bench.job.plan.changes ?? []);
	const stops = $derived(bench.prediction?.findings.some((f) => f.severity === 'stops') ?? false);
	const ENDS: End[] = ['rear', 'front'];
	let trouble = $state('');

	async function add(type: string) {
		const { data, error } = await api
			.POST('/api/bike/changes/begin', { body: { job: bench.job, type } })
			.catch(() => ({ data: undefined, error: undefined }));
		trouble = data ? '' : sentence(error);
		if (data) bench.plan([...stack, data]);
	}
	function move(id: string, to: number) {
		const at = stack.findIndex((p) => p.id === id);
		const item = stack[at];
		if (item && to >= 0 && to < stack.length) bench.plan(stack.toSpliced(at, 1).toSpliced(to, 0, item));
	}
	const own = (planned: Planned) => {
		const share = bench.prediction?.shares.find((s) => s.id === planned.id);
		const end = kinds.get(planned.change.type)?.end;
		return share ? -(end === 'front' ? share.front : share.rear) : 0;
	};
	const sags = $derived(bench.prediction?.sags as Record<End, Schemas['SagBench']> | undefined);
	function take(choice: Schemas['SpringChoice']) {
		const change = {
			type: 'rear_spring',
			spring: choice.spring,
			preload_mm: Math.round(choice.preload_mm * 10) / 10
		};
		const there = stack.findIndex((p) => p.on && p.change.type === 'rear_spring');
		const id =
			there >= 0
				? (stack[there]?.id ?? 'c1')
				: `c${Math.max(0, ...stack.map((p) => Number(p.id.slice(1)) || 0)) + 1}`;
		const planned = { id, on: true, change } as Planned;
		bench.plan(there >= 0 ? stack.with(there, planned) : [...stack, planned]);
	}
</script>

<div class="mb-2 flex items-center justify-between">
	<h2 class="head">Stack of changes</h2>
	<DropdownMenu.Root>
		<DropdownMenu.Trigger class="btn btn-dye"><Plus size={16} /> Add a change</DropdownMenu.Trigger>
		<DropdownMenu.Portal>
			<DropdownMenu.Content align="end" sideOffset={4} class="panel z-30 min-w-[230px] p-1 shadow-lg">
				{#each choices.data?.changes ?? [] as kind (kind.type)}
					<DropdownMenu.Item
						class="data-highlighted:bg-wash flex cursor-pointer justify-between gap-6 rounded-[3px] px-2 py-1.5"
						onSelect={() => add(kind.type)}
					>
						{kind.title} <span class="text-quiet">{kind.end ?? ''}</span>
					</DropdownMenu.Item>
				{/each}
			</DropdownMenu.Content>
		</DropdownMenu.Portal>
	</DropdownMenu.Root>
</div>
{#if trouble}<p class="text-stops mb-2 font-semibold" role="alert">{trouble}</p>{/if}
<ol class="grid gap-2">
	{#each stack as planned, i (planned.id)}
		{@const kind = kinds.get(planned.change.type)}
		<li>
			<ChangeCard
				{planned}
				title={kind?.title ?? planned.change.type}
				schema={kind?.parameters}
				own={own(planned)}
				lost="what this change does to the height of its own end, rider on, given those above it"
				first={i === 0}
				last={i === stack.length - 1}
				onchange={(to) => bench.plan(stack.with(i, to as Planned))}
				onremove={() => bench.plan(stack.toSpliced(i, 1))}
				onmove={(by) => move(planned.id, i + by)}
			/>
		</li>
	{:else}
		<li class="text-quiet">Nothing planned yet. Add a change, or drag a sag bar to where it should be.</li>
	{/each}
</ol>

{#if sags}
	<h2 class="head mt-4 mb-1">Sag bench</h2>
	<div class="grid gap-3">
		{#each ENDS as end (end)}
			{@const b = sags[end]}
			<div class="border-rule border-l-2 pl-2.5" data-bench={end}>
				<p>
					<strong>{end === 'rear' ? 'Rear' : 'Fork'}</strong>: rider on
					<strong class="figure">{number(b.laden_mm, 0)}</strong>
					of {number(b.travel_mm, 0)} mm, on its own
					<strong class="figure">{number(b.unladen_mm, 0)}</strong>; wanted
					{number(b.window.laden_low * b.travel_mm, 0)} to {number(b.window.laden_high * b.travel_mm, 0)} and
					{number(b.window.unladen_low * b.travel_mm, 0)} to {number(b.window.unladen_high * b.travel_mm, 0)}.
				</p>
				<p>
					{#if b.preload_mm !== null}Preload <strong class="figure">{number(b.preload_mm, 1)} mm</strong
						>{#if b.preload_for_target_mm !== null}, for {number(b.target_mm, 0)} mm of sag
							<strong class="figure">{number(b.preload_for_target_mm, 1)} mm</strong
							>{#if b.spacer_for_target_mm !== null}{`, spacers ${number(b.spacer_for_target_mm, 1)} mm`}{/if}{/if}.{/if}
					<span class="font-semibold {b.verdict === 'right' ? 'text-good' : 'text-fix'}"
						>{b.verdict === 'right'
							? '✓ The rate suits.'
							: b.verdict === 'nobody rides it'
								? 'Nobody rides it yet.'
								: `Rate: ${b.verdict}.`}</span
					>
					<span class="text-quiet">{b.why}</span>
				</p>
				<table class="mt-1 w-full">
					<tbody>
						<tr
							><td class="label">Spring by sag</td><td class="figure text-right font-bold"
								>{b.rate_by_sag === null ? '–' : `${number(b.rate_by_sag, 1)} N/mm`}</td
							><td class="label pl-4">by frequency, {number(b.window.frequency_hz, 1)} Hz</td><td
								class="figure text-right font-bold"
								>{b.rate_by_frequency === null ? '–' : `${number(b.rate_by_frequency, 1)} N/mm`}</td
							><td class="text-quiet pl-4 text-right"
								>now {number(b.frequency_hz, 2)} Hz, {number(
									end === 'rear'
										? (bench.prediction?.planned.wheel_rate_rear ?? 0)
										: (bench.prediction?.planned.wheel_rate_front ?? 0),
									1
								)} N/mm at the wheel</td
							></tr
						>
					</tbody>
				</table>
				{#if b.softer || b.stiffer}
					<table class="mt-1 w-full">
						<thead
							><tr class="label text-right"
								><th class="text-left">Nearest on the shelf</th><th>preload</th><th>on its own</th><th
									>rider on</th
								><td></td></tr
							></thead
						>
						<tbody>
							{#each [b.softer, b.stiffer] as c (c?.part)}
								{#if c}
									<tr class="border-rule figure border-t text-right">
										<td class="py-0.5 text-left font-sans"
											>{c.part} <strong class="figure">{number(c.rate_n_per_mm, 0)}</strong> N/mm · {c.on_shelf}</td
										>
										<td class={c.preload_possible ? '' : 'text-stops'}>{number(c.preload_mm, 1)}</td>
										<td>{number(c.unladen_sag_mm, 0)}</td>
										<td>{number(c.laden_sag_mm, 0)} {c.within ? '✓' : ''}</td>
										<td
											><button
												class="btn min-h-7 px-2 text-xs"
												onclick={() => take(c)}
												aria-label="Fit {c.part}">fit</button
											></td
										>
									</tr>
								{/if}
							{/each}
						</tbody>
					</table>
				{/if}
			</div>
		{/each}
	</div>
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
