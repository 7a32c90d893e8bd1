import { api, ask, type Asked, type Schemas } from '../api/client';
import { drafts } from './drafts';
import { hold } from './hold';
import { Retry } from './retry.svelte';
import { allRead } from '../ui/unread.svelte';

export type SaveState = 'saved' | 'waiting' | 'saving' | 'unsaved';
/** What both hands changed of a part, entry by entry. */
export type Conflict<K> = {
	part: K;
	sentence: string;
	version: number;
	by: string;
	contested: Schemas['Contested'][];
};
export type Chosen = Record<string, 'mine' | 'theirs'>;
/** What a part is saved on top of: its version, as it was then, and what was chosen of what both changed. */
export type Upon = { version: number; base: unknown; chosen: Chosen };
/** The version it now has, and all of it where others' entries came in. */
export type Kept = { version: number; whole?: unknown };
type Answer = Promise<{ data?: Kept; error?: unknown; response: Response }>;
type Step<K> = { part: K; value: unknown; hold: number };
/** Steps to go back over, with the versions they stand on. */
type Steps<K> = { versions: Record<string, number>; past: Step<K>[]; future: Step<K>[] };
type Draft = { version: number; section: unknown; base?: unknown };

const SAVE_AFTER_MS = 700;
const STEPS_KEPT = 100;
const STEPS_OVER_A_RELOAD = 12;

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
	/** Each part as its version has it: what both hands began from. */
	#bases: Record<string, unknown> = {};
	#chosen: Record<string, Chosen> = {};
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
		this.#bases = { ...document } as Record<string, unknown>;
		const steps = drafts.kept<Steps<K>>(this.#steps, sessionStore());
		for (const part of Object.keys(parts) as K[]) {
			const kept = drafts.kept<Draft>(this.#key(part));
			if (!kept?.section || typeof kept.section !== 'object') continue;
			this.document = { ...this.document, [part]: kept.section };
			this.versions = { ...this.versions, [part]: kept.version };
			this.#bases[part] = kept.base;
			this.#dirty.add(part);
		}
		// Steps over what somebody else saved meanwhile are nobody's to go back over.
		const stands = ({ part }: Step<K>) => steps?.versions[part] === this.versions[part];
		if (steps?.past.every(stands) && steps.future.every(stands))
			[this.#past, this.#future] = [steps.past, steps.future];
		if (this.#dirty.size) this.#saveSoon();
		others?.addEventListener('message', this.#elsewhere);
		if (typeof window !== 'undefined') window.addEventListener('focus', this.#look);
	}

	/** Nobody looks at it any more. */
	close() {
		others?.removeEventListener('message', this.#elsewhere);
		if (typeof window !== 'undefined') window.removeEventListener('focus', this.#look);
	}

	/** Another tab saved a part of it. */
	#elsewhere = ({ data }: MessageEvent<{ name: string; part: string; version: number }>) => {
		if (data.name === this.name && data.version > (this.versions[data.part] ?? 0)) this.#look();
	};
	#look = () => void this.refresh();

	/** Ask the core for what follows from the document. */
	abstract compute(): void;
	/** Fetch what the server has; gives what went wrong, empty when nothing did. */
	abstract refresh(): Promise<string>;
	protected abstract put(part: K, value: unknown, upon: Upon): Answer;
	/** Why nothing of it may be changed just now; empty where it may. */
	get frozen(): string {
		return '';
	}

	/** Put a part's new content on the screen, recompute, and save it shortly; all of one hold is undone at once. */
	change<P extends K>(part: P, value: D[P], during = hold()) {
		if (this.frozen) return this.refuse();
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
		if (this.frozen) return this.refuse();
		this.#past = this.#past.slice(0, -1);
		this.#future = [...this.#future, { part: step.part, value: this.document[step.part], hold: 0 }];
		this.#show(step.part, step.value as D[K]);
	}
	redo() {
		const step = this.#future.at(-1);
		if (!step) return;
		if (this.frozen) return this.refuse();
		this.#future = this.#future.slice(0, -1);
		this.#past = [...this.#past, { part: step.part, value: this.document[step.part], hold: 0 }];
		this.#show(step.part, step.value as D[K]);
	}
	/** How often a change was refused because it is frozen: whoever tells why looks at it. */
	refusals = $state(0);
	protected refuse() {
		this.refusals += 1;
		// What the field shows is what stands.
		this.document = { ...this.document };
	}
	/** Steps over what is no longer ours to undo are forgotten. */
	protected forget(kept: (part: K) => boolean) {
		this.#past = this.#past.filter((step) => kept(step.part));
		this.#future = [];
		this.#keepSteps();
	}

	/** The last steps, over a reload of this tab. */
	#keepSteps() {
		const steps: Steps<K> = {
			versions: this.versions,
			past: this.#past.slice(-STEPS_OVER_A_RELOAD),
			future: this.#future.slice(-STEPS_OVER_A_RELOAD)
		};
		drafts.keep(this.#steps, steps, sessionStore());
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

	/** After a conflict: whose holds, of each entry that both changed. */
	async choose(chosen: Chosen) {
		if (!this.conflict) return;
		const part = this.conflict.part as K;
		this.#chosen[part] = { ...this.#chosen[part], ...chosen };
		this.conflict = undefined;
		this.saveTrouble = '';
		this.saving = 'waiting';
		await this.inTurn(() => this.#save(part));
		if (this.#dirty.size && !this.conflict) this.#saveSoon();
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
		const dirty = [...this.#dirty];
		const mine = Object.fromEntries(dirty.map((part) => [part, this.document[part]]));
		const seen = Object.fromEntries(dirty.map((part) => [part, this.versions[part] ?? 1]));
		const begun = Object.fromEntries(dirty.map((part) => [part, this.#bases[part]]));
		const others = Object.keys(this.parts).filter(
			(part) => !this.#dirty.has(part as K) && versions[part] !== this.versions[part]
		);
		this.document = { ...document, ...mine };
		this.versions = { ...versions, ...seen };
		this.#bases = { ...document, ...begun };
		if (others.length) this.forget((part) => !others.includes(part));
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
		this.keptHere = drafts.keep(this.#key(part), this.#draft(part));
		this.#dirty.add(part);
		this.#keepSteps();
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
		const upon = {
			version: this.versions[part] ?? 1,
			base: this.#bases[part],
			chosen: this.#chosen[part] ?? {}
		};
		const asked = await ask(this.put(part, value, upon));
		if (asked.data) {
			const { version, whole } = asked.data;
			delete this.#chosen[part];
			if (this.document[part] === value) {
				this.#dirty.delete(part);
				if (whole) {
					this.document = { ...this.document, [part]: whole };
					this.forget((other) => other !== part);
					this.compute();
				}
				this.#bases[part] = whole ?? value;
				this.versions = { ...this.versions, [part]: version };
				drafts.forget(this.#key(part));
			} else {
				// What was typed meanwhile stands on what was sent; others' entries come in with the next save.
				this.#bases[part] = value;
				if (!whole) this.versions = { ...this.versions, [part]: version };
				drafts.keep(this.#key(part), this.#draft(part));
			}
			this.saving = this.#dirty.size ? 'waiting' : 'saved';
			this.saveTrouble = '';
			this.#retry.done();
			this.#keepSteps();
			others?.postMessage({ name: this.name, part, version });
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

	#draft(part: K): Draft {
		return { version: this.versions[part] ?? 1, section: this.document[part], base: this.#bases[part] };
	}
	#key(part: string) {
		return `unsaved:${this.name}:${part}`;
	}
	get #steps() {
		return `steps:${this.name}`;
	}
}

/** Tabs of this browser tell each other what they saved. */
const others = typeof BroadcastChannel === 'undefined' ? undefined : new BroadcastChannel('inclinum-saved');
const sessionStore = () => (typeof sessionStorage === 'undefined' ? null : sessionStorage);

/** Whether somebody else saved meanwhile. */
export const isClash = (asked: Asked<unknown>) =>
	asked.status === 409 && 'contested' in ((asked.refusal ?? {}) as object);

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

	protected override async put(_: 'vehicle', vehicle: unknown, { version, base, chosen }: Upon) {
		const answer = await api.PUT('/api/vehicles/{vehicle_id}', {
			params: { path: { vehicle_id: this.id } },
			body: { version, chosen, vehicle: vehicle as Schemas['Vehicle'], base: base as Schemas['Vehicle'] }
		});
		const kept = answer.data && { version: answer.data.version, whole: answer.data.vehicle ?? undefined };
		return { ...answer, data: kept };
	}

	override refresh(): Promise<string> {
		return this.inTurn(async () => {
			const { data, trouble } = await ask(
				api.GET('/api/vehicles/{vehicle_id}', { params: { path: { vehicle_id: this.id } } })
			);
			if (data && data.version !== this.versions.vehicle) {
				this.read({ vehicle: data.vehicle as unknown as V }, { vehicle: data.version });
				this.compute();
			}
			return trouble;
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
