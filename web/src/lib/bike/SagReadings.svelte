<script lang="ts">
	import type { Schemas } from '../api/client';
	import { number } from '../format';
	import EntryField from '../ui/EntryField.svelte';
	import type { End } from './bikeBench.svelte';

	type Readings = Schemas['BikeMeasurements'];
	let {
		readings,
		keep,
		beside = () => '',
		onreadings
	}: {
		readings: Readings;
		keep: string;
		/** What stands under a field. */
		beside?: (end: End, state: 'unladen' | 'laden') => string;
		onreadings: (readings: Readings) => void;
	} = $props();

	const ENDS: End[] = ['rear', 'front'];
	const STATES = { extended: 'wheel hanging', unladen: 'on its own', laden: 'rider on' } as const;
	type State = keyof typeof STATES;
	const read = (end: End, state: State) =>
		readings.sags?.find((s) => s.end === end && s.state === state)?.reading as Schemas['Length'] | undefined;
	const sag = (end: End, state: State) => {
		const [out, in_] = [read(end, 'extended'), read(end, state)];
		return out && in_ ? out.value - in_.value : undefined;
	};
	function put(end: End, state: State, entry: Schemas['Length'] | undefined) {
		const others = (readings.sags ?? []).filter((s) => s.end !== end || s.state !== state);
		onreadings({ ...readings, sags: entry ? [...others, { end, state, reading: entry }] : others });
	}
</script>

<div class="grid grid-cols-[104px_repeat(3,minmax(0,1fr))] items-start gap-2">
	<span></span>
	{#each Object.entries(STATES) as [state, name] (state)}<span class="label">{name}</span>{/each}
	{#each ENDS as end (end)}
		<span class="pt-1.5 font-semibold"
			>{end === 'rear' ? 'Rear' : 'Fork'}<span class="text-quiet block text-[13px] font-normal"
				>{end === 'rear' ? 'axle to a mark above' : 'axle to lower clamp'}</span
			></span
		>
		{#each ['extended', 'unladen', 'laden'] as const as state (state)}
			<div>
				<EntryField
					entry={read(end, state)}
					label="{end} {STATES[state]}"
					keep="{keep}.{end}.{state}"
					onentry={(entry) => put(end, state, entry)}
				/>
				{#if state !== 'extended'}
					{@const s = sag(end, state)}
					<p class="text-quiet text-[13px] leading-tight">
						{#if s !== undefined}<strong class="text-ink block">sag {number(s, 0)}</strong>{/if}
						{beside(end, state)}
					</p>
				{/if}
			</div>
		{/each}
	{/each}
</div>
