<script lang="ts">
	import type { Schemas } from '../api/client';
	import { number } from '../format';
	import NumberField from '../ui/NumberField.svelte';

	let { bench: b, onsag }: { bench: Schemas['SagBench']; onsag: (sag: number) => void } = $props();

	let tall = $state(180);
	/** From full extension at the top down to full bump. */
	const y = (mm: number) => (mm / b.travel_mm) * (tall - 2) + 1;
	let dragging = $state<number>();
	const shown = $derived(dragging ?? b.laden_mm);
	const name = $derived(b.end === 'rear' ? 'Rear sag' : 'Fork sag');
	const settable = $derived(b.preload_for_target_mm !== null || b.end === 'rear');

	function at(event: PointerEvent): number {
		const box = (event.currentTarget as Element).getBoundingClientRect();
		return Math.min(b.travel_mm - 1, Math.max(1, ((event.clientY - box.top) / box.height) * b.travel_mm));
	}
	function onkeydown(event: KeyboardEvent) {
		const by = { ArrowUp: -1, ArrowDown: 1, PageUp: -5, PageDown: 5 }[event.key];
		if (!by) return;
		event.preventDefault();
		onsag(Math.max(1, Math.round(b.laden_mm) + by));
	}
	/** With nobody aboard there is no laden sag to judge. */
	const judged = $derived(b.verdict !== 'nobody rides it');
</script>

<div class="flex h-full w-[92px] flex-col items-center gap-0.5" data-sag={b.end}>
	<span class="label leading-tight">{name}</span>
	<div class="w-[84px]">
		<NumberField
			value={Math.round(shown * 10) / 10}
			label="{name} with the rider on"
			unit="mm"
			min={0}
			exclusive
			onvalue={(v) => v !== null && onsag(v)}
		/>
	</div>
	<span class="figure font-bold {judged ? (b.laden_ok ? 'text-good' : 'text-fix') : 'text-quiet'}"
		>{number((100 * shown) / b.travel_mm, 0)} % {judged ? (b.laden_ok ? '✓' : '✗') : ''}</span
	>
	<div class="relative min-h-0 w-[64px] flex-1" bind:clientHeight={tall}>
		<svg
			width="64"
			height={tall}
			class="touch-none select-none {settable ? 'cursor-ns-resize' : ''}"
			role="slider"
			tabindex="0"
			aria-label="{name} with the rider on, drag"
			aria-valuenow={Math.round(shown)}
			aria-valuemin="1"
			aria-valuemax={Math.round(b.travel_mm)}
			aria-orientation="vertical"
			{onkeydown}
			onpointerdown={(e) => {
				if (!settable) return;
				e.currentTarget.setPointerCapture(e.pointerId);
				dragging = at(e);
			}}
			onpointermove={(e) => {
				if (dragging === undefined) return;
				dragging = at(e);
				onsag(Math.round(dragging * 2) / 2);
			}}
			onpointerup={() => (dragging = undefined)}
			onpointercancel={() => (dragging = undefined)}
		>
			<rect x="20" y="1" width="16" height={tall - 2} class="travel" />
			<rect
				x="20"
				width="16"
				y={y(b.window.laden_low * b.travel_mm)}
				height={y((b.window.laden_high - b.window.laden_low) * b.travel_mm)}
				class="window"
			/>
			<rect
				x="14"
				width="4"
				y={y(b.window.unladen_low * b.travel_mm)}
				height={y((b.window.unladen_high - b.window.unladen_low) * b.travel_mm)}
				class="window"
			/>
			<line x1="10" x2="36" y1={y(b.unladen_mm)} y2={y(b.unladen_mm)} class="unladen" />
			<text x="40" y={y(b.unladen_mm) + 4}>{number(b.unladen_mm, 0)}</text>
			<line x1="14" x2="44" y1={y(shown)} y2={y(shown)} class="laden" />
			{#if b.laden_measured_mm !== null}<circle
					cx="28"
					cy={y(b.laden_measured_mm)}
					r="3.2"
					class="punch"
				/>{/if}
			{#if b.unladen_measured_mm !== null}<circle
					cx="28"
					cy={y(b.unladen_measured_mm)}
					r="3.2"
					class="punch"
				/>{/if}
			<text x="40" y={tall - 8}>{number(b.travel_mm, 0)}</text>
		</svg>
	</div>
</div>

<style>
	.travel {
		fill: var(--raised);
		stroke: var(--quiet);
	}
	.window {
		fill: var(--good);
		fill-opacity: 0.28;
		stroke: var(--good);
		stroke-width: 1;
	}
	.unladen {
		stroke: var(--quiet);
		stroke-width: 2;
		stroke-dasharray: 4 3;
	}
	.laden {
		stroke: var(--dye);
		stroke-width: 4;
	}
	.punch {
		fill: var(--ink);
		stroke: var(--chalk);
		stroke-width: 1.2;
	}
	text {
		font-size: 13px;
		fill: var(--quiet);
	}
</style>
