import { api, ask, type Asked, type Schemas } from '../api/client';
import { drafts } from './drafts';
import { hold } from './hold';
import { Retry } from './retry.svelte';
import { allRead } from '../ui/unread.svelte';

export type SaveState = 'saved' | 'waiting' | 'saving' | 'unsaved';
export type Conflict<K> = { part: K; sentence: string; theirs: unknown; version: number; by: string };
type Answer = Promise<{ data?: Schemas['Saved']; error?: unknown; response: Response }>;
type Step<K> = { part: K; value: unknown; hold: number };

const SAVE_AFTER_MS = 700;
const STEPS_KEPT = 100;

/**
 * A document on the screen, saved part by part, each on the version its writer saw: its undo and redo, its way to the
 * database, and what is told when two hands are on it. Nothing typed is lost: what is not saved is kept in this browser
 * until it is.
 */
export abstract class Saved<D extends object, K extends keyof D & string> {
	document = $state.raw<D>() as D;
	versions = $state.raw<Record<string, number>>({});
	saving = $state<SaveState>('saved');
	saveTrouble = $state('');
	/** Parts that are not saved, in words. */
	unsaved = $state.raw<string[]>([]);
	/** Whether this browser keeps what is not saved. */
	keptHere = $state(true);
	/** What somebody else saved meanwhile. */
	conflict = $state.raw<Conflict<string>>();

	#past = $state.raw<Step<K>[]>([]);
	#future = $state.raw<Step<K>[]>([]);
	// Nothing is drawn from it, so it need not be reactive.
	// eslint-disable-next-line svelte/prefer-svelte-reactivity
	#dirty = new Set<K>();
	#timer: ReturnType<typeof setTimeout> | undefined;
	#lastWrite: Promise<unknown> = Promise.resolve();
	#retry = new Retry(() => this.flush());

	constructor(
		document: D,
		versions: Record<string, number>,
		/** Its parts, each in words. */
		protected readonly parts: Record<K, string>,
		/** What keeps its unsaved parts apart from others'. */
		private readonly name: string
	) {
		this.document = document;
		this.versions = versions;
		for (const part of Object.keys(parts) as K[]) {
			const kept = drafts.kept<{ version: number; section: unknown }>(this.#key(part));
			if (!kept?.section || typeof kept.section !== 'object') continue;
			this.document = { ...this.document, [part]: kept.section };
			this.versions = { ...this.versions, [part]: kept.version };
			this.#dirty.add(part);
		}
		if (this.#dirty.size) this.#saveSoon();
	}

	/** Ask the core for what follows from the document. */
	abstract compute(): void;
	protected abstract put(part: K, version: number, value: unknown): Answer;

	/** Put a part's new content on the screen, recompute, and save it shortly; all of one hold is undone at once. */
	change<P extends K>(part: P, value: D[P], during = hold()) {
		const last = this.#past.at(-1);
		this.#future = [];
		if (!during || last?.hold !== during || last.part !== part)
			this.#past = [...this.#past, { part, value: this.document[part], hold: during }].slice(-STEPS_KEPT);
		this.#show(part, value);
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
		this.#future = [...this.#future, { part: step.part, value: this.document[step.part], hold: 0 }];
		this.#show(step.part, step.value as D[K]);
	}
	redo() {
		const step = this.#future.at(-1);
		if (!step) return;
		this.#future = this.#future.slice(0, -1);
		this.#past = [...this.#past, { part: step.part, value: this.document[step.part], hold: 0 }];
		this.#show(step.part, step.value as D[K]);
	}
	/** Steps over what is no longer ours to undo are forgotten. */
	protected forget(kept: (part: K) => boolean) {
		this.#past = this.#past.filter((step) => kept(step.part));
		this.#future = [];
	}

	/** Save now what waits, of all parts or of one. True when it is saved. */
	async flush(only?: string): Promise<boolean> {
		await allRead();
		const waits = () => [...this.#dirty].filter((part) => !only || part === only);
		if (!only) clearTimeout(this.#timer);
		do {
			for (const part of waits()) await this.inTurn(() => this.#save(part));
			// What was typed while it was being saved goes along, as long as saving gets on.
		} while (waits().length && this.saving === 'waiting' && !this.conflict);
		return waits().length === 0;
	}

	/** After a conflict: take what the other person saved. */
	takeTheirs() {
		if (!this.conflict) return;
		const { part, theirs, version } = this.conflict;
		drafts.forget(this.#key(part));
		this.#dirty.delete(part as K);
		this.document = { ...this.document, [part]: theirs };
		// What they saved is no step of ours to go back over.
		this.forget(() => false);
		this.#settle(part, version);
		this.saving = this.#dirty.size ? 'waiting' : 'saved';
		this.compute();
	}

	/** After a conflict: save mine on top of what the other person saved. */
	async saveMine() {
		if (!this.conflict) return;
		const { part, version } = this.conflict;
		this.#settle(part, version);
		await this.inTurn(() => this.#save(part as K));
	}

	#settle(part: string, version: number) {
		this.versions = { ...this.versions, [part]: version };
		this.conflict = undefined;
		this.saveTrouble = '';
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

	/** What the server has; what still waits to be saved stays as it is on the screen. */
	protected read(document: D, versions: Record<string, number>) {
		const mine = Object.fromEntries([...this.#dirty].map((part) => [part, this.document[part]]));
		const seen = Object.fromEntries([...this.#dirty].map((part) => [part, this.versions[part] ?? 1]));
		this.document = { ...document, ...mine };
		this.versions = { ...versions, ...seen };
	}

	/** One write at a time: the next one needs the version the last one made, or we would clash with ourselves. */
	protected inTurn<T>(write: () => Promise<T>): Promise<T> {
		const turn = this.#lastWrite.then(write);
		this.#lastWrite = turn.catch(() => undefined);
		return turn;
	}

	protected conflicted(part: string, refusal: unknown) {
		this.conflict = { part, ...(refusal as Omit<Conflict<K>, 'part'>) };
	}

	#show<P extends K>(part: P, value: D[P]) {
		this.document = { ...this.document, [part]: value };
		this.keptHere = drafts.keep(this.#key(part), { version: this.versions[part], section: value });
		this.#dirty.add(part);
		this.compute();
		this.#saveSoon();
	}

	#saveSoon() {
		this.saving = 'waiting';
		clearTimeout(this.#timer);
		this.#timer = setTimeout(() => void this.flush(), SAVE_AFTER_MS);
	}

	async #save(part: K) {
		if (!this.#dirty.has(part) || this.conflict) return;
		const value = this.document[part];
		this.saving = 'saving';
		const asked = await ask(this.put(part, this.versions[part] ?? 1, value));
		if (asked.data) {
			this.versions = { ...this.versions, [part]: asked.data.version };
			if (this.document[part] === value) {
				this.#dirty.delete(part);
				drafts.forget(this.#key(part));
			}
			this.saving = this.#dirty.size ? 'waiting' : 'saved';
			this.saveTrouble = '';
			this.#retry.done();
			this.saved();
			if (this.#dirty.size) this.#saveSoon();
		} else if (isClash(asked)) {
			this.saving = 'unsaved';
			this.conflicted(part, asked.refusal);
		} else {
			// What is typed stays; where it may help, saving is tried again by itself.
			this.saving = 'unsaved';
			this.saveTrouble = asked.trouble;
			this.unsaved = [...this.#dirty].map((p) => this.parts[p]);
			this.#retry.failed(asked.status);
		}
	}

	/** Something was saved. */
	protected saved() {}

	#key(part: string) {
		return `unsaved:${this.name}:${part}`;
	}
}

/** Whether somebody else saved meanwhile. */
export const isClash = (asked: Asked<unknown>) =>
	asked.status === 409 && 'theirs' in ((asked.refusal ?? {}) as object);

/** A vehicle of any kind on its bench, saved whole. */
export abstract class OnBench<V extends { name: string; plate?: string }> extends Saved<
	{ vehicle: V },
	'vehicle'
> {
	constructor(
		readonly id: number,
		view: { owner: string; version: number; vehicle: unknown }
	) {
		super({ vehicle: view.vehicle as V }, { vehicle: view.version }, { vehicle: 'this vehicle' }, `#${id}`);
		this.owner = view.owner;
	}
	readonly owner: string;
	#asked = $state(0);

	/** Whether what stands on the screen is still being worked out. */
	get computing() {
		return this.#asked > 0;
	}
	/** Told when a computation begins and when it ends. */
	protected busy = (busy: boolean) => {
		this.#asked += busy ? 1 : -1;
	};

	protected override put(_: 'vehicle', version: number, vehicle: unknown) {
		return api.PUT('/api/vehicles/{vehicle_id}', {
			params: { path: { vehicle_id: this.id } },
			body: { version, vehicle: vehicle as Schemas['Vehicle'] }
		});
	}

	/** Fields of it put otherwise. */
	set(fields: Partial<V>) {
		this.replace({ ...this.vehicle, ...fields });
	}

	get vehicle(): V {
		return this.document.vehicle;
	}
	/** Another state of it on the screen. */
	replace(vehicle: V) {
		this.change('vehicle', vehicle);
	}
}
