import { passes } from '../bench/drafts';
import { Retry } from '../bench/retry.svelte';
import type { SaveState } from '../bench/saved.svelte';

/**
 * Texts on the screen that are not what they say yet: those being read just now, and those that nobody could read,
 * because nobody answered. While there are any, not all is saved.
 */
export const unread = $state({ reading: 0, texts: 0 });
// Nothing is drawn from it, so it need not be reactive.
// eslint-disable-next-line svelte/prefer-svelte-reactivity
const reads = new Set<Promise<void>>();

/** Read a text: whoever goes by what was typed waits until it is what it says. */
export function reading(read: Promise<void>) {
	reads.add(read);
	unread.reading += 1;
	void read.finally(() => {
		reads.delete(read);
		unread.reading -= 1;
	});
}

/** When every text that was being read is read, or refused. */
export async function allRead() {
	while (reads.size) await Promise.allSettled(reads);
}

/** How a document stands, with what is typed in its fields, and what was done on its card. */
export function standing(saving: SaveState, acts: readonly { refused?: string }[] = []): SaveState {
	if (saving !== 'saved') return saving;
	if (unread.texts || acts.some((act) => act.refused)) return 'unsaved';
	return unread.reading || acts.length ? 'waiting' : 'saved';
}

/** What a field does while nobody reads its text: it tries again by itself, and is counted as not saved. */
export class Silence {
	silent = $state(false);
	#retry: Retry;

	constructor(again: () => unknown) {
		this.#retry = new Retry(again);
	}

	/** An answer, a refusal, or neither. */
	heard(asked: { data?: unknown; status?: number }) {
		const silent = !asked.data && passes(asked.status);
		this.#count(silent);
		if (silent) this.#retry.failed(asked.status);
		else this.#retry.done();
	}

	/** The text is gone: read, taken back, or no longer on the screen. */
	over() {
		this.#count(false);
		this.#retry.done();
	}

	#count(silent: boolean) {
		if (silent !== this.silent) unread.texts += silent ? 1 : -1;
		this.silent = silent;
	}
}
export const NOT_READ = 'Not read yet: the bench does not answer.';
