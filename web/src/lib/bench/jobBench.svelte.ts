import { sentence, type StageName, type Schemas } from '../api/client';
import { drafts } from './drafts';
import { Latest } from './latest';
import { Retry } from './retry.svelte';

export type Conflict = { stage: StageName; sentence: string; theirs: unknown; version: number; by: string };
export type SaveState = 'saved' | 'waiting' | 'saving' | 'unsaved';
export type Saveable = Exclude<StageName, 'build'>;
export const SAVEABLE: Saveable[] = ['brief', 'measure', 'plan', 'align', 'prove'];

type Answer = { data?: unknown; error?: unknown; response: Response };
type Stages = { [S in StageName]: unknown } & { id: string; title: string };
/** How a kind of job is read, saved and computed. */
export type Ways<J> = {
	read: (id: string) => Promise<{ data?: unknown }>;
	save: (id: string, stage: Saveable, version: number, section: unknown) => Promise<Answer>;
	predict: (job: J) => Promise<{ data?: unknown; error?: unknown }>;
};
type View<J> = { job: J; versions: Record<string, number>; history: Schemas['HistoryEntry'][] };

/** Which changes stand on a stack: another one is another step, however quickly it comes. */
const items = (section: unknown) =>
	(section as { changes?: { id: string }[] } | undefined)?.changes?.map((c) => c.id).join() ?? '';

/** A stage as it was. */
type Step = { stage: Saveable; section: unknown; at: number };

const STAGE_WORDS: Record<Saveable, string> = {
	brief: 'Brief',
	measure: 'Measure',
	plan: 'Plan',
	align: 'Align',
	prove: 'Prove'
};
const SAVE_AFTER_MS = 700;
const SAME_DRAG_MS = 150;
const STEPS_KEPT = 100;

/**
 * One job on the bench, of four wheels or two: its document as it stands on the screen, the prediction that follows
 * from it, and its way to the database. Nothing typed is lost: unsaved stages are kept in this browser until saved.
 */
export class JobBench<J extends Stages, P> {
	job = $state.raw<J>() as J;
	versions = $state.raw<Record<string, number>>({});
	history = $state.raw<Schemas['HistoryEntry'][]>([]);
	prediction = $state.raw<P>();
	trouble = $state('');
	computing = $state(false);
	saving = $state<SaveState>('saved');
	saveTrouble = $state('');
	/** Stages that are not saved, in words. */
	unsaved = $state.raw<string[]>([]);
	/** Whether this browser keeps what is not saved. */
	keptHere = $state(true);
	conflict = $state.raw<Conflict>();

	#past = $state.raw<Step[]>([]);
	#future = $state.raw<Step[]>([]);
	#ways: Ways<J>;
	// Nothing is drawn from it, so it need not be reactive.
	// eslint-disable-next-line svelte/prefer-svelte-reactivity
	#dirty = new Set<Saveable>();
	#timer: ReturnType<typeof setTimeout> | undefined;
	#lastWrite: Promise<unknown> = Promise.resolve();
	#retry = new Retry(() => this.flush());
	// The last good answer stays on the screen while the next is computed, and when it cannot be.
	#predict: { wish: (job: J) => void };

	constructor(view: View<J>, ways: Ways<J>) {
		this.#ways = ways;
		this.job = view.job;
		this.versions = view.versions;
		this.history = view.history;
		this.#predict = new Latest(
			(job: J) => ways.predict(job).catch(() => ({ data: undefined, error: undefined })),
			({ data, error }: { data?: unknown; error?: unknown }) => {
				if (data) this.prediction = data as P;
				this.trouble = data ? '' : sentence(error);
			},
			(busy) => (this.computing = busy)
		);
		for (const stage of SAVEABLE) {
			const kept = drafts.kept<{ version: number; section: unknown }>(this.#key(stage));
			if (!kept?.section || typeof kept.section !== 'object') continue;
			this.job = { ...this.job, [stage]: kept.section };
			this.versions = { ...this.versions, [stage]: kept.version };
			this.#dirty.add(stage);
		}
		if (this.#dirty.size) this.#saveSoon();
		this.compute();
	}

	/** Put a stage's new content on the screen, recompute, and save it shortly; it can be undone. */
	change<S extends Saveable>(stage: S, section: J[S]) {
		this.#remember(stage, section);
		this.#put(stage, section);
	}

	get undoable() {
		return this.#past.length > 0;
	}
	get redoable() {
		return this.#future.length > 0;
	}
	undo() {
		const step = this.#past.at(-1);
		if (!step) return;
		this.#past = this.#past.slice(0, -1);
		this.#future = [...this.#future, { stage: step.stage, section: this.job[step.stage], at: 0 }];
		this.#put(step.stage, step.section as J[Saveable]);
	}
	redo() {
		const step = this.#future.at(-1);
		if (!step) return;
		this.#future = this.#future.slice(0, -1);
		this.#past = [...this.#past, { stage: step.stage, section: this.job[step.stage], at: 0 }];
		this.#put(step.stage, step.section as J[Saveable]);
	}

	/** What a stage was before: a drag goes on with the same step. */
	#remember(stage: Saveable, to: unknown) {
		const last = this.#past.at(-1);
		const now = Date.now();
		this.#future = [];
		const goesOn = last && last.stage === stage && now - last.at < SAME_DRAG_MS;
		if (goesOn && items(this.job[stage]) === items(to)) last.at = now;
		else this.#past = [...this.#past, { stage, section: this.job[stage], at: now }].slice(-STEPS_KEPT);
	}

	#put<S extends Saveable>(stage: S, section: J[S]) {
		this.job = { ...this.job, [stage]: section };
		this.keptHere = drafts.keep(this.#key(stage), {
			version: this.versions[stage],
			section: this.job[stage]
		});
		this.#dirty.add(stage);
		this.compute();
		this.#saveSoon();
	}

	compute() {
		this.#predict.wish(this.job);
	}

	/** Save now what waits, of all stages or of one. True when it is saved. */
	async flush(only?: StageName): Promise<boolean> {
		const waits = () => [...this.#dirty].filter((stage) => !only || stage === only);
		if (!only) clearTimeout(this.#timer);
		do {
			for (const stage of waits()) await this.#inTurn(() => this.#save(stage));
			// What was typed while it was being saved goes along, as long as saving gets on.
		} while (waits().length && this.saving === 'waiting' && !this.conflict);
		return waits().length === 0;
	}

	/** After a conflict: take what the other person saved. */
	takeTheirs() {
		if (!this.conflict) return;
		const { stage, theirs, version } = this.conflict;
		drafts.forget(this.#key(stage));
		this.#dirty.delete(stage as Saveable);
		this.job = { ...this.job, [stage]: theirs };
		// What they saved is no step of ours to go back over.
		this.#past = [];
		this.#future = [];
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
	 * Do something that the server stamps with time and person, on the version the last write left; first what waits
	 * of that stage is saved.
	 * Gives what went wrong, empty when nothing did.
	 */
	async stamp(stage: StageName, act: (version: number) => Promise<Answer>): Promise<string> {
		if (!(await this.flush(stage))) return 'What was typed last is not saved yet: once it is, press again.';
		return this.#inTurn(async () => {
			try {
				const { data, error, response } = await act(this.versions[stage] ?? 1);
				if (data) await this.#read();
				else if (response.status === 409 && 'theirs' in (error as object)) this.#conflicted(stage, error);
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
		const answer = await this.#ways.read(this.job.id);
		if (!answer.data) return;
		const data = answer.data as View<J>;
		const mine = Object.fromEntries([...this.#dirty].map((stage) => [stage, this.job[stage]]));
		const read = Object.fromEntries([...this.#dirty].map((stage) => [stage, this.versions[stage] ?? 1]));
		this.job = { ...data.job, ...mine };
		this.versions = { ...data.versions, ...read };
		this.history = data.history;
		// What the server stamped with time and person is not gone back over.
		this.#past = this.#past.filter((step) => step.stage !== 'prove');
		this.#future = [];
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
			const { data, error, response } = await this.#ways.save(
				this.job.id,
				stage,
				this.versions[stage] ?? 1,
				section
			);
			if (data) {
				this.versions = { ...this.versions, [stage]: (data as Schemas['Saved']).version };
				if (this.job[stage] === section) {
					this.#dirty.delete(stage);
					drafts.forget(this.#key(stage));
				}
				this.saving = this.#dirty.size ? 'waiting' : 'saved';
				this.saveTrouble = '';
				this.#retry.done();
				// What had to be worked out while nobody answered is worked out now.
				if (this.trouble) this.compute();
				if (this.#dirty.size) this.#saveSoon();
			} else if (response.status === 409 && 'theirs' in (error as object)) {
				this.saving = 'unsaved';
				this.#conflicted(stage, error);
			} else this.#notSaved(sentence(error), response.status);
		} catch {
			this.#notSaved(sentence(undefined), undefined);
		}
	}

	/** What is typed stays; where it may help, saving is tried again by itself. */
	#notSaved(trouble: string, status: number | undefined) {
		this.saving = 'unsaved';
		this.saveTrouble = trouble;
		this.unsaved = [...this.#dirty].map((stage) => STAGE_WORDS[stage]);
		this.#retry.failed(status);
	}

	/** Try to save now. */
	retry() {
		this.#retry.done();
		return this.flush();
	}

	/** When it is tried again by itself, ms since 1970. */
	get nextTry() {
		return this.#retry.at;
	}

	#conflicted(stage: StageName, error: unknown) {
		this.conflict = { stage, ...(error as Omit<Conflict, 'stage'>) };
	}

	#key(stage: string) {
		return `unsaved:${this.job.id}:${stage}`;
	}
}

/** A bench of either kind, for what does not ask. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any
export type AnyBench = JobBench<any, any>;
