import { getContext, setContext } from 'svelte';
import type { AxleName } from '../api/client';
import type { AnyBench } from './jobBench.svelte';

const KEY = Symbol('bench');

export const putBench = (bench: () => AnyBench) => setContext(KEY, bench);
/** The bench of the job that is open; whoever asks knows its kind. */
export const theBench = <B extends AnyBench>(): B => getContext<() => B>(KEY)();

/** What the screen is looking at, shared between drawing, instruments and stage panels. */
class View {
	axle = $state<AxleName>('front');
	/** An axle taken to a rise, mm: the ways to it are asked for. */
	wanted = $state.raw<{ axle: AxleName; rise: number }>();
	/** Whether the photograph lies behind the drawing, where there is one. */
	photograph = $state(true);
	history = $state(false);
	palette = $state(false);
	/** Why a change asked for from elsewhere was not put on the stack. */
	trouble = $state('');
}
export const view = new View();
