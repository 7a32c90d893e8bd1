<script lang="ts">
	import ArrowDown from '@lucide/svelte/icons/arrow-down';
	import ArrowUp from '@lucide/svelte/icons/arrow-up';
	import X from '@lucide/svelte/icons/x';
	import Length from '../ui/Length.svelte';
	import ParameterField from '../ui/ParameterField.svelte';
	import { parameters, type Parameter } from './parameters';

	type Planned = { id: string; on: boolean; change: object };
	let {
		planned,
		title,
		schema,
		own,
		lost = '',
		first,
		last,
		onchange,
		onremove,
		onmove
	}: {
		planned: Planned;
		/** Its kind, and where it is. */
		title: string;
		schema: Record<string, unknown> | undefined;
		/** What it brings at its own end, given those above it, mm. */
		own: number;
		/** Where that is told when it is not the rise of its own axle. */
		lost?: string;
		first: boolean;
		last: boolean;
		onchange: (planned: Planned) => void;
		onremove: () => void;
		onmove: (by: -1 | 1) => void;
	} = $props();

	const fields = $derived(schema ? parameters(schema) : []);
	const values = $derived(planned.change as unknown as Record<string, unknown>);

	function value(p: Parameter): unknown {
		return p.path.reduce<unknown>((at, key) => (at as Record<string, unknown> | undefined)?.[key], values);
	}
	function put(p: Parameter, to: unknown) {
		const [head, ...rest] = p.path as [string, ...string[]];
		const inner = rest[0] ? { ...(values[head] as object), [rest[0]]: to } : to;
		onchange({ ...planned, change: { ...planned.change, [head]: inner } });
	}
</script>

<div
	class="bg-raised border-rule rounded-[3px] border {planned.on ? 'border-l-dye border-l-4' : 'opacity-70'}"
	data-change={planned.id}
>
	<div class="flex items-center gap-2 px-2.5 pt-1.5">
		<input
			type="checkbox"
			class="accent-dye h-5 w-5 shrink-0"
			checked={planned.on}
			aria-label="{title}: in the plan"
			onchange={(e) => onchange({ ...planned, on: e.currentTarget.checked })}
		/>
		<span class="min-w-0 flex-1 truncate font-semibold">{title}</span>
		<span
			class="text-lg font-bold"
			title={lost || 'what this change brings at its own axle, given those above it'}
		>
			{#if planned.on}<Length mm={own} signed />{:else}<span class="text-quiet text-sm">off</span>{/if}
		</span>
		<button
			class="btn btn-plain min-h-7 px-1"
			disabled={first}
			aria-label="Move up"
			onclick={() => onmove(-1)}><ArrowUp size={15} /></button
		>
		<button
			class="btn btn-plain min-h-7 px-1"
			disabled={last}
			aria-label="Move down"
			onclick={() => onmove(1)}><ArrowDown size={15} /></button
		>
		<button class="btn btn-plain min-h-7 px-1" aria-label="Take {title}, off the plan" onclick={onremove}
			><X size={15} /></button
		>
	</div>
	<div class="grid grid-cols-3 gap-x-3 gap-y-1.5 px-2.5 pt-1 pb-2">
		{#each fields as p (p.path.join('.'))}
			{@const v = value(p)}
			<div class={p.slider ? 'col-span-3 grid grid-cols-[1fr_130px] items-center gap-3' : ''}>
				{#if p.slider}
					<div>
						<span class="label">{p.title}</span>
						<!-- A native range: a value between its steps is shown nearest, never rounded behind anyone's back. -->
						<input
							type="range"
							class="accent-dye h-6 w-full cursor-ew-resize"
							aria-label="{p.title}, {title}"
							min={p.slider[0]}
							max={p.slider[1]}
							step={p.step}
							value={typeof v === 'number' ? v : p.slider[0]}
							oninput={(e) => put(p, e.currentTarget.valueAsNumber)}
						/>
					</div>
				{:else}
					<span class="label">{p.title}</span>
				{/if}
				<ParameterField parameter={p} value={v} label="{p.title}, {title}" onvalue={(to) => put(p, to)} />
			</div>
		{/each}
	</div>
</div>
