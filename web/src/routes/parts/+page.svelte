<script lang="ts">
	import { goto } from '$app/navigation';
	import ArrowRight from '@lucide/svelte/icons/arrow-right';
	import { api, ask, type AxleName, type Schemas } from '$lib/api/client';
	import { carry, type Sheet } from '$lib/bench/carriedPart';
	import { allRead } from '$lib/ui/unread.svelte';
	import { number } from '$lib/format';
	import Plot from '$lib/plot/Plot.svelte';
	import { jobsQuery, partsQuery } from '$lib/queries';
	import DocumentForm from '$lib/ui/DocumentForm.svelte';
	import { nodeOf, type Schema } from '$lib/ui/form';
	import ListHead from '$lib/ui/ListHead.svelte';
	import Told from '$lib/ui/Told.svelte';
	import Unopened from '$lib/ui/Unopened.svelte';

	const parts = partsQuery();
	const jobs = jobsQuery(() => '');
	let kind = $state('coil-wire');
	/** Parts as they were typed, by kind: going to another one loses nothing. */
	let typed = $state.raw<Record<string, Sheet>>({});
	const part = $derived(parts.data?.find((p) => p.kind === kind));
	const sheet = $derived(typed[kind] ?? (part?.example as Sheet | undefined));
	const form = $derived(part && nodeOf(part.parameters as Schema));
	let answer = $state.raw<Schemas['BenchAnswer']>();
	let trouble = $state('');
	let asked = 0;
	$effect(() => {
		if (!sheet) return;
		const turn = ++asked;
		void ask(api.POST('/api/part-bench/answer', { body: { sheet } })).then((found) => {
			if (turn !== asked) return;
			trouble = found.trouble;
			if (found.data) answer = found.data;
		});
	});
	function choose(to: string) {
		kind = to;
		answer = undefined;
		trouble = '';
	}
	const told = (value: unknown) =>
		value === null || value === undefined
			? '–'
			: typeof value === 'boolean'
				? value
					? 'yes'
					: 'no'
				: typeof value === 'number'
					? number(
							value,
							Math.abs(value) >= 1000 ? 0 : Number.isInteger(value) ? 0 : Math.abs(value) < 1 ? 3 : 1
						)
					: String(value);
	/** A table of forces is drawn as well. */
	const curves = $derived(
		(answer?.tables ?? []).filter(
			(t) =>
				t.rows.length > 2 &&
				t.columns[1]?.match(/force/i) &&
				t.rows.every((r) => r.every((v) => typeof v === 'number'))
		)
	);
	const rest = $derived((answer?.results ?? []).filter((r) => !answer?.main.some((m) => m.name === r.name)));
	const open = $derived(
		(jobs.data?.pages.flatMap((page) => page.items) ?? []).filter(
			(j) => !j.signed_off && !j.trouble && j.kind === part?.machine
		)
	);
	let job = $state('');
	let axle = $state<AxleName>('rear');
	const into = $derived(open.find((j) => j.id === job)?.id ?? open[0]?.id ?? '');
	async function putIn() {
		await allRead();
		if (!sheet || !into) return;
		carry({ job: into, axle: part?.ends.length ? axle : null, sheet });
		await goto(`/jobs/${into}/plan`);
	}
</script>

<svelte:head><title>Part bench · Inclinum</title></svelte:head>

<main class="mx-auto flex h-screen max-w-[1240px] flex-col px-6 py-5 max-[1150px]:px-3">
	<ListHead here="parts" />
	{#if parts.isPending}
		<p class="text-quiet p-4">Fetching the part bench…</p>
	{:else if parts.isError}
		<Unopened query={parts} />
	{:else}
		<div class="grid min-h-0 flex-1 grid-cols-[196px_minmax(0,1.1fr)_minmax(0,1fr)] gap-3">
			<nav class="panel min-h-0 overflow-y-auto p-1.5" aria-label="Parts">
				{#each parts.data ?? [] as p (p.kind)}
					<button
						class="block min-h-8 w-full rounded-[3px] px-2 py-1 text-left font-semibold {p.kind === kind
							? 'bg-dye text-on-dye'
							: ''}"
						aria-pressed={p.kind === kind}
						onclick={() => choose(p.kind)}>{p.title}</button
					>
				{/each}
			</nav>
			<section class="panel min-h-0 overflow-y-auto p-3" aria-label="What is known of it">
				{#if part && form && sheet}
					<h2 class="head">{part.title}</h2>
					<p class="text-quiet mb-2">
						{part.about} The numbers are an example: type over them.
					</p>
					<DocumentForm
						node={form}
						value={sheet}
						label={part.title}
						onvalue={(to) => (typed = { ...typed, [kind]: to as Sheet })}
					/>
				{/if}
			</section>
			<section class="panel min-h-0 overflow-y-auto p-3" aria-label="What follows">
				{#if part?.machine}
					<div class="border-rule mb-3 border-b pb-3">
						{#if open.length}
							<div class="flex items-end gap-2">
								<label class="min-w-0 flex-1">
									<span class="label block">Into the job</span>
									<select class="field" value={into} onchange={(e) => (job = e.currentTarget.value)}>
										{#each open as j (j.id)}<option value={j.id}>{j.title} · {j.vehicle}</option>{/each}
									</select>
								</label>
								{#if part.ends.length}
									<label class="w-[84px]">
										<span class="label block">axle</span>
										<select class="field" bind:value={axle}>
											{#each part.ends as end (end)}<option>{end}</option>{/each}
										</select>
									</label>
								{/if}
								<button class="btn btn-dye" disabled={!!trouble} onclick={putIn}
									>Plan it <ArrowRight size={16} /></button
								>
							</div>
						{:else}
							<p class="text-quiet">No open job is on a machine that takes it.</p>
						{/if}
					</div>
				{/if}
				<Told sentence={trouble} class="mb-2" />
				{#if answer}
					<dl class="mb-3 grid grid-cols-2 gap-x-4 gap-y-2" aria-label="Main results">
						{#each answer.main as m (m.name)}
							<div>
								<dt class="label leading-tight">{m.name}</dt>
								<dd>
									<span class="figure text-[24px] leading-tight font-bold">{told(m.value)}</span>
									{m.unit}
								</dd>
							</div>
						{/each}
					</dl>
					{#each curves as c (c.name)}
						<div class="mb-3 h-[190px]">
							<Plot
								series={[
									{
										label: c.columns[1] ?? '',
										x: c.rows.map((r) => Number(r[0])),
										y: c.rows.map((r) => Number(r[1])),
										look: 'scribe'
									}
								]}
								xLabel={c.columns[0] ?? ''}
								yLabel={c.columns[1] ?? ''}
								label={c.name}
							/>
						</div>
					{/each}
					{#each answer.tables as t, n (n)}
						<h3 class="head mt-2 mb-1">{t.name}</h3>
						<div class="overflow-x-auto">
							<table class="w-full">
								<thead>
									<tr class="label text-right"
										>{#each t.columns as c, i (i)}<th class={i ? 'pl-2' : 'text-left'}>{c}</th>{/each}</tr
									>
								</thead>
								<tbody class="figure text-right">
									{#each t.rows as row, i (i)}
										<tr class="border-rule border-t">
											{#each row as v, k (k)}<td
													class={k ? 'pl-2' : 'py-0.5 text-left font-sans whitespace-normal'}>{told(v)}</td
												>{/each}
										</tr>
									{/each}
								</tbody>
							</table>
						</div>
					{/each}
					{#if rest.length}
						<h3 class="head mt-3 mb-1">Everything else</h3>
						<table class="w-full">
							<tbody>
								{#each rest as r (r.name)}
									<tr class="border-rule border-t">
										<td class="py-0.5">{r.name}</td>
										<td class="figure text-right font-semibold whitespace-nowrap">{told(r.value)} {r.unit}</td
										>
									</tr>
								{/each}
							</tbody>
						</table>
					{/if}
				{/if}
			</section>
		</div>
	{/if}
</main>
