import { api, sentence, type Schemas } from '../api/client';
import { Latest } from '../bench/latest';
import { SavedDocument } from '../bench/savedDocument.svelte';
import { withPoint, type Place } from './rearPoints';

export type Bike = Schemas['Bike'];
export type BikeBenchView = Schemas['BikeBenchView'];

/** A two-wheeler on the bench: its document, what the core makes of it, and its way to the database. */
export class MachineBench extends SavedDocument<Bike> {
	view = $state.raw<BikeBenchView>();
	trouble = $state('');
	#bench = new Latest(
		(bike: Bike) =>
			api.POST('/api/bench/bike', { body: bike }).catch(() => ({ data: undefined, error: undefined })),
		({ data, error }: { data?: unknown; error?: unknown }) => {
			// The last good drawing stays while something is wrong.
			if (data) this.view = data as BikeBenchView;
			this.trouble = data ? '' : sentence(error);
		}
	);

	constructor(id: number, view: Schemas['BikeView']) {
		super(id, view.owner, view.bike, view.version, 'bike');
		this.compute();
	}

	get bike(): Bike {
		return this.document;
	}

	override compute() {
		this.#bench.wish(this.document);
	}

	protected override put(version: number, bike: Bike) {
		return api.PUT('/api/bikes/{bike_id}', {
			params: { path: { bike_id: this.id } },
			body: { version, bike }
		});
	}

	/** Fields of the machine put otherwise. */
	change(fields: Partial<Bike>, goesOn = false) {
		this.replace({ ...this.bike, ...fields } as Bike, goesOn);
	}

	/** A point of the rear end put elsewhere; readings still pull on it. */
	movePoint(name: string, to: Place, goesOn = false) {
		this.change({ rear: withPoint(this.bike.rear, name, to) }, goesOn);
	}

	/** A reading by calliper or tape; none takes it back. */
	read(key: string, reading: Schemas['Length'] | undefined) {
		const others = (this.bike.tape ?? []).filter((t) => t.key !== key);
		this.change({ tape: reading ? [...others, { key, reading }] : others });
	}
}
