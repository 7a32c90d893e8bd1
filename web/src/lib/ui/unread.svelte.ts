import { passes } from '../bench/drafts';
import { Retry } from '../bench/retry.svelte';

/** Texts on the screen that nobody could read yet, because nobody answered: while there are any, not all is saved. */
export const unread = $state({ texts: 0 });

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
