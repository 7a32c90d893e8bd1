import { api, sentence, type AxleName, type Schemas } from '../api/client';
import { Latest } from '../bench/latest';
import { SavedDocument } from '../bench/savedDocument.svelte';

export type Axle = Schemas['Axle'];
export type AxleBench = Schemas['AxleBench'];
export type Place = [number, number, number];
export type Vehicle = Schemas['Vehicle'];

export type Side = 'left' | 'right';
/** A reading of the sheet: where the tape is held, and the points it is about. */
export type TapeAt = Pick<Schemas['SheetRow'], 'points' | 'line'>;
type Linkage = Axle['linkage'];

/** A linkage with a point elsewhere; its twin across a whole axle follows when it is to stay even. */
function moved(from: Linkage, name: string, to: Place, even: boolean): Linkage {
	const before = from.points as unknown as Record<string, Place>;
	const points = { ...before, [name]: to };
	const twin = !even
		? ''
		: name.includes('left')
			? name.replace('left', 'right')
			: name.includes('_right') || name.startsWith('right')
				? name.replace('right', 'left')
				: '';
	if (twin && points[twin]) points[twin] = [to[0], -to[1], to[2]];
	const here = before[name];
	for (const [other, at] of Object.entries(before)) {
		// A damper inside its spring goes along.
		if (other !== name && at && here && at.every((v, i) => v === here[i])) points[other] = to;
	}
	return { ...from, points } as unknown as Linkage;
}

/**
 * One vehicle on the bench: its document, what the core makes of each axle, and its way to the database.
 * The axle on the screen is the fitted one; what was typed is kept in it, so that undo brings both back.
 */
export class VehicleBench extends SavedDocument<Vehicle> {
	front = $state.raw<AxleBench>();
	rear = $state.raw<AxleBench>();
	trouble = $state<Record<AxleName, string>>({ front: '', rear: '' });
	#benches: Record<AxleName, { wish: (axle: Axle) => void }>;
	/** What each end was last computed for: work on one end leaves the other alone. */
	#asked: Partial<Record<AxleName, Axle>> = {};

	constructor(id: number, view: Schemas['VehicleView']) {
		super(id, view.owner, view.vehicle, view.version, 'vehicle');
		const ask = async (axle: Axle) => ({
			axle,
			...(await api.POST('/api/bench', { body: axle }).catch(() => ({ data: undefined, error: undefined })))
		});
		const made = (end: AxleName) =>
			new Latest(ask, ({ axle, data, error }) => {
				// The last good drawing stays while something is wrong.
				this.trouble = { ...this.trouble, [end]: data ? '' : sentence(error) };
				if (!data) return;
				this[end] = data as AxleBench;
				// What was typed since is not in this answer: it stays, and its own answer is under way.
				if (this.vehicle[end] !== axle) return;
				this.document = { ...this.vehicle, [end]: (data as AxleBench).fit.axle };
				this.#asked[end] = this.vehicle[end];
			});
		this.#benches = { front: made('front'), rear: made('rear') };
		this.compute();
	}

	get vehicle(): Vehicle {
		return this.document;
	}

	bench(end: AxleName): AxleBench | undefined {
		return this[end];
	}

	override compute() {
		for (const end of ['front', 'rear'] as const) {
			if (this.#asked[end] === this.vehicle[end]) continue;
			this.#asked[end] = this.vehicle[end];
			this.#benches[end].wish(this.vehicle[end]);
		}
	}

	protected override put(version: number, vehicle: Vehicle) {
		return api.PUT('/api/vehicles/{vehicle_id}', {
			params: { path: { vehicle_id: this.id } },
			body: { version, vehicle }
		});
	}

	/** Another axle on the screen: remembered for undo, unless it goes on with the same drag. */
	change(end: AxleName, axle: Axle, goesOn = false) {
		this.replace({ ...this.vehicle, [end]: axle }, goesOn);
	}

	/** Another field of the vehicle itself. */
	rename(fields: Partial<Vehicle>) {
		this.replace({ ...this.vehicle, ...fields });
	}

	/**
	 * A hardpoint put elsewhere: the prior of the fit moves with it. On an even axle the other side follows.
	 * The sides of an independent axle part when one is moved alone; the right one is drawn as a left one.
	 */
	movePoint(end: AxleName, name: string, to: Place, even: boolean, goesOn: boolean, side: Side = 'left') {
		const axle = this.vehicle[end];
		const parted = !even && !this[end]?.coupled;
		const right = (axle.right ?? (parted ? axle.linkage : null)) as Linkage | null;
		if (parted && side === 'right' && right) {
			this.change(end, { ...axle, right: moved(right, name, to, false) as Axle['right'] }, goesOn);
			return;
		}
		const from = (axle.prior ?? axle.linkage) as Linkage;
		const prior = moved(from, name, to, even) as unknown as Axle['prior'];
		this.change(end, { ...axle, prior, right: right as Axle['right'] }, goesOn);
	}

	/** Both sides alike again: the right wheel's own points are let go. */
	makeEven(end: AxleName) {
		if (this.vehicle[end].right) this.change(end, { ...this.vehicle[end], right: null });
	}
}
