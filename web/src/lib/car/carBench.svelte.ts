import { api, ask, type AxleName, type Job, type Prediction, type Schemas, type Side } from '../api/client';
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

export type Look = 'whole' | 'side' | 'behind' | 'above';
/** What the screen looks at. */
class CarView {
	instrument = $state<'springs' | 'angles'>('springs');
	/** From where each stage looks, and whether at all of it: what was chosen there stays. */
	looks = $state<Record<string, Look>>({ align: 'behind', build: 'side' });
	whose = $state<'planned' | 'found'>('planned');
	/** The reading whose field has the focus: its tape is lit in the drawing. */
	tape = $state.raw<{ axle?: AxleName; side: Side; quantity: string; station?: string }>();
}
export const carView = new CarView();
