import { passes, waitBefore } from './drafts';

/** Trying again what nobody answered: soon at first, then rarely; what is refused is left to who typed it. */
export class Retry {
	/** When it is tried again by itself, ms since 1970. */
	at = $state<number>();
	#tries = 0;
	#timer: ReturnType<typeof setTimeout> | undefined;

	constructor(private again: () => unknown) {}

	/** It failed, with that status or without an answer. */
	failed(status: number | undefined) {
		clearTimeout(this.#timer);
		this.at = undefined;
		if (!passes(status)) return;
		const seconds = waitBefore(++this.#tries);
		this.at = Date.now() + seconds * 1000;
		this.#timer = setTimeout(() => void this.again(), seconds * 1000);
	}

	/** It went well, or is tried now. */
	done() {
		clearTimeout(this.#timer);
		this.#tries = 0;
		this.at = undefined;
	}
}
