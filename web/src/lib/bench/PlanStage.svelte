<script lang="ts">
	import { onMount } from 'svelte';
	import Plus from '@lucide/svelte/icons/plus';
	import Ruler from '@lucide/svelte/icons/ruler';
	import type { AxleName, Schemas } from '../api/client';
	import { kindQuery } from '../queries';
	import Told from '../ui/Told.svelte';
	import { wingOf } from '../wings';
	import AddChange from './AddChange.svelte';
	import { taken } from './carriedPart';
	import ChangeCard, { type Planned } from './ChangeCard.svelte';
	import { theBench, view } from './context.svelte';
	import WaysTo from './WaysTo.svelte';

	const bench = theBench();
	const wing = wingOf(bench.kind);
	const kind = kindQuery(() => bench.kind);
	const kinds = $derived(kind.data?.changes ?? []);
	const stack = $derived<Planned[]>(bench.job.plan.changes ?? []);
	const stops = $derived(
		(bench.prediction?.findings as Schemas['Finding'][] | undefined)?.some((f) => f.severity === 'stops') ??
			false
	);
	let trouble = $state('');
	let dragging = $state('');
	let adding = $state(false);

	// What the part bench sent along goes on the stack once.
	onMount(async () => {
		const part = taken(bench.job.id);
		if (!part) return;
		trouble = await bench.beginPart(part.sheet, part.axle);
		if (part.axle) view.axle = part.axle;
	});
	async function add(type: string, axle?: AxleName) {
		trouble = await bench.begin(type, axle);
		view.trouble = '';
		if (!trouble && axle) view.axle = axle;
	}
	function move(id: string, to: number) {
		const at = stack.findIndex((p) => p.id === id);
		const item = stack[at];
		if (item && to >= 0 && to < stack.length && to !== at)
			bench.plan(stack.toSpliced(at, 1).toSpliced(to, 0, item));
	}
	/** The end a change is told at: its own, or the rear of one beside both. */
	const endOf = (planned: Planned): AxleName =>
		planned.change.axle ?? kinds.find((k) => k.type === planned.change.type)?.ends[0] ?? 'rear';
	const own = (planned: Planned): number =>
		(bench.prediction?.shares as Schemas['Share'][] | undefined)?.find((s) => s.id === planned.id)?.[
			endOf(planned)
		] ?? 0;
	const choices = $derived(
		(bench.prediction as { choices?: Record<string, Record<string, [string, string][]>> } | undefined)
			?.choices ?? {}
	);
	const settings = $derived(
		(bench.prediction as { settings?: Record<string, Schemas['SettingTable']> } | undefined)?.settings ?? {}
	);
	/** Fitted and planned spring of an axle. */
	const curvesOf = (axle: AxleName | undefined) =>
		(axle &&
			(bench.prediction as Partial<Record<AxleName, { springs?: Schemas['ForceCurve'][] }>> | undefined)?.[
				axle
			]?.springs) ||
		[];
	const titled = (title: string, axle: AxleName | undefined) => (axle ? `${title}, ${axle}` : title);
</script>

{#if view.wanted}<WaysTo {bench} />{/if}

<div class="mb-2 flex flex-wrap items-center justify-between gap-2">
	<h2 class="head">Stack of changes</h2>
	<div class="flex gap-2 whitespace-nowrap">
		<button
			class="btn"
			onclick={() =>
				(view.wanted = { axle: view.axle, rise: wing.aim(bench.job, view.axle, bench.prediction) })}
			><Ruler size={16} /> Ways to a height</button
		>
		<button class="btn btn-dye" onclick={() => (adding = true)}><Plus size={16} /> Add a change</button>
	</div>
</div>
<AddChange bind:open={adding} bind:axle={view.axle} {bench} onadd={(type, axle) => void add(type, axle)} />
<Told sentence={trouble || view.trouble} class="mb-2" />

<ol class="grid grid-cols-1 gap-2">
	{#each stack as planned, i (planned.id)}
		{@const k = kinds.find((one) => one.type === planned.change.type)}
		<li
			draggable={dragging === planned.id}
			class={dragging && dragging !== planned.id ? 'rounded-[3px] outline-1 outline-dashed' : ''}
			ondragover={(e) => e.preventDefault()}
			ondrop={() => move(dragging, i)}
			ondragend={() => (dragging = '')}
			onpointerdown={(e) =>
				(dragging = (e.target as Element).closest('input,button,select,[role=slider]') ? '' : planned.id)}
			onpointerup={() => (dragging = '')}
		>
			<ChangeCard
				{planned}
				of={bench}
				title={titled(k?.title ?? planned.change.type, planned.change.axle)}
				schema={k?.parameters}
				own={own(planned)}
				choices={choices[planned.id]}
				settings={settings[planned.id]}
				curves={k?.brings_spring && planned.on ? curvesOf(planned.change.axle) : []}
				stated={k?.stated}
				first={i === 0}
				last={i === stack.length - 1}
				onchange={(to) => bench.plan(stack.with(i, to))}
				onremove={() => bench.plan(stack.toSpliced(i, 1))}
				onmove={(by) => move(planned.id, i + by)}
			/>
		</li>
	{:else}
		<li class="text-quiet">Nothing planned yet. Add a change, or {wing.begin}.</li>
	{/each}
</ol>

<wing.Figures />

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
