import { api, ask, type Job, type Prediction, type Schemas } from '../api/client';
import { theBench } from '../bench/context.svelte';
import { JobBench } from '../bench/jobBench.svelte';
import { Latest } from '../bench/latest';

/** A job on four wheels, with its alignment beside its prediction. */
export class CarBench extends JobBench<Job, Prediction> {
	alignment = $state.raw<Schemas['Alignment']>();
	/** Why there is no alignment of the job as it stands. */
	alignTrouble = $state('');
	#align = new Latest(
		(job: Job) => ask(api.POST('/api/align', { body: job })),
		({ data, trouble }) => {
			if (data) this.alignment = data;
			this.alignTrouble = trouble;
		}
	);

	computeAlignment() {
		this.#align.wish(this.job);
	}
}
export const theCar = () => theBench<CarBench>();

/** What the screen looks at. */
class CarView {
	instrument = $state<'springs' | 'angles' | 'end'>('springs');
}
export const carView = new CarView();
