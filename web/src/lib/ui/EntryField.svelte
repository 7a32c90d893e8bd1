<script lang="ts">
	import { onDestroy, onMount } from 'svelte';
	import { api, ask, type Schemas } from '../api/client';
	import { settings } from '../settings.svelte';
	import { drafts } from '../bench/drafts';
	import { length, number } from '../format';
	import { NOT_READ, reading, Silence } from './unread.svelte';

	const uid = $props.id();

	type Entry = Schemas['Length'];
	let {
		entry,
		label,
		kind = 'length',
		quantity,
		keep,
		question = '',
		disabled = false,
		placeholder = '',
		onentry
	}: {
		entry: Entry | undefined;
		label: string;
		kind?: 'length' | 'angle' | 'torque' | 'mass';
		quantity?: Schemas['Typed']['quantity'];
		/** Under this key a text that was refused is kept, so that it survives a reload. */
		keep: string;
		question?: string;
		disabled?: boolean;
		placeholder?: string;
		/** The new quantity; undefined when the field was emptied. */
		onentry: (entry: Entry | undefined) => void;
	} = $props();

	// svelte-ignore state_referenced_locally
	const key = `typed:${keep}`;
	let typing = $state<string | undefined>(drafts.kept<string>(key));
	let trouble = $state('');
	const shown = $derived(typing ?? entry?.text ?? '');
	const unit = { length: 'mm', angle: '°', torque: 'N·m', mass: 'kg' };
	const meaning = $derived.by(() => {
		if (!entry || typing !== undefined) return '';
		const value =
			kind === 'length'
				? `${length(entry.value, settings.units, { digits: settings.units === 'mm' && entry.value % 1 ? 1 : 0 })} ${settings.units}`
				: `${number(entry.value, kind === 'angle' ? 2 : 0)} ${unit[kind]}`;
		// A bare number that means itself needs no translation.
		const plain = Number(entry.text) === entry.value && (kind !== 'length' || settings.units === 'mm');
		return plain ? '' : value;
	});

	onMount(() => {
		if (typing !== undefined) void read(typing);
	});
	const silence = new Silence(() => typing !== undefined && read(typing));
	onDestroy(() => silence.over());

	async function read(text: string) {
		if (text.trim() === '') {
			typing = undefined;
			trouble = '';
			drafts.forget(key);
			silence.over();
			if (entry) onentry(undefined);
			return;
		}
		if (text === entry?.text) {
			typing = undefined;
			drafts.forget(key);
			silence.over();
			return;
		}
		drafts.keep(key, text);
		const asked = await ask(
			api.POST('/api/entry', {
				body: { text, kind, quantity, default_unit: kind === 'length' ? settings.units : undefined }
			})
		);
		if (typing !== undefined && typing !== text) return;
		silence.heard(asked);
		trouble = silence.silent ? NOT_READ : asked.trouble;
		if (asked.data) {
			typing = undefined;
			drafts.forget(key);
			onentry(asked.data);
		} else typing = text;
	}

	function onkeydown(event: KeyboardEvent) {
		const field = event.currentTarget as HTMLInputElement;
		if (event.key === 'Escape') {
			typing = undefined;
			trouble = '';
			drafts.forget(key);
			silence.over();
			field.blur(); // so that the next digit picks a stage
			return;
		}
		if (event.key !== 'Enter') return;
		event.preventDefault();
		const all = [...document.querySelectorAll<HTMLInputElement>('input[data-entry]:not(:disabled)')];
		const next = all[all.indexOf(field) + (event.shiftKey ? -1 : 1)];
		if (next) next.focus();
		else field.blur();
	}
</script>

<div class="min-w-0">
	<input
		data-entry
		class="field figure {trouble ? 'border-stops' : question ? 'border-fix' : ''}"
		aria-label={label}
		aria-invalid={trouble ? 'true' : undefined}
		aria-describedby={trouble || question || meaning ? `${uid}-told` : undefined}
		value={shown}
		{disabled}
		{placeholder}
		autocomplete="off"
		inputmode="text"
		oninput={(e) => {
			typing = e.currentTarget.value;
			drafts.keep(key, typing);
		}}
		onfocus={(e) => e.currentTarget.select()}
		onblur={(e) => typing !== undefined && reading(read(e.currentTarget.value))}
		{onkeydown}
	/>
	{#if trouble}
		<p id="{uid}-told" class="text-stops mt-0.5 text-[13px] font-semibold" role="alert">{trouble}</p>
	{:else if question}
		<p id="{uid}-told" class="text-fix mt-0.5 text-[13px] font-semibold">{question}</p>
	{:else if meaning}
		<p id="{uid}-told" class="text-quiet figure mt-0.5 text-[13px]">= {meaning}</p>
	{/if}
</div>
