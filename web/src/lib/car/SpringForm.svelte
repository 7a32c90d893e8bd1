<script lang="ts">
	import { api, ask, type Schemas } from '../api/client';
	import { number } from '../format';
	import DocumentForm from '../ui/DocumentForm.svelte';
	import { fieldOf, nodeOf, type Node, type Schema } from '../ui/form';
	import NumberField from '../ui/NumberField.svelte';
	import Told from '../ui/Told.svelte';
	import type { Axle, AxleBench } from './axlesBench.svelte';

	let {
		bench,
		axle,
		kinds,
		form,
		onaxle
	}: {
		bench: AxleBench;
		axle: Axle;
		kinds: Schemas['SpringKind'][];
		/** Of an axle. */
		form: Node | undefined;
		onaxle: (axle: Axle) => void;
	} = $props();

	const titles = $derived(new Map(kinds.map((k) => [k.type, k.title])));
	const spring = $derived.by(() => {
		const kind = kinds.find((k) => k.type === axle.spring.type);
		return kind && nodeOf(kind.parameters as Schema);
	});
	const measured = (part: string) => axle.known?.[part]?.source === 'measured';
	/** A part that was typed in is measured. */
	function put(part: 'spring' | 'damper' | 'bump_stop' | 'top_out', to: unknown) {
		onaxle({
			...axle,
			[part]: to,
			known: { ...axle.known, [part]: { source: 'measured', tolerance_mm: 2 } }
		} as Axle);
	}
	let trouble = $state('');
	async function otherKind(type: string) {
		const asked = await ask(api.POST('/api/bench/spring', { body: { axle, type } }));
		trouble = asked.trouble;
		if (asked.data) onaxle(asked.data as Axle);
	}
	type Numbers =
		| 'tyre_radius_mm'
		| 'hub_to_arch_mm'
		| 'camber_deg'
		| 'toe_deg'
		| 'anti_roll_n_per_mm'
		| 'bush_rate_n_per_mm'
		| 'unsprung_kg';
	const own: { key: Numbers; title: string; unit: string }[] = [
		{ key: 'tyre_radius_mm', title: 'Tyre radius, loaded', unit: 'mm' },
		{ key: 'hub_to_arch_mm', title: 'Hub to arch', unit: 'mm' },
		{ key: 'camber_deg', title: 'Camber', unit: '°' },
		{ key: 'toe_deg', title: 'Toe of one wheel', unit: '°' },
		{ key: 'anti_roll_n_per_mm', title: 'Anti-roll bar at the wheel', unit: 'N/mm' },
		{ key: 'bush_rate_n_per_mm', title: 'Rubber bushes at the wheel', unit: 'N/mm' },
		{ key: 'unsprung_kg', title: 'Unsprung, one wheel', unit: 'kg' }
	];
	const parts = $derived(
		(['bump_stop', 'top_out'] as const).map((name) => [name, fieldOf(form, name)] as const)
	);
	const damper = $derived(fieldOf(form, 'damper'));
</script>

<div class="border-rule mb-3 grid grid-cols-2 gap-2 border-b pb-2">
	<div>
		<span class="label block">Carries at this height</span>
		<span class="figure text-lg font-bold">{bench.load_n === null ? '–' : number(bench.load_n, 0)}</span>
		<span class="text-quiet">N a wheel</span>
	</div>
	<div>
		<span class="label block">Ride frequency</span>
		<span class="figure text-lg font-bold"
			>{bench.frequency_hz === null ? '–' : number(bench.frequency_hz, 2)}</span
		>
		<span class="text-quiet">Hz</span>
	</div>
</div>
<Told sentence={trouble || bench.trouble} class="mb-2" />
<div class="mb-1 flex items-center gap-2">
	{#if bench.spring_kinds.length > 1}
		<select
			class="field w-[190px] font-semibold"
			aria-label="Kind of spring"
			value={axle.spring.type}
			onchange={(e) => otherKind(e.currentTarget.value)}
		>
			{#each bench.spring_kinds as k (k)}<option value={k}>{titles.get(k) ?? k}</option>{/each}
		</select>
	{:else}<h3 class="head">{titles.get(axle.spring.type)}</h3>{/if}
	<span class="text-quiet">{measured('spring') ? 'measured' : 'assumed'}</span>
</div>
{#if spring}<DocumentForm
		node={spring}
		value={axle.spring}
		label="Spring"
		onvalue={(to) => put('spring', to)}
	/>{/if}
<h3 class="head mt-4 mb-1">
	Damper <span class="text-quiet font-normal">· {measured('damper') ? 'measured' : 'assumed'}</span>
</h3>
{#if damper}<DocumentForm
		node={damper.node}
		value={axle.damper}
		label="Damper"
		onvalue={(to) => put('damper', to)}
	/>{/if}
{#each parts as [name, part] (name)}
	{#if part}
		<div class="mt-4">
			{#if axle[name]}
				<div class="mb-1 flex items-center justify-between">
					<h3 class="head">
						{part.title}
						<span class="text-quiet font-normal">· {measured(name) ? 'measured' : 'assumed'}</span>
					</h3>
					{#if part.optional}<button
							class="btn min-h-7 px-2 text-[13px]"
							onclick={() => onaxle({ ...axle, [name]: null })}>Take it out</button
						>{/if}
				</div>
				<DocumentForm
					node={part.node}
					value={axle[name]}
					label={part.title}
					onvalue={(to) => put(name, to)}
				/>
			{:else}
				<button
					class="btn min-h-7 px-2 text-[13px]"
					onclick={() => onaxle({ ...axle, [name]: part.node.start } as Axle)}
					>Add a {part.title.toLowerCase()} spring</button
				>
			{/if}
		</div>
	{/if}
{/each}
<h3 class="head mt-4 mb-1">Wheel, bar and bushes</h3>
<div class="grid grid-cols-3 items-end gap-x-3 gap-y-1.5">
	{#each own as f (f.key)}
		<div>
			<span class="label block leading-tight">{f.title}</span>
			<NumberField
				value={axle[f.key] as number}
				label={f.title}
				unit={f.unit}
				onvalue={(v) => v !== null && onaxle({ ...axle, [f.key]: v })}
			/>
		</div>
	{/each}
</div>
