<script lang="ts">
	import Unplug from '@lucide/svelte/icons/unplug';
	import Wrench from '@lucide/svelte/icons/wrench';
	import { Popover } from 'bits-ui';
	import type { Wrench as Heard } from './wrench.svelte';

	/** Whether the wrench is there; a simulated one can be clicked from here. */
	let { wrench }: { wrench: Heard } = $props();
	const view = $derived(wrench.view);
	const away = $derived(view.state === 'away');
	let torque = $state('84');
	let angle = $state('0');
</script>

{#if view.state !== 'none'}
	<Popover.Root>
		<Popover.Trigger
			class="btn min-h-12 px-3 text-base {away ? 'border-stops text-stops font-bold' : ''}"
			aria-label={away ? 'Wrench unplugged' : `${view.name || 'Wrench'} is ready`}
		>
			{#if away}<Unplug size={22} /> Wrench unplugged{:else}<Wrench size={22} />
				<span class="max-[1100px]:hidden">{view.name}</span>{/if}
		</Popover.Trigger>
		<Popover.Portal>
			<Popover.Content class="panel z-50 grid w-80 gap-2 p-3 text-base" sideOffset={6}>
				{#if view.least_nm !== null && view.least_nm !== undefined}
					<p>{view.name}, good for {view.least_nm} to {view.most_nm} N·m</p>
				{/if}
				{#if view.simulated}
					<p class="text-quiet text-[13px]">
						Simulated: it stands in for a wrench that speaks the same lines.
					</p>
					<div class="grid grid-cols-2 gap-2">
						<label class="label"
							>Clicks at, N·m <input
								class="field figure mt-1"
								inputmode="decimal"
								bind:value={torque}
							/></label
						>
						<label class="label"
							>after turning, ° <input
								class="field figure mt-1"
								inputmode="decimal"
								bind:value={angle}
							/></label
						>
					</div>
					<div class="flex gap-2">
						<button
							class="btn btn-dye min-h-11"
							disabled={away}
							onclick={() =>
								void wrench.simulate({ torque_nm: Number(torque) || 0, angle_deg: Number(angle) || 0 })}
							>Click</button
						>
						<button class="btn min-h-11" onclick={() => void wrench.simulate({ plugged: away })}
							>{away ? 'Plug it in' : 'Pull its plug'}</button
						>
					</div>
				{/if}
			</Popover.Content>
		</Popover.Portal>
	</Popover.Root>
{/if}
