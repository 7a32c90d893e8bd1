<script lang="ts">
	import type { Schemas } from '../api/client';
	import { moment } from '../format';
	import Told from '../ui/Told.svelte';

	let {
		signed,
		asSigned,
		onwithdraw
	}: {
		signed: Schemas['SignOff'];
		/** Whether the job stands as it was signed; nothing where nobody can tell. */
		asSigned: boolean | null | undefined;
		/** Withdraw it for a reason; gives what went wrong, empty when nothing did. */
		onwithdraw: (reason: string) => Promise<string>;
	} = $props();
	let asking = $state(false);
	let reason = $state('');
	let trouble = $state('');
	async function withdraw() {
		trouble = await onwithdraw(reason);
		if (!trouble) asking = false;
	}
</script>

<p class="text-good text-base font-bold" data-testid="signed">
	Signed off by {signed.by}, {moment(signed.at)}
</p>
{#if signed.brought_in_by}
	<p class="text-fix font-semibold" data-testid="brought-in">
		Signed elsewhere: it stood in a file that {signed.brought_in_by} brought in{signed.brought_in_at
			? `, ${moment(signed.brought_in_at)}`
			: ''}.
	</p>
{/if}
{#if asSigned === false}
	<p class="text-stops font-semibold" data-testid="not-as-signed">
		The job is not as it was when this was signed: something in it was changed outside this program.
	</p>
{/if}
{#if signed.note}<p class="break-words">{signed.note}</p>{/if}
{#if signed.missing?.length}
	<p class="break-words">
		Although {signed.missing.join('; ')}: <strong>{signed.despite}</strong>
	</p>
{/if}
{#if asking}
	<form
		class="mt-2 grid gap-2"
		onsubmit={(e) => {
			e.preventDefault();
			void withdraw();
		}}
	>
		<label class="grid gap-1">
			<span class="label">Why does it no longer hold? It stands in the history with your name.</span>
			<!-- svelte-ignore a11y_autofocus -->
			<input class="field" bind:value={reason} required minlength="3" maxlength="1000" autofocus />
		</label>
		<div class="flex gap-2">
			<button class="btn btn-dye" disabled={reason.trim().length < 3}>Withdraw the signature</button>
			<button class="btn" type="button" onclick={() => (asking = false)}>Leave it</button>
		</div>
	</form>
{:else}
	<p class="text-quiet mt-1">What stands in the job stays as it was signed.</p>
	<button class="btn mt-2" onclick={() => (asking = true)}>Withdraw the signature…</button>
{/if}
<Told sentence={trouble} class="mt-2" />
