import { api, ask, type Schemas } from '../api/client';
import { Latest } from '../bench/latest';
import { OnBench } from '../bench/saved.svelte';
import { withPoint, type Place } from './rearPoints';

export type Bike = Schemas['Bike'];
export type BikeBenchView = Schemas['BikeBenchView'];

/** A two-wheeler on the bench: its document, what the core makes of it, and its way to the database. */
export class WholeBench extends OnBench<Bike> {
	view = $state.raw<BikeBenchView>();
	trouble = $state('');
	#bench = new Latest(
		(bike: Bike) => ask(api.POST('/api/bench', { body: bike })),
		({ data, trouble }) => {
			// The last good drawing stays while something is wrong.
			if (data) this.view = data as BikeBenchView;
			this.trouble = trouble;
		},
		(busy) => this.busy(busy)
	);

	constructor(id: number, view: Schemas['VehicleView']) {
		super(id, view);
		this.compute();
	}

	override compute() {
		this.#bench.wish(this.vehicle);
	}

	/** A point of the rear end put elsewhere; readings still pull on it. */
	movePoint(name: string, to: Place) {
		this.set({ rear: withPoint(this.vehicle.rear, name, to) });
	}

	/** A reading by calliper or tape; none takes it back. */
	tape(key: string, reading: Schemas['Length'] | undefined) {
		const others = (this.vehicle.tape ?? []).filter((t) => t.key !== key);
		this.set({ tape: reading ? [...others, { key, reading }] : others });
	}
}
