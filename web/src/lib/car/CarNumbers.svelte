<script lang="ts">
	import type { AxleName, Prediction } from '../api/client';
	import { theCar } from './carBench.svelte';
	import { number, plusMinus } from '../format';
	import { settings } from '../settings.svelte';
	import Computing from '../bench/Computing.svelte';
	import Length from '../ui/Length.svelte';
	import Verdict from '../ui/Verdict.svelte';

	const bench = theCar();
	const prediction = $derived(bench.prediction as Prediction);
	const computing = $derived(bench.computing);
	const rakeMax = $derived(bench.job.brief.rake_change_max_deg);
	const AXLES: AxleName[] = ['front', 'rear'];
	/** Where an end is to follow a rake, or nothing is wanted of it, a change is what the brief wants. */
	const judged = $derived(AXLES.every((a) => !['rake', 'none'].includes(bench.job.brief[a].by ?? 'rise')));
</script>

<div class="panel grid grid-cols-[1.2fr_1.2fr_1fr_0.95fr] divide-x divide-(--rule)" aria-busy={computing}>
	{#each AXLES as name (name)}
		{@const axle = prediction[name]}
		<div class="min-w-0 overflow-hidden px-3 py-1.5 whitespace-nowrap max-[1150px]:px-2">
			<div class="label flex justify-between whitespace-nowrap">
				<span>{name === 'front' ? 'Front' : 'Rear'} rises</span>
				{#if axle.aim === null}<span>no aim</span>{:else}<span
						class={axle.aim_met ? 'text-good' : 'text-fix'}
						title="The brief wants {axle.aim_said}."
					>
						aim <Length mm={axle.aim} signed unit={false} />
						<span class="max-[1150px]:sr-only">{axle.aim_met ? 'met' : 'missed'}</span>
					</span>{/if}
			</div>
			<div class="flex items-baseline gap-2 whitespace-nowrap">
				<span
					class="text-[30px] leading-9 font-bold whitespace-nowrap max-[1150px]:text-[25px]"
					data-testid="rise-{name}"><Length mm={axle.rise} signed /></span
				>
				<span class="text-quiet text-base">± {plusMinus(axle.plus_minus, settings.units)}</span>
				{#if axle.aim !== null}<Verdict met={axle.aim_met} />{/if}
			</div>
		</div>
	{/each}
	<div class="min-w-0 overflow-hidden px-3 py-1.5 whitespace-nowrap max-[1150px]:px-2">
		<div class="label flex justify-between whitespace-nowrap">
			<span>Rake change</span>{#if judged}<span class="figure">≤ {number(rakeMax, 1)}°</span>{/if}
		</div>
		<span
			class="figure text-[24px] leading-9 max-[1150px]:text-[20px] font-bold {prediction.rake_within
				? ''
				: 'text-fix'}">{number(Math.abs(prediction.pitch_change_deg), 2)}°</span
		>
		{#if Math.abs(prediction.pitch_change_deg) >= 0.005}<span class="text-quiet"
				>nose {prediction.pitch_change_deg > 0 ? 'down' : 'up'}</span
			>{/if}
	</div>
	<div class="min-w-0 overflow-hidden px-3 py-1.5 whitespace-nowrap max-[1150px]:px-2">
		<div class="label relative whitespace-nowrap">
			<span>Ride, front / rear</span>
			<Computing />
		</div>
		<span class="figure text-[18px] leading-9 max-[1150px]:text-[15px] font-bold"
			>{number(prediction.front.frequency_after, 2)} / {number(prediction.rear.frequency_after, 2)}</span
		>
		<span
			class="text-quiet"
			title="before: {number(prediction.front.frequency_before, 2)} / {number(
				prediction.rear.frequency_before,
				2
			)}">Hz</span
		>
	</div>
</div>
