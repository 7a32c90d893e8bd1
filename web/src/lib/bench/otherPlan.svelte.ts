import { api, ask } from '../api/client';

/** The plan of another job on the same vehicle, as a ghost beside this one. */
export class OtherPlan<P> {
	id = $state('');
	title = $state('');
	prediction = $state.raw<P>();
	trouble = $state('');

	/** Predict another job; none where the id is empty. */
	async choose(id: string) {
		this.id = id;
		this.prediction = undefined;
		this.title = this.trouble = '';
		if (!id) return;
		const stored = await ask(api.GET('/api/jobs/{job_id}', { params: { path: { job_id: id } } }));
		const predicted = stored.data
			? await ask(api.POST('/api/predict', { body: stored.data.job as never }))
			: { trouble: stored.trouble };
		if (this.id !== id) return;
		this.trouble = predicted.trouble;
		this.title = stored.data?.job.title ?? '';
		this.prediction = ('data' in predicted ? predicted.data : undefined) as P | undefined;
	}
}
