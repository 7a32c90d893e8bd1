import { api, sentence, type AxleName, type Schemas } from '../api/client';
import { Latest } from '../bench/latest';

export type Axle = Schemas['Axle'];
export type AxleBench = Schemas['AxleBench'];
export type Place = [number, number, number];
export type Vehicle = Schemas['Vehicle'];

export type Side = 'left' | 'right';
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

const SAVE_AFTER_MS = 700;
const STEPS_KEPT = 100;

/**
 * One vehicle on the bench: its document, what the core makes of each axle, and its way to the database.
 * The axle on the screen is the fitted one; what was typed is kept in it, so that undo brings both back.
 */
export class VehicleBench {
	vehicle = $state.raw<Vehicle>() as Vehicle;
	owner = '';
	id = 0;
	version = 1;
	front = $state.raw<AxleBench>();
	rear = $state.raw<AxleBench>();
	trouble = $state<Record<AxleName, string>>({ front: '', rear: '' });
	saving = $state<'saved' | 'waiting' | 'saving' | 'unsaved'>('saved');
	saveTrouble = $state('');
	#past = $state.raw<Vehicle[]>([]);
	#future = $state.raw<Vehicle[]>([]);
	#timer: ReturnType<typeof setTimeout> | undefined;
	#lastWrite: Promise<unknown> = Promise.resolve();
	#benches: Record<AxleName, { wish: (axle: Axle) => void }>;

	constructor(id: number, view: Schemas['VehicleView']) {
		this.id = id;
		this.vehicle = view.vehicle;
		this.owner = view.owner;
		this.version = view.version;
		const kept = localStorage.getItem(this.#key);
		if (kept) {
			const { version, vehicle } = JSON.parse(kept);
			this.vehicle = vehicle;
			this.version = version;
			this.#saveSoon();
		}
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
				if (this.vehicle[end] === axle)
					this.vehicle = { ...this.vehicle, [end]: (data as AxleBench).fit.axle };
			});
		this.#benches = { front: made('front'), rear: made('rear') };
		this.compute('front');
		this.compute('rear');
	}

	get undoable() {
		return this.#past.length > 0;
	}
	get redoable() {
		return this.#future.length > 0;
	}

	bench(end: AxleName): AxleBench | undefined {
		return this[end];
	}

	compute(end: AxleName) {
		this.#benches[end].wish(this.vehicle[end]);
	}

	/** Another axle on the screen: remembered for undo, unless it goes on with the same drag. */
	change(end: AxleName, axle: Axle, goesOn = false) {
		if (!goesOn) this.#remember();
		this.vehicle = { ...this.vehicle, [end]: axle };
		this.compute(end);
		this.#saveSoon();
	}

	/** Another field of the vehicle itself. */
	rename(fields: Partial<Vehicle>) {
		this.#remember();
		this.vehicle = { ...this.vehicle, ...fields };
		this.#saveSoon();
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

	undo() {
		const before = this.#past.at(-1);
		if (!before) return;
		this.#past = this.#past.slice(0, -1);
		this.#future = [this.vehicle, ...this.#future];
		this.#show(before);
	}

	redo() {
		const [next, ...rest] = this.#future;
		if (!next) return;
		this.#future = rest;
		this.#past = [...this.#past, this.vehicle];
		this.#show(next);
	}

	/** Save now what waits. True when everything is saved. */
	async flush(): Promise<boolean> {
		clearTimeout(this.#timer);
		if (this.saving === 'saved') return true;
		const turn = this.#lastWrite.then(() => this.#save());
		this.#lastWrite = turn.catch(() => undefined);
		await turn;
		return (this.saving as string) === 'saved';
	}

	#show(vehicle: Vehicle) {
		this.vehicle = vehicle;
		this.compute('front');
		this.compute('rear');
		this.#saveSoon();
	}

	#remember() {
		this.#past = [...this.#past, this.vehicle].slice(-STEPS_KEPT);
		this.#future = [];
	}

	#saveSoon() {
		this.saving = 'waiting';
		localStorage.setItem(this.#key, JSON.stringify({ version: this.version, vehicle: this.vehicle }));
		clearTimeout(this.#timer);
		this.#timer = setTimeout(() => void this.flush(), SAVE_AFTER_MS);
	}

	async #save() {
		const vehicle = this.vehicle;
		this.saving = 'saving';
		try {
			const { data, error } = await api.PUT('/api/vehicles/{vehicle_id}', {
				params: { path: { vehicle_id: this.id } },
				body: { version: this.version, vehicle }
			});
			if (data) {
				this.version = data.version;
				this.saveTrouble = '';
				if (this.vehicle === vehicle) {
					this.saving = 'saved';
					localStorage.removeItem(this.#key);
				} else this.#saveSoon();
			} else {
				this.saving = 'unsaved';
				this.saveTrouble = sentence(error);
			}
		} catch {
			this.saving = 'unsaved';
			this.saveTrouble = sentence(undefined);
			this.#timer = setTimeout(() => void this.flush(), 4000);
		}
	}

	get #key() {
		return `unsaved:vehicle:${this.id}`;
	}
}
