<script lang="ts">
	import type { Snippet } from 'svelte';
	import type { Schemas } from '../api/client';
	import { number } from '../format';
	import Plot, { type Mark, type Series } from './Plot.svelte';

	/** Curves of a part, one of them drawn, with where it stands and where the slider has it. */
	let {
		curves,
		chosen = $bindable(),
		axis,
		xLabel,
		of,
		stands,
		drawn,
		fine = 0,
		beside
	}: {
		curves: readonly Schemas['Curve'][];
		/** Name of the curve that is drawn. */
		chosen: string;
		/** What a curve is over, a value for each of its own. */
		axis: (curve: Schemas['Curve']) => readonly number[];
		xLabel: (curve: Schemas['Curve']) => string;
		/** What the curve is of, for people who cannot see it. */
		of: string;
		/** Where it stands, and how that is called. */
		stands: (curve: Schemas['Curve']) => { x: number; word: string };
		/** Which value the drawing is at, and how that is called; none where it stands. */
		drawn?: (curve: Schemas['Curve']) => { at: number; word: string } | undefined;
		/** Digits of a length. */
		fine?: number;
		/** Beside the choice of the curve. */
		beside?: Snippet;
	} = $props();

	const picked = $derived(curves.find((c) => c.name === chosen) ?? curves[0]);
	const digits = $derived(picked?.unit === 'N' ? 0 : picked?.unit === 'mm' ? fine : 2);
	const told = (v: number, unit: string) => `${number(v, digits)}${unit === '°' ? unit : unit && ` ${unit}`}`;
	const series = $derived.by<Series[]>(() => {
		if (!picked) return [];
		// Where there is no position there is no value: the line leaves it out.
		const kept = axis(picked).flatMap((x, i) => {
			const y = picked.values[i];
			return y === null || y === undefined ? [] : [[x, y] as const];
		});
		return kept.length
			? [{ label: picked.name, x: kept.map((p) => p[0]), y: kept.map((p) => p[1]), look: 'scribe' }]
			: [];
	});
	const marks = $derived.by<Mark[]>(() => {
		if (!picked || picked.at_baseline === null) return [];
		const { x, word } = stands(picked);
		const found: Mark[] = [
			{ x, y: picked.at_baseline, label: `${word} ${told(picked.at_baseline, picked.unit)}`, look: 'chalk' }
		];
		const here = drawn?.(picked);
		const value = here && picked.values[here.at];
		if (here && value !== null && value !== undefined)
			found.push({
				x: axis(picked)[here.at] ?? 0,
				y: value,
				label: `${here.word} ${told(value, picked.unit)}`,
				look: 'scribe'
			});
		return found;
	});
</script>

<div class="panel flex min-h-0 min-w-0 flex-col overflow-hidden p-1">
	<div class="flex items-center gap-1 px-1">
		<select
			class="field min-h-7 w-auto min-w-0 flex-1 py-0"
			aria-label="Curve"
			value={picked?.name}
			onchange={(e) => (chosen = e.currentTarget.value)}
		>
			{#each curves as c (c.name)}<option value={c.name}>{c.name}{c.unit ? `, ${c.unit}` : ''}</option>{/each}
		</select>
		{@render beside?.()}
	</div>
	<div class="min-h-0 flex-1">
		{#if picked && series.length}<Plot
				{series}
				{marks}
				xLabel={xLabel(picked)}
				yLabel=""
				{digits}
				label="{picked.name} {of}"
			/>{/if}
	</div>
</div>
