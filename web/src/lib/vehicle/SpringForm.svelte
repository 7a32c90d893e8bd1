<script lang="ts">
	import type { Schemas } from '../api/client';
	import { parameters, type Parameter } from '../bench/parameters';
	import { number } from '../format';
	import NumberField from '../ui/NumberField.svelte';
	import ParameterField from '../ui/ParameterField.svelte';
	import type { Axle, AxleBench } from './vehicleBench.svelte';

	let {
		bench,
		axle,
		kinds,
		onaxle
	}: { bench: AxleBench; axle: Axle; kinds: Schemas['SpringKind'][]; onaxle: (axle: Axle) => void } =
		$props();

	const kind = $derived(kinds.find((k) => k.type === axle.spring.type));
	const fields = $derived((kind ? parameters(kind.parameters) : []).filter((p) => isPlain(value(p))));
	const spring = $derived(axle.spring as unknown as Record<string, unknown>);
	const measured = (part: string) => axle.known?.[part]?.source === 'measured';

	const isPlain = (v: unknown) => v === null || v === undefined || typeof v !== 'object';
	const value = (p: Parameter) =>
		p.path.reduce<unknown>((at, key) => (at as Record<string, unknown> | undefined)?.[key], spring);
	function put(p: Parameter, to: unknown) {
		const [head, ...rest] = p.path as [string, ...string[]];
		const inner = rest[0] ? { ...(spring[head] as object), [rest[0]]: to } : to;
		onaxle({
			...axle,
			spring: { ...axle.spring, [head]: inner } as Axle['spring'],
			known: { ...axle.known, spring: { source: 'measured', tolerance_mm: 2 } }
		});
	}
	type Numbers =
		'tyre_radius_mm' | 'hub_to_arch_mm' | 'camber_deg' | 'toe_deg' | 'anti_roll_n_per_mm' | 'unsprung_kg';
	const own: { key: Numbers; title: string; unit: string }[] = [
		{ key: 'tyre_radius_mm', title: 'Tyre radius, loaded', unit: 'mm' },
		{ key: 'hub_to_arch_mm', title: 'Hub to arch', unit: 'mm' },
		{ key: 'camber_deg', title: 'Camber', unit: '°' },
		{ key: 'toe_deg', title: 'Toe of one wheel', unit: '°' },
		{ key: 'anti_roll_n_per_mm', title: 'Anti-roll bar at the wheel', unit: 'N/mm' },
		{ key: 'unsprung_kg', title: 'Unsprung, one wheel', unit: 'kg' }
	];
	const damper = (key: 'extended_mm' | 'closed_mm', to: number | null) =>
		to !== null &&
		onaxle({
			...axle,
			damper: { ...axle.damper, [key]: to },
			known: { ...axle.known, damper: { source: 'measured', tolerance_mm: 2 } }
		});
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
{#if bench.trouble}<p class="border-stops text-stops mb-2 border-l-4 pl-2 font-semibold" role="alert">
		{bench.trouble}
	</p>{/if}
<h3 class="head mb-1">
	{kind?.title} <span class="text-quiet font-normal">· {measured('spring') ? 'measured' : 'assumed'}</span>
</h3>
<div class="mb-4 grid grid-cols-3 gap-x-3 gap-y-1.5">
	{#each fields as p (p.path.join('.'))}
		<div>
			<span class="label">{p.title}</span>
			<ParameterField parameter={p} value={value(p)} label={p.title} onvalue={(to) => put(p, to)} />
		</div>
	{/each}
</div>
<h3 class="head mb-1">
	Damper <span class="text-quiet font-normal">· {measured('damper') ? 'measured' : 'assumed'}</span>
</h3>
<div class="mb-4 grid grid-cols-3 gap-x-3">
	<div>
		<span class="label">Extended</span>
		<NumberField
			value={axle.damper.extended_mm}
			label="Damper extended"
			unit="mm"
			min={50}
			onvalue={(v) => damper('extended_mm', v)}
		/>
	</div>
	<div>
		<span class="label">Closed</span>
		<NumberField
			value={axle.damper.closed_mm}
			label="Damper closed"
			unit="mm"
			min={30}
			onvalue={(v) => damper('closed_mm', v)}
		/>
	</div>
</div>
<h3 class="head mb-1">Wheel and bar</h3>
<div class="grid grid-cols-3 gap-x-3 gap-y-1.5">
	{#each own as f (f.key)}
		<div>
			<span class="label">{f.title}</span>
			<NumberField
				value={axle[f.key] as number}
				label={f.title}
				unit={f.unit}
				onvalue={(v) => v !== null && onaxle({ ...axle, [f.key]: v })}
			/>
		</div>
	{/each}
</div>
