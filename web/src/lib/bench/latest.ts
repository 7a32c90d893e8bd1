/**
 * Runs one request at a time and keeps only the newest wish in between: what a slider needs.
 * Answers come in the order they were asked for, so the screen never goes backwards.
 */
export class Latest<Wish, Answer> {
	#running = false;
	#next: Wish | undefined;

	constructor(
		private ask: (wish: Wish) => Promise<Answer>,
		private told: (answer: Answer) => void,
		private busy: (busy: boolean) => void = () => {}
	) {}

	wish(wish: Wish) {
		this.#next = wish;
		if (!this.#running) void this.#run();
	}

	async #run() {
		this.#running = true;
		this.busy(true);
		try {
			while (this.#next !== undefined) {
				const wish = this.#next;
				this.#next = undefined;
				this.told(await this.ask(wish));
			}
		} finally {
			this.#running = false;
			this.busy(false);
		}
	}
}
