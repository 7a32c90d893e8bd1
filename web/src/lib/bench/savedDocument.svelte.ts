import { sentence, type Schemas } from '../api/client';
import { drafts } from './drafts';
import { Retry } from './retry.svelte';

export type SaveState = 'saved' | 'waiting' | 'saving' | 'unsaved';
type Answer = { data?: Schemas['Saved']; error?: unknown; response: Response };
type Conflict<D> = { sentence: string; theirs: D; version: number; by: string };

const SAVE_AFTER_MS = 700;
const STEPS_KEPT = 100;

/**
 * A document on its bench, outside a job: undo and redo, and its way to the database. Nothing typed is lost: what is
 * not saved is kept in this browser until it is.
 */
export abstract class SavedDocument<D> {
	document = $state.raw<D>() as D;
	version = 1;
	saving = $state<SaveState>('saved');
	saveTrouble = $state('');
	/** What somebody else saved meanwhile. */
	conflict = $state.raw<Conflict<D>>();
	#past = $state.raw<D[]>([]);
	#future = $state.raw<D[]>([]);
	#timer: ReturnType<typeof setTimeout> | undefined;
	#lastWrite: Promise<unknown> = Promise.resolve();
	#retry = new Retry(() => this.flush());
	/** What is not saved, in words. */
	readonly unsaved = ['this vehicle'];
	/** Whether this browser keeps what is not saved. */
	keptHere = $state(true);

	constructor(
		readonly id: number,
		readonly owner: string,
		document: D,
		version: number,
		/** What keeps its unsaved state apart from others'. */
		private readonly kind: string
	) {
		this.document = document;
		this.version = version;
		const kept = drafts.kept<{ version: number; document: D }>(this.#key);
		if (kept?.document && typeof kept.document === 'object') {
			this.document = kept.document;
			this.version = kept.version;
			this.#saveSoon();
		}
	}

	/** Ask the core for what follows from the document. */
	abstract compute(): void;
	protected abstract put(version: number, document: D): Promise<Answer>;

	get undoable() {
		return this.#past.length > 0;
	}
	get redoable() {
		return this.#future.length > 0;
	}

	/** Another document on the screen: remembered for undo, unless it goes on with the same drag. */
	replace(document: D, goesOn = false) {
		if (!goesOn) {
			this.#past = [...this.#past, this.document].slice(-STEPS_KEPT);
			this.#future = [];
		}
		this.#show(document);
	}

	undo() {
		const before = this.#past.at(-1);
		if (!before) return;
		this.#past = this.#past.slice(0, -1);
		this.#future = [this.document, ...this.#future];
		this.#show(before);
	}

	redo() {
		const [next, ...rest] = this.#future;
		if (!next) return;
		this.#future = rest;
		this.#past = [...this.#past, this.document];
		this.#show(next);
	}

	/** Save now what waits. True when everything is saved. */
	async flush(): Promise<boolean> {
		do {
			clearTimeout(this.#timer);
			if (this.saving === 'saved') return true;
			const turn = this.#lastWrite.then(() => this.#save());
			this.#lastWrite = turn.catch(() => undefined);
			await turn;
			// What was typed while it was being saved goes along, as long as saving gets on.
		} while ((this.saving as string) === 'waiting');
		return (this.saving as string) === 'saved';
	}

	/** After a conflict: take what the other person saved. */
	takeTheirs() {
		if (!this.conflict) return;
		const { theirs, version } = this.conflict;
		this.#settle(version);
		drafts.forget(this.#key);
		this.document = theirs;
		this.saving = 'saved';
		// What they saved is no step of ours to go back over.
		this.#past = [];
		this.#future = [];
		this.compute();
	}

	/** After a conflict: save mine on top of what the other person saved. */
	async saveMine() {
		if (!this.conflict) return;
		this.#settle(this.conflict.version);
		await this.flush();
	}

	#settle(version: number) {
		this.version = version;
		this.conflict = undefined;
		this.saveTrouble = '';
	}

	#show(document: D) {
		this.document = document;
		this.compute();
		this.#saveSoon();
	}

	#saveSoon() {
		this.saving = 'waiting';
		this.keptHere = drafts.keep(this.#key, { version: this.version, document: this.document });
		clearTimeout(this.#timer);
		this.#timer = setTimeout(() => void this.flush(), SAVE_AFTER_MS);
	}

	async #save() {
		if (this.conflict) return;
		const document = this.document;
		this.saving = 'saving';
		try {
			const { data, error, response } = await this.put(this.version, document);
			if (data) {
				this.version = data.version;
				this.saveTrouble = '';
				if (this.document === document) {
					this.saving = 'saved';
					drafts.forget(this.#key);
				} else this.#saveSoon();
				this.#retry.done();
			} else if (response.status === 409 && 'theirs' in (error as object)) {
				this.saving = 'unsaved';
				this.conflict = error as Conflict<D>;
			} else this.#notSaved(sentence(error), response.status);
		} catch {
			this.#notSaved(sentence(undefined), undefined);
		}
	}

	/** What is typed stays; where it may help, saving is tried again by itself. */
	#notSaved(trouble: string, status: number | undefined) {
		this.saving = 'unsaved';
		this.saveTrouble = trouble;
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

	get #key() {
		return `unsaved:${this.kind}:${this.id}`;
	}
}
