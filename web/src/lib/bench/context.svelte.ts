import { getContext, setContext } from 'svelte';
import type { AxleName } from '../api/client';
import type { Bench } from './bench.svelte';

const KEY = Symbol('bench');

export const putBench = (bench: () => Bench) => setContext(KEY, bench);
export const theBench = (): Bench => getContext<() => Bench>(KEY)();

/** What the screen is looking at, shared between drawing, instruments and stage panels. */
class View {
	axle = $state<AxleName>('front');
	instrument = $state<'springs' | 'angles' | 'end'>('springs');
	/** An axle dragged to a rise, mm: the ways to it are asked for. */
	reach = $state.raw<{ axle: AxleName; rise: number }>();
	history = $state(false);
	palette = $state(false);
	/** Why a change asked for from elsewhere was not put on the stack. */
	trouble = $state('');
}
export const view = new View();
