import { api, ask, type Asked, type AxleName, type Schemas } from '../api/client';
import { Latest } from '../bench/latest';
import { OnBench } from '../bench/saved.svelte';

export type Axle = Schemas['Axle'];
export type AxleBench = Schemas['AxleBench'];
export type Place = [number, number, number];
export type Vehicle = Schemas['Vehicle'];

export type Side = 'left' | 'right';
/** A reading of the tape: where the tape is held, and the points it is about. */
export type TapeAt = Pick<Schemas['TapeRow'], 'points' | 'line'>;
type Linkage = Axle['linkage'];

/** A linkage with a point elsewhere, and what goes along with it; mirror images only while the axle is even. */
function moved(from: Linkage, point: Schemas['BenchPoint'], to: Place, even: boolean): Linkage {
	const points = { ...(from.points as unknown as Record<string, Place>) };
	for (const name of [point.name, ...point.along]) points[name] = to;
	if (even) for (const name of point.images) points[name] = [to[0], -to[1], to[2]];
	return { ...from, points } as unknown as Linkage;
}

type Drawn = { of: AxleBench; parts: Schemas['BenchDrawn'] };
/** The points are there at once; parts follow when nothing was moved for so long, ms. */
const STILL = 250;

/**
 * A vehicle on four wheels on the bench: its document, what the core makes of each axle, and its way to the database.
 * The axle on the screen is the fitted one; what was typed is kept in it, so that undo brings both back.
 */
export class AxlesBench extends OnBench<Vehicle> {
	front = $state.raw<AxleBench>();
	rear = $state.raw<AxleBench>();
	/** Parts of each end, and the axle they were drawn of: they stand on the screen only with its points. */
	drawn = $state.raw<Partial<Record<AxleName, Drawn>>>({});
	#draw = { front: this.#drawing('front'), rear: this.#drawing('rear') };
	trouble = $state<Record<AxleName, string>>({ front: '', rear: '' });
	#benches: Record<AxleName, { wish: (axle: Axle) => void }>;
	/** What each end was last computed for: work on one end leaves the other alone. */
	#asked: Partial<Record<AxleName, Axle>> = {};

	constructor(id: number, view: Schemas['VehicleView']) {
		super(id, view);
		const bench = async (axle: Axle) => ({ axle, ...(await ask(api.POST('/api/bench', { body: axle }))) });
		const made = (end: AxleName) =>
			new Latest(
				bench,
				({ axle, data, trouble }: Asked<unknown> & { axle: Axle }) => {
					// The last good drawing stays while something is wrong.
					this.trouble = { ...this.trouble, [end]: trouble };
					if (!data) return;
					this[end] = data as AxleBench;
					this.#draw[end].wish(this[end]);
					// What was typed since is not in this answer: it stays, and its own answer is under way.
					if (this.vehicle[end] !== axle) return;
					this.document = { vehicle: { ...this.vehicle, [end]: (data as AxleBench).fit.axle } };
					this.#asked[end] = this.vehicle[end];
				},
				this.busy
			);
		this.#benches = { front: made('front'), rear: made('rear') };
		this.compute();
	}

	#drawing(end: AxleName) {
		return new Latest(
			async (of: AxleBench) => {
				await new Promise((still) => setTimeout(still, STILL));
				if (this[end] !== of) return undefined;
				const { data } = await ask(api.POST('/api/bench/drawn', { body: of.fit.axle }));
				return data && { of, parts: data as Schemas['BenchDrawn'] };
			},
			(came) => {
				if (came) this.drawn = { ...this.drawn, [end]: came };
			}
		);
	}

	/** Parts of an end as it stands on the screen; none while they are still being drawn. */
	drawnOf(end: AxleName): Schemas['BenchDrawn'] | undefined {
		const came = this.drawn[end];
		return came && came.of === this[end] ? came.parts : undefined;
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

	/** Another axle on the screen. */
	setAxle(end: AxleName, axle: Axle) {
		this.replace({ ...this.vehicle, [end]: axle });
	}

	/**
	 * A hardpoint put elsewhere: the prior of the fit moves with it. On an even axle the other side follows.
	 * The sides of an independent axle part when one is moved alone; the right one is drawn as a left one.
	 */
	movePoint(end: AxleName, name: string, to: Place, even: boolean, side: Side = 'left') {
		const axle = this.vehicle[end];
		const whole = this[end];
		const parted = !even && !whole?.coupled;
		const own = parted && side === 'right';
		const point = ((own && whole?.right) || whole)?.points.find((p) => p.name === name);
		if (!point) return;
		const right = (axle.right ?? (parted ? axle.linkage : null)) as Linkage | null;
		if (own && right) {
			this.setAxle(end, { ...axle, right: moved(right, point, to, false) as Axle['right'] });
			return;
		}
		const from = (axle.prior ?? axle.linkage) as Linkage;
		const prior = moved(from, point, to, even) as unknown as Axle['prior'];
		this.setAxle(end, { ...axle, prior, right: right as Axle['right'] });
	}

	/** Both sides alike again: the right wheel's own points are let go. */
	makeEven(end: AxleName) {
		if (this.vehicle[end].right) this.setAxle(end, { ...this.vehicle[end], right: null });
	}
}
