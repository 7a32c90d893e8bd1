<script lang="ts">
	import { api, ask } from '../api/client';
	import { settings } from '../settings.svelte';
	import { length } from '../format';
	import { onDestroy, onMount, untrack } from 'svelte';
	import { drafts } from '../bench/drafts';
	import { NOT_READ, reading, Silence } from './unread.svelte';

	let {
		value,
		label,
		unit = '',
		prefix = '',
		min,
		max,
		exclusive = false,
		optional = false,
		onvalue
	}: {
		value: number | null | undefined;
		label: string;
		unit?: string;
		prefix?: string;
		min?: number;
		max?: number;
		/** Whether min itself is out of range. */
		exclusive?: boolean;
		optional?: boolean;
		onvalue: (value: number | null) => void;
	} = $props();

	const uid = $props.id();
	/** What was typed and not read when the page went, kept under the field's own words. */
	const key = untrack(() => `typed:number:${location.pathname}:${label}`);
	let typing = $state<string>();
	onMount(() => {
		const kept = drafts.kept<string>(key);
		// Where several fields are called the same, nobody knows whose it was: then it is nobody's.
		const alone = document.querySelectorAll(`input[aria-label="${CSS.escape(label)}"]`).length === 1;
		drafts.forget(key);
		if (kept === undefined || !alone) return;
		typing = kept;
		reading(read(kept));
	});
	let trouble = $state('');
	const isLength = $derived(unit === 'mm');
	const shownUnit = $derived(isLength ? settings.units : unit);
	const shown = $derived(
		typing ??
			(value === null || value === undefined
				? ''
				: isLength && settings.units === 'in'
					? length(value, 'in').replace('−', '-')
					: String(Math.round(value * 1000) / 1000))
	);

	const silence = new Silence(() => typing !== undefined && read(typing));
	onDestroy(() => silence.over());
	async function read(text: string) {
		if (text.trim() === '') {
			typing = undefined;
			silence.over();
			if (optional) onvalue(null);
			return;
		}
		let number = Number(text.replace(',', '.'));
		// A label may state a rate in another shop's unit: the core knows what that is in ours.
		const isRate = unit === 'N/mm' && /[a-z]/i.test(text);
		if (isLength || isRate) {
			drafts.keep(key, text);
			const asked = await ask(
				api.POST('/api/entry', {
					body: isRate
						? { text, kind: 'rate', default_unit: 'N/mm' }
						: { text, kind: 'length', default_unit: settings.units }
				})
			);
			if (typing !== undefined && typing !== text) return;
			if (asked.data) drafts.forget(key);
			silence.heard(asked);
			trouble = silence.silent ? NOT_READ : asked.trouble;
			if (!asked.data) return;
			number = asked.data.value;
		}
		if (!Number.isFinite(number)) trouble = `“${text}” is not a number.`;
		else if (min !== undefined && (exclusive ? number <= min : number < min))
			trouble = `It must be ${exclusive ? 'more than' : 'at least'} ${min} ${unit}.`;
		else if (max !== undefined && number > max) trouble = `It must be at most ${max} ${unit}.`;
		else {
			trouble = '';
			typing = undefined;
			if (number !== value) onvalue(number);
		}
	}
</script>

<div class="min-w-0">
	<div class="flex items-center gap-1.5">
		{#if prefix}<span class="text-quiet shrink-0">{prefix}</span>{/if}
		<input
			class="field figure {trouble ? 'border-stops' : ''}"
			aria-label={label}
			aria-invalid={trouble ? 'true' : undefined}
			aria-describedby={trouble ? `${uid}-told` : undefined}
			value={shown}
			autocomplete="off"
			oninput={(e) => (typing = e.currentTarget.value)}
			onblur={(e) => typing !== undefined && reading(read(e.currentTarget.value))}
			onkeydown={(e) => {
				if (e.key === 'Escape') {
					drafts.forget(key);
					[typing, trouble] = [undefined, ''];
					silence.over();
				}
				if (e.key === 'Enter' || e.key === 'Escape') e.currentTarget.blur();
			}}
		/>
		{#if shownUnit}<span class="text-quiet shrink-0 text-[13px]">{shownUnit}</span>{/if}
	</div>
	{#if trouble}<p id="{uid}-told" class="text-stops mt-0.5 text-[13px] font-semibold" role="alert">
			{trouble}
		</p>{/if}
</div>
