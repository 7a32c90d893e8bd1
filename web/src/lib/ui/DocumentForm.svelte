<script lang="ts">
	import Plus from '@lucide/svelte/icons/plus';
	import X from '@lucide/svelte/icons/x';
	import NumberField from './NumberField.svelte';
	import PhotoField from './PhotoField.svelte';
	import Self from './DocumentForm.svelte';
	import { another, isPlain, type Field, type Node } from './form';

	let {
		node,
		value,
		label,
		optional = false,
		hide = [],
		field = '',
		choices = {},
		onvalue
	}: {
		node: Node;
		value: unknown;
		/** Named to people who cannot see where it stands. */
		label: string;
		optional?: boolean;
		/** Fields not shown here. */
		hide?: string[];
		/** Name of the field this is the value of. */
		field?: string;
		/** Fields that name a part: what there is to choose from, as value and title. */
		choices?: Record<string, [string, string][]>;
		onvalue: (value: unknown) => void;
	} = $props();

	type Fields = Record<string, unknown>;
	const given = $derived((value ?? {}) as Fields);
	const rows = $derived((value ?? []) as unknown[]);
	const fields = $derived(node.kind === 'object' ? node.fields.filter((f) => !hide.includes(f.name)) : []);
	const put = (name: string, to: unknown) => onvalue({ ...given, [name]: to });
	const nameOf = (f: Field) => `${label}: ${f.title}`;
	const one = (text: string) => (text.split(',')[0] ?? text).replace(/s$/, '').toLowerCase();

	let fresh = $state('');
	const free = $derived(node.kind === 'map' ? node.keys.filter((k) => !(k in given)) : []);
	function addKey(key: string) {
		if (node.kind !== 'map' || !key || key in given) return;
		const item = node.item;
		const named = item.kind === 'object' && item.fields.some((f) => f.name === 'name');
		put(key, named ? { ...(item.start as object), name: key } : item.start);
		fresh = '';
	}
	const without = (key: string) =>
		onvalue(Object.fromEntries(Object.entries(given).filter(([name]) => name !== key)));
</script>

{#snippet add(text: string, press: () => void)}
	<button class="btn min-h-7 px-2 text-[13px]" onclick={press}><Plus size={13} /> {text}</button>
{/snippet}
{#snippet remove(what: string, press: () => void)}
	<button class="btn min-h-7 px-1" aria-label="Take {what} out" onclick={press}><X size={13} /></button>
{/snippet}

{#if node.kind === 'number'}
	<NumberField
		value={value as number | null}
		{label}
		unit={node.unit}
		min={node.min}
		max={node.max}
		exclusive={node.exclusive}
		{optional}
		{onvalue}
	/>
{:else if node.kind === 'text' && choices[field]}
	{@const known = choices[field] ?? []}
	<select
		class="field"
		aria-label={label}
		value={String(value ?? '')}
		onchange={(e) => onvalue(e.currentTarget.value)}
	>
		{#if !known.some(([name]) => name === value)}<option value={String(value ?? '')}>{value}</option>{/if}
		{#each known as [name, title] (name)}<option value={name}>{title}</option>{/each}
	</select>
{:else if node.kind === 'text'}
	<input
		class="field"
		aria-label={label}
		value={String(value ?? '')}
		maxlength={node.max}
		onchange={(e) => onvalue(e.currentTarget.value)}
	/>
{:else if node.kind === 'flag'}
	<input
		type="checkbox"
		class="accent-dye h-5 w-5"
		aria-label={label}
		checked={Boolean(value)}
		onchange={(e) => onvalue(e.currentTarget.checked)}
	/>
{:else if node.kind === 'choice'}
	<select
		class="field"
		aria-label={label}
		value={String(value ?? node.start)}
		onchange={(e) => onvalue(node.options.find((o) => String(o) === e.currentTarget.value))}
	>
		{#each node.options as o (o)}<option value={String(o)}>{String(o).replaceAll('_', ' ')}</option>{/each}
	</select>
{:else if node.kind === 'tuple'}
	<div class="flex gap-1">
		{#each node.items as item, i (i)}
			<Self
				node={item}
				value={rows[i]}
				label="{label}, {node.items.length === 3 ? 'xyz'[i] : i + 1}"
				onvalue={(to) => onvalue(node.items.map((n, j) => (j === i ? to : (rows[j] ?? n.start))))}
			/>
		{/each}
	</div>
{:else if node.kind === 'photos'}
	<PhotoField photos={rows as string[]} onphotos={onvalue} />
{:else if node.kind === 'list'}
	<div class="grid gap-1.5">
		{#each rows as row, i (i)}
			<div class="flex items-end gap-1">
				<div class="min-w-0 flex-1">
					<Self
						node={node.item}
						value={row}
						label="{label} {i + 1}"
						onvalue={(to) => onvalue(rows.map((r, j) => (j === i ? to : r)))}
					/>
				</div>
				{@render remove(`${label} ${i + 1}`, () => onvalue(rows.filter((_, j) => j !== i)))}
			</div>
		{/each}
		<div>
			{@render add(`Add ${one(label)}`, () => onvalue([...rows, another(rows, node.item.start)]))}
		</div>
	</div>
{:else if node.kind === 'map'}
	<div class="grid gap-1.5">
		{#each Object.keys(given) as key (key)}
			<div class="border-rule flex items-end gap-1 border-l-2 pl-2">
				<div class="min-w-0 flex-1">
					<span class="font-semibold first-letter:uppercase">{key.replaceAll('_', ' ')}</span>
					<Self node={node.item} value={given[key]} label="{label} {key}" onvalue={(to) => put(key, to)} />
				</div>
				{@render remove(`${label} ${key}`, () => without(key))}
			</div>
		{/each}
		<div class="flex flex-wrap gap-1">
			{#if node.keys.length}
				{#each free as key (key)}{@render add(key.replaceAll('_', ' '), () => addKey(key))}{/each}
			{:else}
				<input class="field w-[170px]" aria-label="{label}: name of a new one" bind:value={fresh} />
				<button
					class="btn min-h-7 px-2 text-[13px]"
					disabled={!fresh.trim()}
					onclick={() => addKey(fresh.trim())}><Plus size={13} /> Add {one(label)}</button
				>
			{/if}
		</div>
	</div>
{:else if node.kind === 'union'}
	{@const tag = String(given[node.tag] ?? Object.keys(node.options)[0])}
	{@const branch = node.options[tag]}
	<select
		class="field mb-1"
		aria-label="{label}: kind"
		value={tag}
		onchange={(e) => onvalue(node.options[e.currentTarget.value]?.start)}
	>
		{#each Object.keys(node.options) as o (o)}<option value={o}>{o.replaceAll('_', ' ')}</option>{/each}
	</select>
	{#if branch}<Self node={branch} {value} {label} {choices} {onvalue} />{/if}
{:else}
	<div class="grid grid-cols-3 items-end gap-x-3 gap-y-1.5">
		{#each fields.filter((f) => isPlain(f.node)) as f (f.name)}
			<div title={f.help}>
				<span class="label block leading-tight">{f.title}</span>
				<Self
					node={f.node}
					value={given[f.name] ?? (f.optional ? null : f.node.start)}
					label={nameOf(f)}
					field={f.name}
					{choices}
					optional={f.optional}
					onvalue={(to) => put(f.name, to)}
				/>
			</div>
		{/each}
	</div>
	{#each fields.filter((f) => !isPlain(f.node)) as f (f.name)}
		<div class="mt-2" title={f.help}>
			{#if f.optional && (given[f.name] ?? null) === null}
				{@render add(`${f.title}`, () => put(f.name, f.node.start))}
			{:else}
				<div class="flex items-center justify-between">
					<span class="font-semibold">{f.title}</span>
					{#if f.optional}{@render remove(f.title, () => put(f.name, null))}{/if}
				</div>
				<Self
					node={f.node}
					value={given[f.name]}
					label={f.title}
					field={f.name}
					{choices}
					onvalue={(to) => put(f.name, to)}
				/>
			{/if}
		</div>
	{/each}
{/if}
