<script lang="ts" generics="V extends string">
	/** A few things side by side, one of them chosen. */
	let {
		label,
		options,
		value,
		onchoose
	}: {
		label: string;
		options: readonly (readonly [V, string])[];
		value: V | '';
		onchoose: (value: V) => void;
	} = $props();
</script>

<div class="flex gap-0.5" role="group" aria-label={label}>
	{#each options as [name, text] (name)}
		<button
			class="min-h-7 rounded-[3px] px-2 font-semibold whitespace-nowrap max-[1150px]:px-1 max-[1150px]:text-[13px] {value ===
			name
				? 'bg-wash text-dye'
				: 'text-quiet bg-chalk'}"
			aria-pressed={value === name}
			onclick={() => onchoose(name)}>{text}</button
		>
	{/each}
</div>
