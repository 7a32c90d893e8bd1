<script lang="ts" generics="C">
	import type { Schemas } from '../api/client';
	import { length, number } from '../format';
	import { settings } from '../settings.svelte';
	import Offer, { type Answered } from '../ui/Offer.svelte';
	import Severity from '../ui/Severity.svelte';

	type Finding = Omit<Schemas['Finding'], 'cures'> & { cures: { title: string; changes: C }[] };
	let {
		prediction,
		of,
		oncure
	}: {
		prediction: { findings: Finding[]; unmeasured: string[]; stopped: boolean };
		/** The bench its cures are of. */
		of: Answered;
		oncure: (changes: C) => void;
	} = $props();
	const findings = $derived(prediction.findings);
	const unmeasured = $derived(prediction.unmeasured);
	const overridden = $derived(!prediction.stopped && findings.some((f) => f.severity === 'stops'));
	const plain = (f: Finding, value: number) =>
		f.unit === 'mm' ? length(value, settings.units, { digits: 1 }) : number(value, 2);
	const figure = (f: Finding, value: number) =>
		f.unit === 'mm'
			? `${length(value, settings.units, { digits: 1 })} ${settings.units}`
			: `${number(value, 2)}${f.unit === 'deg' ? '°' : ` ${f.unit}`}`;
</script>

<section class="panel flex h-full min-h-0 flex-col" aria-label="Findings">
	<h2 class="border-rule flex items-center justify-between border-b px-3 py-1.5">
		<span class="head">Findings</span>
		{#if prediction.stopped}
			<span class="text-stops font-bold"
				><span class="text-[24px] leading-7">Stopped</span>: not to be built like this</span
			>
		{:else if overridden}
			<span class="text-fix font-bold">Built on a written override</span>
		{:else}
			<span class="text-quiet"
				>{findings.length
					? 'worst first'
					: unmeasured.length
						? 'nothing found, not all measured'
						: 'nothing in the way'}</span
			>
		{/if}
	</h2>
	<ul class="min-h-0 flex-1 overflow-y-auto">
		{#each findings as f, n (n)}
			<li class="border-rule border-b px-3 py-1.5" data-finding={f.id}>
				<div class="flex gap-2">
					<Severity severity={f.severity} />
					<div class="min-w-0 flex-1">
						<div class="flex flex-wrap justify-between gap-x-3">
							<span class="min-w-[130px] flex-1 font-semibold">{f.what}</span>
							{#if f.severity !== 'know' && f.unit}
								<span class="figure shrink-0 font-bold" title="limit: {f.source}"
									>{plain(f, f.value)}<span class="text-quiet font-normal">&nbsp;/ {figure(f, f.limit)}</span
									></span
								>
							{/if}
						</div>
						<p class="text-quiet text-[13px]">{f.why}</p>
						{#if !f.ways_sought}
							<p class="text-quiet mt-1 flex min-h-7 items-center text-[13px]">
								Ways to this height are looked for once you let go.
							</p>
						{:else if f.cures.length}
							<div class="mt-1 flex flex-wrap gap-1.5">
								{#each f.cures as cure, m (m)}
									<Offer {of} class="min-h-7 px-2 text-[13px]" onclick={() => oncure(cure.changes)}
										>{cure.title}</Offer
									>
								{/each}
							</div>
						{/if}
					</div>
				</div>
			</li>
		{:else}
			<li class="text-quiet p-3">The plan keeps every limit it was checked against.</li>
		{/each}
		{#if unmeasured.length}
			<li class="p-3 text-[13px]" data-testid="unmeasured">
				<span class="font-semibold">Checked against usual numbers of this kind, not measured</span>
				{#each unmeasured as said (said)}
					<p class="text-quiet">{said}</p>
				{/each}
			</li>
		{/if}
	</ul>
</section>
