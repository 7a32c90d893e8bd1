<script lang="ts">
	import Camera from '@lucide/svelte/icons/camera';
	import X from '@lucide/svelte/icons/x';
	import { keepPhoto, photoAt } from '../bench/photo';
	import Told from './Told.svelte';

	let {
		photos,
		most = 6,
		label = 'Photograph',
		onphotos
	}: {
		photos: readonly string[];
		most?: number;
		label?: string;
		onphotos: (ids: string[]) => void;
	} = $props();
	let trouble = $state('');
	let busy = $state(0);

	async function chosen(files: FileList | null) {
		trouble = '';
		for (const file of [...(files ?? [])].slice(0, most - photos.length)) {
			busy += 1;
			const asked = await keepPhoto(file);
			busy -= 1;
			trouble ||= asked.trouble;
			if (asked.data && !photos.includes(asked.data.id)) onphotos([...photos, asked.data.id]);
		}
	}
</script>

<div class="flex flex-wrap items-center gap-2">
	{#each photos as id, n (id)}
		<span class="relative">
			<a href={photoAt(id)} target="_blank" rel="noreferrer"
				><img src={photoAt(id)} alt="{label} {n + 1}" class="border-rule h-20 border" /></a
			>
			<button
				class="btn absolute top-0 right-0 min-h-8 px-1.5"
				aria-label="Take {label.toLowerCase()} {n + 1} out"
				onclick={() => onphotos(photos.filter((p) => p !== id))}><X size={16} /></button
			>
		</span>
	{/each}
	{#if photos.length < most}
		<label class="btn relative min-h-11 cursor-pointer focus-within:outline-2">
			<Camera size={18} />
			{busy ? 'keeping it…' : label}
			<input
				type="file"
				accept="image/jpeg,image/png,image/webp"
				class="absolute inset-0 cursor-pointer opacity-0"
				multiple={most > 1}
				aria-label="{label}: choose a file"
				onchange={(e) => {
					const input = e.currentTarget;
					void chosen(input.files).then(() => (input.value = ''));
				}}
			/>
		</label>
	{/if}
</div>
<Told sentence={trouble} class="mt-1" />
