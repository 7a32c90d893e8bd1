<script lang="ts" module>
	import type { AxleName, Schemas } from '../api/client';
	/** Parameters shown without folding any; and shown of more than that. */
	const FEW = 6,
		OPEN = 5;
	/** A change on the stack, of whatever machine. */
	export type Planned = { id: string; on: boolean; change: { type: string; axle?: AxleName } };
</script>

<script lang="ts">
	import ArrowDown from '@lucide/svelte/icons/arrow-down';
	import ArrowUp from '@lucide/svelte/icons/arrow-up';
	import X from '@lucide/svelte/icons/x';
	import ForceCurves from '../plot/ForceCurves.svelte';
	import DocumentForm from '../ui/DocumentForm.svelte';
	import { isPlain, laidOut, nodeOf, valueAt, withValue, type Schema } from '../ui/form';
	import Offer, { type Answered } from '../ui/Offer.svelte';
	import Length from '../ui/Length.svelte';

	let {
		planned,
		of,
		title,
		schema,
		own,
		choices = {},
		settings,
		curves = [],
		stated = false,
		first,
		last,
		onchange,
		onremove,
		onmove
	}: {
		planned: Planned;
		/** The bench its settings are worked out on. */
		of: Answered;
		/** Its kind, and where it is. */
		title: string;
		schema: Record<string, unknown> | undefined;
		/** What it brings at its own end, given those above it, mm. */
		own: number;
		/** Parameters that name a part, with the parts there are. */
		choices?: Record<string, [string, string][]>;
		/** Its settings side by side, where it has a list of them. */
		settings?: Schemas['SettingTable'];
		/** Force of the spring that comes out and of the one planned, where it is one. */
		curves?: Schemas['ForceCurve'][];
		/** Whether what it brings is only stated. */
		stated?: boolean;
		first: boolean;
		last: boolean;
		onchange: (planned: Planned) => void;
		onremove: () => void;
		onmove: (by: -1 | 1) => void;
	} = $props();

	// Where a change is was said when it was added.
	const fields = $derived(
		schema ? laidOut(nodeOf(schema as Schema)).filter((f) => f.path.join() !== 'axle') : []
	);
	/** What is set most often stays open: sliders, and what a part is known by; the rest is a press away. */
	const few = $derived(fields.length <= FEW);
	const front = $derived(
		few ? fields : fields.filter((f, i) => (f.node.kind === 'number' && f.node.slider) || i < OPEN)
	);
	const rest = $derived(fields.filter((f) => !front.includes(f)));
	/** A part to choose, or a part with fields of its own, has the whole width. */
	const wide = (f: (typeof fields)[number]) => !isPlain(f.node) || (f.path.at(-1) ?? '') in choices;
	const put = (path: string[], to: unknown) =>
		onchange({ ...planned, change: withValue(planned.change, path, to) });
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
			title="what this change does to the height of its own end, given those above it"
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
	{#if stated}<p class="text-fix px-2.5 text-sm font-semibold">stated, not computed</p>{/if}
	{@render form(front)}
	{#if settings}
		<div class="px-2.5 pb-2">
			<table class="w-full" data-testid="settings">
				<thead>
					<tr class="label text-right"
						><th class="text-left">Setting</th>{#each settings.columns as c (c)}<th class="pl-2">{c}</th
							>{/each}</tr
					>
				</thead>
				<tbody>
					{#each settings.rows as row (row.name)}
						<tr class="border-rule border-t text-right {row.now ? 'bg-wash' : ''}">
							<td class="py-0.5 text-left">
								{#if row.change}
									<Offer
										{of}
										class="min-h-7 px-2 text-[13px] whitespace-nowrap"
										aria-pressed={row.now}
										onclick={() => onchange({ ...planned, change: row.change as Planned['change'] })}
										>{row.name}</Offer
									>
								{:else}{row.name}{/if}
								{#if row.best}<span class="text-good font-semibold">★ best</span>{/if}
							</td>
							{#each row.cells as cell, n (n)}<td class="figure pl-2">{cell}</td>{/each}
						</tr>
					{/each}
				</tbody>
			</table>
			<p class="text-quiet mt-1">{settings.note}</p>
		</div>
	{/if}
	{#if curves.length > 1}
		<div class="h-[150px] px-2.5 pb-2">
			<ForceCurves {curves} label="Force over length, {title}" />
		</div>
	{/if}
	{#if rest.length}
		<details class="px-2.5 pb-2">
			<summary class="text-quiet cursor-pointer text-sm"
				>{rest.length} more: {rest.map((f) => f.title.toLowerCase()).join(', ')}</summary
			>
			<div class="-mx-2.5">{@render form(rest)}</div>
		</details>
	{/if}
</div>

{#snippet form(some: typeof fields)}
	<div class="grid grid-cols-3 items-end gap-x-3 gap-y-1.5 px-2.5 pt-1 pb-2">
		{#each some as f (f.path.join('.'))}
			{@const v = valueAt(planned.change, f.path) ?? (f.optional ? null : f.node.start)}
			{@const slider = f.node.kind === 'number' ? f.node.slider : undefined}
			<div
				class={slider
					? 'col-span-3 grid grid-cols-[1fr_130px] items-center gap-3'
					: wide(f)
						? 'col-span-3'
						: ''}
				title={f.help}
			>
				{#if slider && f.node.kind === 'number'}
					<div>
						<span class="label">{f.title}</span>
						<!-- A native range: a value between its steps is shown nearest, never rounded behind anyone's back. -->
						<input
							type="range"
							class="accent-dye h-6 w-full cursor-ew-resize"
							aria-label="{f.title}, {title}"
							min={slider[0]}
							max={slider[1]}
							step={f.node.step}
							value={typeof v === 'number' ? v : slider[0]}
							oninput={(e) => put(f.path, e.currentTarget.valueAsNumber)}
						/>
					</div>
				{:else}
					<span class="label">{f.title}</span>
				{/if}
				<DocumentForm
					node={f.node}
					value={v}
					label="{f.title}, {title}"
					field={f.path.at(-1)}
					{choices}
					optional={f.optional}
					onvalue={(to) => put(f.path, to)}
				/>
			</div>
		{/each}
	</div>
{/snippet}
