<script lang="ts">
	import type { Schemas } from '../api/client';
	import PhotoField from '../ui/PhotoField.svelte';
	import Dialog from '../ui/Dialog.svelte';
	import { nudge } from '../ui/nudge';
	import { photoAt } from './photo';

	/** A photograph of the machine as it came, from the side, to lie behind the drawing. */
	let {
		photograph,
		onphotograph
	}: {
		photograph: Schemas['SidePhotograph'] | null | undefined;
		onphotograph: (photograph: Schemas['SidePhotograph'] | null) => void;
	} = $props();
	type Place = [number, number];
	type End = 'front' | 'rear';
	const ENDS = ['front', 'rear'] as const;
	let open = $state(false);
	let photo = $state('');
	let places = $state<Partial<Record<End, Place>>>({});
	let placing = $state<End>('front');
	let picture = $state<HTMLImageElement>();

	function begin() {
		photo = photograph?.photo ?? '';
		places = photograph ? { front: photograph.front as Place, rear: photograph.rear as Place } : {};
		placing = 'front';
		open = true;
	}
	const within = (v: number) => Math.min(1, Math.max(0, v));
	function click(event: MouseEvent & { currentTarget: HTMLElement }) {
		// A key on the button clicks it too, nowhere in particular.
		if (event.detail === 0) return;
		const box = event.currentTarget.getBoundingClientRect();
		places[placing] = [
			within((event.clientX - box.left) / box.width),
			within((event.clientY - box.top) / box.height)
		];
		placing = placing === 'front' ? 'rear' : 'front';
	}
	function keyed(event: KeyboardEvent) {
		const by = nudge(event);
		if (!by) return;
		event.preventDefault();
		const [u, v] = places[placing] ?? [0.5, 0.5];
		places[placing] = [within(u + by[0] / 400), within(v - by[1] / 400)];
	}
	function keep() {
		const { front, rear } = places;
		if (!front || !rear || !picture) return;
		onphotograph({ photo, front, rear, width: picture.naturalWidth, height: picture.naturalHeight });
		open = false;
	}
</script>

<div class="flex items-center gap-2">
	{#if photograph}<img
			src={photoAt(photograph.photo)}
			alt="The machine as it came, from the side"
			class="border-rule h-12 border"
		/>{/if}
	<button class="btn" onclick={begin}
		>{photograph ? 'Photograph behind the drawing…' : 'Put a photograph behind the drawing…'}</button
	>
</div>
<Dialog
	bind:open
	title="Photograph from the side"
	note="Click the middle of the front wheel, then of the rear wheel: they and the wheelbase say how large it is."
	wide
>
	{#if photo}
		<div class="mb-2 flex flex-wrap items-center gap-2" role="group" aria-label="Which wheel is placed">
			{#each ENDS as end (end)}
				<button
					class="btn {placing === end ? 'border-dye bg-wash text-dye' : ''}"
					aria-pressed={placing === end}
					onclick={() => (placing = end)}>{end} wheel {places[end] ? '✓' : ''}</button
				>
			{/each}
			<span class="text-quiet text-[13px]">arrow keys move it, with Shift further</span>
		</div>
		<button
			class="relative block w-full cursor-crosshair"
			aria-label="The photograph: place the middle of the {placing} wheel"
			onclick={click}
			onkeydown={keyed}
		>
			<img bind:this={picture} src={photoAt(photo)} alt="" class="w-full select-none" draggable="false" />
			<svg class="pointer-events-none absolute inset-0 h-full w-full" aria-hidden="true">
				{#each ENDS as end (end)}
					{@const at = places[end]}
					{#if at}
						<g stroke={placing === end ? 'var(--dye)' : 'var(--ink)'} stroke-width="2.5" fill="none">
							<circle cx="{100 * at[0]}%" cy="{100 * at[1]}%" r="13" stroke="var(--chalk)" stroke-width="5" />
							<circle cx="{100 * at[0]}%" cy="{100 * at[1]}%" r="13" />
							<circle cx="{100 * at[0]}%" cy="{100 * at[1]}%" r="1.5" />
						</g>
						<text x="{100 * at[0]}%" y="{100 * at[1]}%" dx="18" dy="-10" class="placed">{end}</text>
					{/if}
				{/each}
			</svg>
		</button>
		<div class="mt-3 flex flex-wrap gap-2">
			<button class="btn btn-dye" disabled={!places.front || !places.rear} onclick={keep}
				>Lay it behind the drawing</button
			>
			<button class="btn" onclick={() => ([photo, places] = ['', {}])}>Another photograph</button>
			{#if photograph}<button
					class="btn"
					onclick={() => {
						onphotograph(null);
						open = false;
					}}>Take it away</button
				>{/if}
		</div>
	{:else}
		<PhotoField photos={[]} most={1} onphotos={([id]) => (photo = id ?? '')} />
	{/if}
</Dialog>

<style>
	.placed {
		font-weight: 700;
		fill: var(--ink);
		stroke: var(--chalk);
		stroke-width: 4px;
		paint-order: stroke;
	}
</style>
