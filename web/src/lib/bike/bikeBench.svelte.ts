import { getContext, setContext } from 'svelte';
import { api, sentence, type Schemas } from '../api/client';
import { JobBench, type Saveable } from '../bench/jobBench.svelte';
import { withPoint, type Place } from './rearPoints';

export type BikeJob = Schemas['BikeJob'];
export type BikePrediction = Schemas['BikePrediction'];
export type End = 'front' | 'rear';
export type Condition = 'extended' | 'unladen' | 'laden' | 'full';

const SAVES = {
	brief: '/api/bike-jobs/{job_id}/brief',
	measure: '/api/bike-jobs/{job_id}/measure',
	plan: '/api/bike-jobs/{job_id}/plan',
	align: '/api/bike-jobs/{job_id}/align',
	prove: '/api/bike-jobs/{job_id}/prove'
} as const;

/** A job on two wheels. */
export class BikeBench extends JobBench<BikeJob, BikePrediction> {
	/** Why a sag that was dragged or typed cannot be set. */
	sagTrouble = $state('');

	constructor(view: Schemas['BikeJobView']) {
		super(view, {
			read: (id) => api.GET('/api/bike-jobs/{job_id}', { params: { path: { job_id: id } } }),
			save: (id, stage, version, section) =>
				api.PUT(SAVES[stage], {
					params: { path: { job_id: id } },
					body: { version, section: section as never }
				}),
			predict: (job) => api.POST('/api/bike/predict', { body: job })
		});
	}

	override change<S extends Saveable>(stage: S, section: BikeJob[S]) {
		this.sagTrouble = '';
		super.change(stage, section);
	}

	override undo() {
		this.sagTrouble = '';
		super.undo();
	}

	/** The machine as it was found, or as it was set up. */
	get machine(): Schemas['Bike'] {
		return (this.job.measure.machine ?? this.job.vehicle) as Schemas['Bike'];
	}

	/** A point of the rear end put elsewhere on the machine as it was found; readings still pull on it. */
	movePoint(name: string, to: Place) {
		const machine = { ...this.machine, rear: withPoint(this.machine.rear, name, to) };
		this.change('measure', { ...this.job.measure, machine } as BikeJob['measure']);
	}

	/** Put the changes of a cure on the plan. */
	plan(changes: BikeJob['plan']['changes']) {
		this.change('plan', { ...this.job.plan, changes });
	}

	/** Set the preload, or the spacers, for a laden sag. */
	async setSag(end: End, sag: number) {
		const { data, error } = await api
			.POST('/api/bike/sag', { body: { job: this.job, end, sag_mm: sag } })
			.catch(() => ({ data: undefined, error: undefined }));
		this.sagTrouble = data ? '' : sentence(error);
		if (data) this.plan(data.changes);
	}
}

const KEY = Symbol('bike');
export const putBike = (bench: () => BikeBench) => setContext(KEY, bench);
export const theBike = (): BikeBench => getContext<() => BikeBench>(KEY)();

/** What the screen looks at. */
class BikeView {
	condition = $state<Condition>('laden');
	instrument = $state<'leverage' | 'rear' | 'fork' | 'chain' | 'path'>('leverage');
	/** Points between which a calliper is held. */
	tape = $state.raw<string[]>([]);
	/** The point in hand. */
	chosen = $state('');
}
export const bikeView = new BikeView();
