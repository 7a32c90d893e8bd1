import { api, sentence, type Job, type Prediction, type Schemas, type StageName } from '../api/client';
import { Latest } from './latest';

export type Conflict = { stage: StageName; sentence: string; theirs: unknown; version: number; by: string };
export type SaveState = 'saved' | 'waiting' | 'saving' | 'unsaved';

const SAVE_AFTER_MS = 700;
const SAVES = {
	brief: '/api/jobs/{job_id}/brief',
	measure: '/api/jobs/{job_id}/measure',
	plan: '/api/jobs/{job_id}/plan',
	align: '/api/jobs/{job_id}/align',
	prove: '/api/jobs/{job_id}/prove'
} as const;
type Saveable = keyof typeof SAVES;

/**
 * One job on the bench: its document as it stands on the screen, the prediction that follows from it,
 * and its way to the database. Nothing typed is lost: unsaved stages are kept in this browser until saved.
 */
export class Bench {
	job = $state.raw<Job>() as Job;
	versions = $state.raw<Record<string, number>>({});
	history = $state.raw<Schemas['HistoryEntry'][]>([]);
	prediction = $state.raw<Prediction>();
	alignment = $state.raw<Schemas['Alignment']>();
	trouble = $state('');
	computing = $state(false);
	saving = $state<SaveState>('saved');
	saveTrouble = $state('');
	conflict = $state.raw<Conflict>();

	// Nothing is drawn from it, so it need not be reactive.
	// eslint-disable-next-line svelte/prefer-svelte-reactivity
	#dirty = new Set<Saveable>();
	#timer: ReturnType<typeof setTimeout> | undefined;
	#lastWrite: Promise<unknown> = Promise.resolve();
	// The last good answer stays on the screen while the next is computed, and when it cannot be.
	#predict = new Latest(
		(job: Job) =>
			api.POST('/api/predict', { body: job }).catch(() => ({ data: undefined, error: undefined })),
		({ data, error }) => {
			if (data) this.prediction = data as Prediction;
			this.trouble = data ? '' : sentence(error);
		},
		(busy) => (this.computing = busy)
	);
	#align = new Latest(
		(job: Job) => api.POST('/api/align', { body: job }).catch(() => ({ data: undefined })),
		({ data }) => {
			if (data) this.alignment = data as Schemas['Alignment'];
		}
	);

	constructor(view: Schemas['JobView']) {
		this.job = view.job;
		this.versions = view.versions;
		this.history = view.history;
		for (const stage of Object.keys(SAVES) as Saveable[]) {
			const kept = localStorage.getItem(this.#key(stage));
			if (!kept) continue;
			const { version, section } = JSON.parse(kept);
			this.job = { ...this.job, [stage]: section };
			this.versions = { ...this.versions, [stage]: version };
			this.#dirty.add(stage);
		}
		if (this.#dirty.size) this.#saveSoon();
		this.compute();
	}

	/** Put a stage's new content on the screen, recompute, and save it shortly. */
	change<S extends Saveable>(stage: S, section: Job[S]) {
		this.job = { ...this.job, [stage]: section };
		localStorage.setItem(
			this.#key(stage),
			JSON.stringify({ version: this.versions[stage], section: this.job[stage] })
		);
		this.#dirty.add(stage);
		this.compute();
		this.#saveSoon();
	}

	compute() {
		this.#predict.wish(this.job);
	}

	computeAlignment() {
		this.#align.wish(this.job);
	}

	/** Save now what waits. True when everything is saved. */
	async flush(): Promise<boolean> {
		clearTimeout(this.#timer);
		for (const stage of [...this.#dirty]) await this.#inTurn(() => this.#save(stage));
		return this.#dirty.size === 0;
	}

	/** After a conflict: take what the other person saved. */
	takeTheirs() {
		if (!this.conflict) return;
		const { stage, theirs, version } = this.conflict;
		localStorage.removeItem(this.#key(stage));
		this.#dirty.delete(stage as Saveable);
		this.job = { ...this.job, [stage]: theirs };
		this.versions = { ...this.versions, [stage]: version };
		this.conflict = undefined;
		this.saving = 'saved';
		this.compute();
	}

	/** After a conflict: save mine on top of what the other person saved. */
	async saveMine() {
		if (!this.conflict) return;
		const { stage, version } = this.conflict;
		this.versions = { ...this.versions, [stage]: version };
		this.conflict = undefined;
		await this.#inTurn(() => this.#save(stage as Saveable));
	}

	/**
	 * Do something that the server stamps with time and person, on the version the last write left.
	 * Gives what went wrong, empty when nothing did.
	 */
	stamp(
		stage: StageName,
		act: (version: number) => Promise<{ data?: unknown; error?: unknown; response: Response }>
	): Promise<string> {
		return this.#inTurn(async () => {
			try {
				const { data, error, response } = await act(this.versions[stage] ?? 1);
				if (data) await this.#read();
				else if (response.status === 409) this.#conflicted(stage, error);
				return data ? '' : sentence(error);
			} catch {
				return sentence(undefined);
			}
		});
	}

	/** Fetch what the server has. */
	refresh() {
		return this.#inTurn(() => this.#read());
	}

	/** What the server has; what still waits to be saved stays as it is on the screen. */
	async #read() {
		const { data } = await api.GET('/api/jobs/{job_id}', { params: { path: { job_id: this.job.id } } });
		if (!data) return;
		const mine = Object.fromEntries([...this.#dirty].map((stage) => [stage, this.job[stage]]));
		const read = Object.fromEntries([...this.#dirty].map((stage) => [stage, this.versions[stage] ?? 1]));
		this.job = { ...(data.job as Job), ...mine };
		this.versions = { ...data.versions, ...read };
		this.history = data.history;
		this.compute();
	}

	/** One write at a time: the next one needs the version the last one made, or we would clash with ourselves. */
	#inTurn<T>(write: () => Promise<T>): Promise<T> {
		const turn = this.#lastWrite.then(write);
		this.#lastWrite = turn.catch(() => undefined);
		return turn;
	}

	#saveSoon() {
		this.saving = 'waiting';
		clearTimeout(this.#timer);
		this.#timer = setTimeout(() => void this.flush(), SAVE_AFTER_MS);
	}

	async #save(stage: Saveable) {
		if (!this.#dirty.has(stage) || this.conflict) return;
		const section = this.job[stage];
		this.saving = 'saving';
		try {
			const { data, error, response } = await api.PUT(SAVES[stage], {
				params: { path: { job_id: this.job.id } },
				body: { version: this.versions[stage] ?? 1, section: section as never }
			});
			if (data) {
				this.versions = { ...this.versions, [stage]: data.version };
				if (this.job[stage] === section) {
					this.#dirty.delete(stage);
					localStorage.removeItem(this.#key(stage));
				}
				this.saving = this.#dirty.size ? 'waiting' : 'saved';
				this.saveTrouble = '';
				if (this.#dirty.size) this.#saveSoon();
			} else {
				this.saving = 'unsaved';
				if (response.status === 409) this.#conflicted(stage, error);
				else this.saveTrouble = sentence(error);
			}
		} catch {
			this.saving = 'unsaved';
			this.saveTrouble = sentence(undefined);
			this.#timer = setTimeout(() => void this.flush(), 4000);
		}
	}

	#conflicted(stage: StageName, error: unknown) {
		this.conflict = { stage, ...(error as Omit<Conflict, 'stage'>) };
	}

	#key(stage: string) {
		return `unsaved:${this.job.id}:${stage}`;
	}
}
