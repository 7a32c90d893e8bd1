import { api, ask, type Schemas } from '../api/client';
import { theBench } from '../bench/context.svelte';
import { hold } from '../bench/hold';
import { JobBench, type Saveable } from '../bench/jobBench.svelte';
import { Latest } from '../bench/latest';
import { withPoint, type Place } from './rearPoints';

export type BikeJob = Schemas['BikeJob'];
export type BikePrediction = Schemas['BikePrediction'];
export type End = 'front' | 'rear';
export type Condition = 'extended' | 'unladen' | 'laden' | 'full';

/** A job on two wheels. */
export class BikeBench extends JobBench<BikeJob, BikePrediction> {
	/** Why a sag that was dragged or typed cannot be set. */
	sagTrouble = $state('');

	override change<S extends Saveable>(stage: S, section: BikeJob[S], during = hold()) {
		this.sagTrouble = '';
		super.change(stage, section, during);
	}

	override undo() {
		this.sagTrouble = '';
		super.undo();
	}

	override get refusal() {
		return this.trouble || this.sagTrouble;
	}

	protected override looked() {
		return { conditions: [bikeView.condition] };
	}

	/** Look at the planned machine in another condition. */
	look(condition: Condition) {
		if (condition === bikeView.condition) return;
		bikeView.condition = condition;
		this.compute();
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

	#sagWanted = { end: 'rear' as End, sag: 0, during: 0 };
	#setting = new Latest(
		async ({ end, sag }: { end: End; sag: number }) => {
			const job = this.job;
			return { job, ...(await ask(api.POST('/api/sag', { body: { job, end, sag_mm: sag } }))) };
		},
		({ job, data, trouble }) => {
			this.sagTrouble = trouble;
			if (!data) return;
			// What was typed meanwhile stays: the sag is set on the plan as it is now.
			if (this.job.plan !== job.plan) this.#setting.wish(this.#sagWanted);
			else this.change('plan', { ...job.plan, changes: data.changes }, this.#sagWanted.during);
		}
	);

	/** Set the preload, or the spacers, for a laden sag; of a drag, what was asked last is what stands in the end. */
	setSag(end: End, sag: number) {
		this.#sagWanted = { end, sag, during: hold() };
		this.#setting.wish(this.#sagWanted);
	}
}
export const theBike = () => theBench<BikeBench>();

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
