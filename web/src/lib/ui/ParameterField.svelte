<script lang="ts">
	import type { Parameter } from '../bench/parameters';
	import NumberField from './NumberField.svelte';

	let {
		parameter: p,
		value,
		label,
		onvalue
	}: {
		parameter: Parameter;
		value: unknown;
		label: string;
		onvalue: (value: string | number | boolean | null) => void;
	} = $props();
</script>

{#if p.kind === 'text'}
	<input
		class="field"
		aria-label={label}
		value={String(value ?? '')}
		maxlength={p.max}
		onchange={(e) => onvalue(e.currentTarget.value)}
	/>
{:else if p.kind === 'flag'}
	<input
		type="checkbox"
		class="accent-dye mt-1 block h-5 w-5"
		aria-label={label}
		checked={Boolean(value)}
		onchange={(e) => onvalue(e.currentTarget.checked)}
	/>
{:else}
	<NumberField
		value={value as number | null}
		{label}
		unit={p.unit}
		min={p.min}
		max={p.max}
		exclusive={p.exclusive}
		optional={p.optional}
		{onvalue}
	/>
{/if}
