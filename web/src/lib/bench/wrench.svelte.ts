import { api, ask, type Schemas } from '../api/client';

const EVERY_MS = 700;

/** The wrench at the hoist, looked at while somebody works there. */
export class Wrench {
	view = $state.raw<Schemas['WrenchView']>({
		state: 'none',
		name: '',
		simulated: false,
		count: 0,
		pulls: []
	});
	#seen: number | undefined;
	#timer: ReturnType<typeof setTimeout> | undefined;
	#over = false;

	/** Look until told to stop; each click since the first look is handed over once. */
	listen(onpull: (pull: Schemas['Pull']) => void): () => void {
		const look = async () => {
			const asked = await ask(api.GET('/api/wrench', { params: { query: { after: this.#seen ?? 0 } } }));
			if (this.#over) return;
			if (asked.data) {
				this.view = asked.data;
				// What was clicked before anybody looked belongs to no step on this screen.
				const first = this.#seen === undefined;
				this.#seen = asked.data.count;
				if (!first) for (const pull of asked.data.pulls) onpull(pull);
			}
			if (this.view.state !== 'none') this.#timer = setTimeout(() => void look(), EVERY_MS);
		};
		void look();
		return () => {
			this.#over = true;
			clearTimeout(this.#timer);
		};
	}
	simulate = (what: Partial<Schemas['Simulate']>) =>
		ask(api.POST('/api/wrench/simulated', { body: { angle_deg: 0, ...what } }));
}
