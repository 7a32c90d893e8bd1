<script lang="ts">
	import { api, ask, type AxleName, type Schemas } from '../api/client';
	import Length from '../ui/Length.svelte';
	import NumberField from '../ui/NumberField.svelte';
	import Told from '../ui/Told.svelte';
	import { unread } from '../ui/unread.svelte';
	import { wingOf } from '../wings';
	import { view } from './context.svelte';
	import type { AnyBench } from './jobBench.svelte';
	import { Latest } from './latest';

	/** Whole plans that bring an end to a height. */
	let { bench }: { bench: AnyBench } = $props();
	type Wish = { job: Schemas['Job']; axle: AxleName; rise: number };
	const AXLES: AxleName[] = ['front', 'rear'];
	let found = $state.raw<Wish & { ways?: Schemas['Way'][]; trouble: string }>();
	const wanted = $derived(view.wanted ?? { axle: view.axle, rise: 0 });
	const wing = $derived(wingOf(bench.kind));
	/** Whether the plan gives that height as it is, to the millimetre. */
	const there = $derived(
		Boolean(bench.prediction) && Math.abs(wing.rise(bench.prediction, wanted.axle) - wanted.rise) < 0.5
	);
	/** Whether the ways shown are still those of a height dragged past, or of a plan as it was before. */
	const stale = $derived(
		found?.axle !== wanted.axle || found?.rise !== wanted.rise || found?.job !== bench.job
	);

	const looking = new Latest(
		async (wish: Wish) => {
			const { data, trouble } = await ask(api.POST('/api/ways', { body: wish }));
			return { ...wish, ways: data as Schemas['Way'][] | undefined, trouble };
		},
		(answer) => (found = answer)
	);
	$effect(() => looking.wish({ job: bench.job, ...wanted }));
	$effect(() => () => (view.wanted = undefined));
	const against = (way: Schemas['Way']) =>
		way.stops
			? `· ${way.stops} stop${way.stops > 1 ? 's' : ''}`
			: way.fixes
				? `· ${way.fixes} to fix`
				: '· clear';
</script>

<div class="border-dye bg-wash mb-3 rounded-[3px] border-2 p-2.5" data-testid="ways">
	<div class="flex items-center justify-between gap-2">
		<h2 class="head">Ways to <Length mm={wanted.rise} signed /> at the {wanted.axle}</h2>
		<button class="btn btn-plain min-h-7 px-2" onclick={() => (view.wanted = undefined)}>Never mind</button>
	</div>
	<div class="mb-1.5 flex items-center gap-2">
		<div class="flex gap-1" role="group" aria-label="End">
			{#each AXLES as axle (axle)}
				<button
					class="min-h-8 rounded-[3px] px-2.5 font-semibold {wanted.axle === axle
						? 'bg-dye text-on-dye'
						: 'bg-chalk text-quiet'}"
					aria-pressed={wanted.axle === axle}
					onclick={() => (view.wanted = { axle, rise: wing.aim(bench.job, axle, bench.prediction) })}
					>{axle}</button
				>
			{/each}
		</div>
		<div class="w-[190px]">
			<NumberField
				value={wanted.rise}
				label="Body rises by"
				prefix="rises by"
				unit="mm"
				min={-2000}
				max={2000}
				onvalue={(rise) => rise !== null && (view.wanted = { ...wanted, rise })}
			/>
		</div>
	</div>
	<Told sentence={found?.trouble ?? ''} class="mt-1" />
	<ul class="mt-1 grid gap-1.5">
		{#each found?.ways ?? [] as way, n (n)}
			<li>
				<button
					class="btn w-full justify-between text-left"
					disabled={stale || unread.reading > 0}
					onclick={() => {
						bench.plan(way.changes);
						view.wanted = undefined;
					}}
				>
					<span>{way.title}</span>
					<span class="shrink-0 {way.stops ? 'text-stops' : 'text-quiet'}">
						<Length mm={way.rise} signed />
						{against(way)}
					</span>
				</button>
			</li>
		{:else}
			{#if !found?.trouble}<li class="text-quiet">
					{found?.ways && !stale
						? there
							? 'The plan stands there as it is.'
							: 'Nothing at this end reaches that height alone.'
						: 'Looking…'}
				</li>{/if}
		{/each}
	</ul>
</div>
