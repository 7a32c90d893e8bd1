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
		onvalue: (value: string | number | null) => void;
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
