<script lang="ts">
	import { Dialog } from 'bits-ui';
	import X from '@lucide/svelte/icons/x';
	import type { Snippet } from 'svelte';

	let {
		open = $bindable(false),
		title,
		note = '',
		closable = true,
		wide = false,
		children
	}: {
		open?: boolean;
		title: string;
		note?: string;
		closable?: boolean;
		wide?: boolean;
		children: Snippet;
	} = $props();
	let content = $state<HTMLElement | null>(null);
</script>

<Dialog.Root bind:open>
	<Dialog.Portal>
		<Dialog.Overlay class="fixed inset-0 z-40 bg-black/45" />
		<Dialog.Content
			bind:ref={content}
			onOpenAutoFocus={(event) => {
				// A field to type in comes before the button that closes.
				const first = content?.querySelector<HTMLElement>('[data-first-focus]');
				if (!first) return;
				event.preventDefault();
				first.focus();
			}}
			escapeKeydownBehavior={closable ? 'close' : 'ignore'}
			interactOutsideBehavior={closable ? 'close' : 'ignore'}
			class="panel fixed top-1/2 left-1/2 z-50 max-h-[86vh] {wide
				? 'w-[760px]'
				: 'w-[460px]'} max-w-[94vw] -translate-x-1/2 -translate-y-1/2 overflow-y-auto p-5 shadow-xl"
		>
			<div class="mb-3 flex items-start justify-between gap-4">
				<div>
					<Dialog.Title class="text-lg font-semibold">{title}</Dialog.Title>
					{#if note}<Dialog.Description class="text-quiet mt-1">{note}</Dialog.Description>{/if}
				</div>
				{#if closable}
					<Dialog.Close class="btn btn-plain px-2" aria-label="Close"><X size={18} /></Dialog.Close>
				{/if}
			</div>
			{@render children()}
		</Dialog.Content>
	</Dialog.Portal>
</Dialog.Root>
