// What is drawn from is replaced, never changed in place.
/* eslint-disable svelte/prefer-svelte-reactivity */
import { openDB, type IDBPDatabase } from 'idb';
import { api, ask, type Schemas } from '../api/client';
import { Retry } from './retry.svelte';

type Sent = Schemas['Acts']['acts'][number];
type Without<T, K extends string> = T extends unknown ? Omit<T, K> : never;
/** An act at the machine as the card tells it; its id and its time are given here. */
export type Act = Without<Sent, 'id' | 'ago_s'>;
/** An act that the server does not have yet. */
export type Waiting = {
	id: string;
	job: string;
	/** Who did it. */
	person: string;
	/** When, ms since 1970 by this machine's clock, and in which order. */
	at: number;
	turn: number;
	act: Act;
	/** What it is, for people. */
	words: string;
	/** Why the server would not have it; it is not sent again. */
	refused?: string;
};
type Told = { sent: string[]; job: string; answer?: Schemas['Acted'] } | { look: true };

const STORE = 'acts';
const MOST = 200;
const SOON_MS = 4000;

/**
 * Acts on their way: each is in this browser's own store before it is told as done, is sent with others, is done once
 * however often it is sent, and goes only when the server has it. Every tab sees them, one at a time sends them.
 */
export class Outbox {
	/** Oldest first, of all jobs. */
	waiting = $state.raw<Waiting[]>([]);
	/** Whether what was kept before is known. */
	ready = $state(false);
	/** Whether this browser keeps what is not sent. */
	keptHere = $state(true);
	trouble = $state('');
	/** What the server has of a job after acts of it, told to whoever shows that job. */
	heard = new Map<string, (answer: Schemas['Acted']) => void>();

	#db: IDBPDatabase | undefined;
	#turn = 0;
	/** What is gone from the store, or on its way out of it. */
	#left = new Set<string>();
	#sending: Promise<void> | undefined;
	#retry = new Retry(() => this.send());
	#others: BroadcastChannel | undefined;
	/** When what was kept is known, or it is known that nothing is kept. */
	readonly opened: Promise<void>;

	constructor() {
		this.opened = this.#open();
	}

	async #open() {
		try {
			this.#db = await openDB('inclinum', 1, {
				upgrade: (db) => void db.createObjectStore(STORE, { keyPath: 'id' })
			});
			await this.#look();
		} catch {
			// A private window, a full disk: what is done is sent all the same, and leaving before that warns.
			this.keptHere = false;
		}
		if (typeof BroadcastChannel !== 'undefined') {
			this.#others = new BroadcastChannel('inclinum-acts');
			this.#others.onmessage = ({ data }: MessageEvent<Told>) => void this.#told(data);
		}
		this.ready = true;
		if (this.unsent.length) void this.send();
	}

	/** What waits to be sent; what was refused waits for somebody to look at it. */
	get unsent(): Waiting[] {
		return this.waiting.filter((w) => !w.refused);
	}

	of(job: string): Waiting[] {
		return this.waiting.filter((w) => w.job === job);
	}

	/** Do something on a job's card: kept at once, sent as soon as it can be. */
	add(job: string, person: string, act: Act, words: string): string {
		const waiting: Waiting = {
			id: crypto.randomUUID(),
			job,
			person,
			at: Date.now(),
			turn: this.#turn++,
			act: $state.snapshot(act) as Act,
			words
		};
		// Whoever does it again has seen why it was refused.
		for (const before of this.of(job))
			if (before.refused && placeOf(before.act) === placeOf(act)) this.drop(before.id);
		this.waiting = [...this.waiting, waiting];
		this.#keep(waiting);
		this.#others?.postMessage({ look: true } satisfies Told);
		void this.send();
		return waiting.id;
	}

	/** Whose sender waits to hear what became of them. */
	checking = new Set<string>();

	/** Why one was refused, where that is told soon; empty where it was done, or has to wait for a network. */
	async said(id: string): Promise<string> {
		this.checking.add(id);
		const soon = new Promise((end) => setTimeout(end, SOON_MS));
		await Promise.race([this.send().then(() => this.send()), soon]);
		const why = this.waiting.find((w) => w.id === id)?.refused ?? '';
		if (why) this.drop(id);
		this.checking.delete(id);
		return why;
	}

	/** Let go of one that was refused. */
	drop(id: string) {
		this.#gone([id]);
		this.#others?.postMessage({ sent: [id], job: '' } satisfies Told);
	}

	/** Send what waits, of all jobs. True when nothing of that job is left to send. */
	async flush(job: string): Promise<boolean> {
		this.#retry.done();
		await this.opened;
		await this.send();
		return !this.of(job).some((w) => !w.refused);
	}

	/** Send all that waits, oldest first; with one hand, whichever tab's it is. */
	send(): Promise<void> {
		this.#sending ??= this.#inOneTab(() => this.#sendAll())
			.catch(() => undefined)
			.finally(() => (this.#sending = undefined));
		return this.#sending;
	}

	get nextTry() {
		return this.#retry.at;
	}

	async #inOneTab(work: () => Promise<void>) {
		await this.opened;
		if (typeof navigator === 'undefined' || !navigator.locks) return work();
		await navigator.locks.request('inclinum-acts', work);
	}

	async #sendAll() {
		await this.#look();
		for (;;) {
			const first = this.unsent[0];
			if (!first) break;
			// In the order they were done; another person's acts are another request.
			const ofJob = this.unsent.filter((w) => w.job === first.job);
			const other = ofJob.findIndex((w) => w.person !== first.person);
			const some = ofJob.slice(0, Math.min(MOST, other < 0 ? ofJob.length : other));
			if (!(await this.#post(some))) return;
		}
		this.trouble = '';
		this.#retry.done();
	}

	/** Send some acts of one job and person; false where nobody answers just now. */
	async #post(some: Waiting[]): Promise<boolean> {
		const { job, person } = some[0] as Waiting;
		const acts = some.map(({ id, at, act }) => ({
			...act,
			id,
			ago_s: Math.max(0, (Date.now() - at) / 1000)
		}));
		const { data, trouble, status } = await ask(
			api.POST('/api/jobs/{job_id}/build/acts', {
				params: { path: { job_id: job } },
				headers: { 'x-acting-person': encodeURIComponent(person) },
				body: { acts: acts as Sent[] }
			})
		);
		if (data) {
			const why = new Map(data.refused.map((r) => [r.id, r.sentence]));
			for (const w of some) if (why.has(w.id)) this.#refuse(w, why.get(w.id) as string);
			this.#done(
				some.filter((w) => !why.has(w.id)).map((w) => w.id),
				job,
				data
			);
			return true;
		}
		if (status === undefined || status >= 500 || status === 409) {
			this.trouble = trouble;
			this.#retry.failed(status === 409 ? 503 : status);
			return false;
		}
		// Of several, one may have spoiled the others' way.
		if (some.length > 1) {
			for (const one of some) if (!(await this.#post([one]))) return false;
			return true;
		}
		this.#refuse(some[0] as Waiting, trouble);
		return true;
	}

	#done(sent: string[], job: string, answer: Schemas['Acted']) {
		this.heard.get(job)?.(answer);
		this.#gone(sent);
		this.#others?.postMessage({ sent, job, answer } satisfies Told);
	}

	#gone(ids: string[]) {
		for (const id of ids) this.#left.add(id);
		this.waiting = this.waiting.filter((w) => !this.#left.has(w.id));
		const keep = this.#db?.transaction(STORE, 'readwrite');
		for (const id of ids) void keep?.store.delete(id).catch(() => undefined);
		keep?.commit();
	}

	#refuse(one: Waiting, refused: string) {
		const told = { ...one, refused };
		this.waiting = this.waiting.map((w) => (w.id === one.id ? told : w));
		this.#keep(told);
		this.#others?.postMessage({ look: true } satisfies Told);
	}

	/** On its way to the disk before anything else happens: a page that is closed in the next moment keeps it. */
	#keep(waiting: Waiting) {
		if (!this.#db) return;
		try {
			const keep = this.#db.transaction(STORE, 'readwrite');
			keep.store.put(waiting).catch(() => (this.keptHere = false));
			keep.done.catch(() => (this.keptHere = false));
			keep.commit();
		} catch {
			this.keptHere = false;
		}
	}

	/** What is kept, by whichever tab; what could not be kept is known here only. */
	async #look() {
		if (!this.#db || !this.keptHere) return;
		const before = new Set(this.waiting.map((w) => w.id));
		const all = (await this.#db.getAll(STORE)) as Waiting[];
		const kept = all.filter((w) => !this.#left.has(w.id)).sort((a, b) => a.at - b.at || a.turn - b.turn);
		const there = new Set(kept.map((w) => w.id));
		const since = this.waiting.filter((w) => !before.has(w.id) && !there.has(w.id));
		this.waiting = [...kept, ...since];
	}

	async #told(data: Told) {
		if ('look' in data) return this.#look();
		if (data.answer) this.heard.get(data.job)?.(data.answer);
		for (const id of data.sent) this.#left.add(id);
		this.waiting = this.waiting.filter((w) => !this.#left.has(w.id));
	}
}

/** What an act is about: a later one at the same place takes the place of an earlier one. */
function placeOf(act: Act): string {
	switch (act.do) {
		case 'tick':
			return `tick ${act.step}`;
		case 'torque':
			return `torque ${act.fastener} ${act.axle} ${act.side ?? ''}`;
		case 'setting':
			return `setting ${act.setting.key} ${act.setting.axle} ${act.setting.side ?? ''}`;
		default:
			return `found ${act.key}`;
	}
}

/** What was done by now, with what is on its way. */
export function withActs(build: Schemas['Build'], waiting: readonly Waiting[]): Schemas['Build'] {
	let { ticks = [], torques = [], found = [] } = build;
	for (const { act, person, at, refused } of waiting) {
		if (refused) continue;
		const when = new Date(at).toISOString();
		if (act.do === 'tick') {
			ticks = ticks.filter((t) => t.step !== act.step);
			if (act.done)
				ticks = [
					...ticks,
					{
						step: act.step,
						done_at: when,
						by: person,
						despite: act.held ? '' : (act.despite ?? ''),
						minutes: act.minutes ?? null,
						work: ''
					}
				];
		} else if (act.do === 'torque') {
			const place = placeOf(act);
			torques = [
				...torques.filter((t) => placeOf({ do: 'torque', ...t } as Act) !== place),
				{
					fastener: act.fastener,
					axle: act.axle,
					side: act.side ?? null,
					torque: act.torque ? read(act.torque) : null,
					angle_deg: act.angle_deg ?? null,
					by_feel: act.by_feel ?? false,
					done_at: when,
					by: person
				}
			];
		} else if (act.do === 'found') {
			const before = found.find((f) => f.id === act.key);
			const told = { ...act.found, id: act.key, at: when, by: person, follow_up: before?.follow_up ?? '' };
			found = before ? found.map((f) => (f === before ? told : f)) : [...found, told];
		} else if (act.do === 'withdraw') found = found.filter((f) => f.id !== act.key);
	}
	return { ...build, ticks, torques, found };
}

/** A torque that came as a wrench's own text, until the core has read it. */
function read(torque: Schemas['Torque'] | string): Schemas['Torque'] {
	if (typeof torque !== 'string') return torque;
	return { text: torque, value: parseFloat(torque), unit: 'nm', tolerance: null } as Schemas['Torque'];
}

/** Settings of a card with what was read and is on its way. */
export function withSettings(
	rows: readonly Schemas['SettingRow'][],
	waiting: readonly Waiting[]
): Schemas['SettingRow'][] {
	return rows.map((row) => {
		for (const { act, refused } of waiting) {
			if (refused || act.do !== 'setting') continue;
			const { key, axle, side, before, after } = act.setting;
			if (key !== row.key || axle !== row.axle || (side ?? null) !== (row.side ?? null)) continue;
			row = { ...row, before: before ?? row.before, after: after ?? row.after };
		}
		return row;
	});
}

export const outbox = new Outbox();
