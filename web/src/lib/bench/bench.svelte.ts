import { api, sentence, type Job, type Prediction, type Schemas } from '../api/client';
import { JobBench } from './jobBench.svelte';
import { Latest } from './latest';

const SAVES = {
	brief: '/api/jobs/{job_id}/brief',
	measure: '/api/jobs/{job_id}/measure',
	plan: '/api/jobs/{job_id}/plan',
	align: '/api/jobs/{job_id}/align',
	prove: '/api/jobs/{job_id}/prove'
} as const;

/** A job on four wheels, with its alignment beside its prediction. */
export class Bench extends JobBench<Job, Prediction> {
	alignment = $state.raw<Schemas['Alignment']>();
	/** Why there is no alignment of the job as it stands. */
	alignTrouble = $state('');
	#align = new Latest(
		(job: Job) => api.POST('/api/align', { body: job }),
		({ data, error }) => {
			if (data) this.alignment = data as Schemas['Alignment'];
			this.alignTrouble = data ? '' : sentence(error);
		}
	);

	constructor(view: Schemas['JobView']) {
		super(view, {
			read: (id) => api.GET('/api/jobs/{job_id}', { params: { path: { job_id: id } } }),
			save: (id, stage, version, section) =>
				api.PUT(SAVES[stage], {
					params: { path: { job_id: id } },
					body: { version, section: section as never }
				}),
			predict: (job) => api.POST('/api/predict', { body: job })
		});
	}

	computeAlignment() {
		this.#align.wish(this.job);
	}
}
