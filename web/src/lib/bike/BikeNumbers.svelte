<script lang="ts">
	import { number, plusMinus } from '../format';
	import { settings } from '../settings.svelte';
	import Computing from '../bench/Computing.svelte';
	import Length from '../ui/Length.svelte';
	import Verdict from '../ui/Verdict.svelte';
	import { theBike, type BikePrediction } from './bikeBench.svelte';

	const bench = theBike();
	const p = $derived(bench.prediction as BikePrediction);
	const computing = $derived(bench.computing);
	const both = $derived(p.reach.both_missing_after_mm);
	const one = $derived(p.reach.one_missing_after_mm);
	const kept = $derived(p.steering.kept);
</script>

<div class="panel grid grid-cols-[1.15fr_1fr_1fr_1fr] divide-x divide-(--rule)" aria-busy={computing}>
	<div class="min-w-0 overflow-hidden px-3 py-1.5 whitespace-nowrap max-[1150px]:px-2">
		<div class="label flex justify-between">
			<span>Rear drops</span>
			{#if p.aim_mm === null}<span data-testid="aim">no aim</span>{:else}<span
					data-testid="aim"
					class={p.aim_met ? 'text-good' : 'text-fix'}
					>aim <Length mm={p.aim_mm} signed unit={false} />
					<span class="max-[1150px]:sr-only">{p.aim_met ? 'met' : 'missed'}</span></span
				>{/if}
		</div>
		<div class="flex items-baseline gap-2">
			<span class="text-[30px] leading-9 font-bold max-[1150px]:text-[25px]" data-testid="rear-drop"
				><Length mm={p.rear_drop_mm} signed /></span
			>
			<span class="text-quiet text-base">± {plusMinus(p.plus_minus_mm, settings.units)}</span>
			{#if p.aim_mm !== null}<Verdict met={p.aim_met} />{/if}
		</div>
	</div>
	<div class="min-w-0 overflow-hidden px-3 py-1.5 whitespace-nowrap max-[1150px]:px-2">
		<div class="label flex justify-between">
			<span>Trail</span><span class={kept ? 'text-good' : 'text-fix'}
				>{kept ? '✓ as it was' : `was ${number(p.steering.trail_before_mm, 1)}`}</span
			>
		</div>
		<span class="figure text-[24px] leading-9 font-bold max-[1150px]:text-[20px]" data-testid="trail"
			>{number(p.steering.trail_after_mm, 1)}</span
		> <span class="text-quiet">mm</span>
	</div>
	<div class="min-w-0 overflow-hidden px-3 py-1.5 whitespace-nowrap max-[1150px]:px-2">
		<div class="label flex justify-between">
			<span class="min-w-0 truncate">Seat, rider on</span><span class="pl-1.5"
				>was {number(p.reach.seat_before_mm, 0)}</span
			>
		</div>
		<span class="figure text-[24px] leading-9 font-bold max-[1150px]:text-[20px]" data-testid="seat"
			>{number(p.reach.seat_after_mm, 0)}</span
		> <span class="text-quiet">mm</span>
	</div>
	<div class="min-w-0 overflow-hidden px-3 py-1.5 whitespace-nowrap max-[1150px]:px-2">
		<div class="label relative">
			<span>Feet</span>
			<Computing />
		</div>
		{#if both === null || one === null}
			<span class="text-quiet">inseam not given</span>
		{:else}
			<span class="block leading-tight" data-testid="reach"
				>both <strong class="figure {both <= 0 ? 'text-good' : ''}"
					>{both <= 0 ? 'flat' : `${number(both, 0)} mm short`}</strong
				></span
			>
			<span class="block leading-tight"
				>one <strong class="figure {one <= 0 ? 'text-good' : ''}"
					>{one <= 0 ? 'flat' : `${number(one, 0)} mm short`}</strong
				></span
			>
		{/if}
	</div>
</div>
