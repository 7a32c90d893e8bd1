import { api, ask, type Asked, type AxleName, type StageName, type Schemas } from '../api/client';
import type { operations } from '../api/schema';
import { hold, whenReleased } from './hold';
import { Latest } from './latest';
import { outbox, withActs, type Act, type Waiting } from './outbox.svelte';
import { isClash, Saved, type Upon } from './saved.svelte';
import { settings } from '../settings.svelte';
import { allRead } from '../ui/unread.svelte';

export type Saveable = Exclude<StageName, 'build'>;
type Stages = { [S in StageName]: unknown } & { id: string; title: string };
const VEHICLE = 'vehicle';
type Answer = { data?: unknown; error?: unknown; response: Response };

const STAGE_WORDS: Record<Saveable, string> = {
	brief: 'Brief',
	measure: 'Measure',
	plan: 'Plan',
	align: 'Align',
	prove: 'Prove'
};
const SAVES = {
	brief: '/api/jobs/{job_id}/brief',
	measure: '/api/jobs/{job_id}/measure',
	plan: '/api/jobs/{job_id}/plan',
	align: '/api/jobs/{job_id}/align',
	prove: '/api/jobs/{job_id}/prove'
} as const;

/** One job on the bench, of any kind: its document as it stands on the screen, and the prediction that follows. */
export class JobBench<J extends Stages, P> extends Saved<J, Saveable & keyof J> {
	readonly kind: string;
	history = $state.raw<Schemas['HistoryEntry'][]>([]);
	prediction = $state.raw<P>();
	/** What was read after against it, as it was last worked out. */
	proof = $state.raw<Schemas['Proof'] | Schemas['BikeProof']>();
	/** Whether a signed job stands as its signature covers it; nothing where nobody can tell. */
	asSigned = $state<boolean | null | undefined>();
	trouble = $state('');
	computing = $state(false);
	// The last good answer stays on the screen while the next is computed, and when it cannot be.
	#predict = new Latest(
		({ job, ways }: { job: J; ways: boolean }) =>
			ask(api.POST('/api/predict', { params: { query: { ...this.looked(), ways } }, body: job as never })),
		({ data, trouble }: Asked<unknown>) => {
			if (data) this.prediction = data as P;
			this.trouble = trouble;
		},
		(busy) => (this.computing = busy)
	);

	/** What was held when it was last worked out, and whether that hold is waited for. */
	#during = 0;
	#dragged = false;

	constructor(view: Schemas['JobView']) {
		const job = view.job as unknown as J;
		super(job, view.versions, STAGE_WORDS as Record<Saveable & keyof J, string>, view.job.id);
		this.kind = view.kind;
		this.history = view.history;
		this.asSigned = view.as_signed;
		outbox.heard.set(view.job.id, this.#acted);
		this.compute();
	}

	get job(): J {
		return this.document;
	}

	/** The second change of one hold and all after it are a drag: ways to a height are not sought until it is let go. */
	override compute() {
		const during = hold();
		const ways = !during || during !== this.#during;
		this.#during = during;
		this.#predict.wish({ job: this.job, ways });
		if (ways || this.#dragged) return;
		this.#dragged = true;
		whenReleased(() => {
			this.#dragged = false;
			this.compute();
		});
	}

	/** How the planned machine is looked at, as far as that is the core's to draw. */
	protected looked(): operations['predict']['parameters']['query'] {
		return {};
	}

	protected override async put(stage: Saveable & keyof J, section: unknown, upon: Upon) {
		const answer = await api.PUT(SAVES[stage as Saveable], {
			params: { path: { job_id: this.job.id } },
			body: { kind: this.kind, section, ...upon } as never
		});
		const kept = answer.data && { version: answer.data.version, whole: answer.data.section ?? undefined };
		return { ...answer, data: kept };
	}

	/** What was done at the machine by now, with what is on its way to the server. */
	readonly build = $derived.by(() => withActs(this.job.build as Schemas['Build'], this.acts));
	get acts(): Waiting[] {
		return outbox.of(this.job.id);
	}

	/** Do something on its card; gives what is against it, empty when nothing is. */
	act(act: Act, words: string): string {
		if (this.frozen) return this.frozen;
		outbox.add(this.job.id, settings.person, act, words);
		return '';
	}

	/** The same with something that somebody typed: where the core refuses it, it is theirs to put right. */
	async actChecked(act: Act, words: string): Promise<string> {
		if (this.frozen) return this.frozen;
		return outbox.said(outbox.add(this.job.id, settings.person, act, words));
	}

	/** What the server has of the card after acts of any tab. */
	#acted = ({ version, build }: Schemas['Acted']) => {
		if (version < (this.versions.build ?? 0)) return;
		this.document = { ...this.document, build };
		this.versions = { ...this.versions, build: version };
	};

	/** What was signed stays as it was signed. */
	override get frozen(): string {
		const signed = (this.job.prove as Schemas['Prove'] | undefined)?.sign_off;
		return signed
			? `Signed off by ${signed.by}: what stood in the job then stays. To change it, withdraw the signature under Prove, with a reason.`
			: '';
	}

	protected override saved() {
		// What had to be worked out while nobody answered is worked out now.
		if (this.trouble) this.compute();
	}

	/** Why what is on the screen is not what was asked for. */
	get refusal(): string {
		return this.trouble;
	}

	/** Begin a change of a kind and put it on the stack; gives what went wrong, empty when nothing did. */
	async begin(type: string, axle?: AxleName): Promise<string> {
		return this.#added((job) => api.POST('/api/changes/begin', { body: { job: job as never, type, axle } }));
	}

	/** Put a part of the part bench on the stack; gives what went wrong, empty when nothing did. */
	async beginPart(sheet: Schemas['OnPartBench']['sheet'], axle: AxleName | null): Promise<string> {
		return this.#added((job) =>
			api.POST('/api/part-bench/planned', { body: { job: job as never, sheet, axle } })
		);
	}

	#lastAdded: Promise<unknown> = Promise.resolve();
	/** One after the other, each begun on the plan as it then is: two begun on one plan would be of one name. */
	#added(begin: (job: J) => Promise<Answer>): Promise<string> {
		const turn = this.#lastAdded.then(async () => {
			for (;;) {
				await allRead();
				const job = this.job;
				const { data, trouble } = await ask(begin(job));
				if (!data) return trouble;
				if (this.job.plan !== job.plan) continue;
				this.plan([...((job.plan as { changes?: unknown[] }).changes ?? []), data]);
				return '';
			}
		});
		this.#lastAdded = turn.catch(() => undefined);
		return turn;
	}

	/** Put other changes on the plan. */
	plan(changes: unknown) {
		const plan = this.job.plan as { kits?: { changes: string[] }[] };
		const there = (changes as { id: string }[]).map((p) => p.id);
		// What leaves the stack leaves its kit: the next change may get its id.
		const kits = plan.kits
			?.map((kit) => ({ ...kit, changes: kit.changes.filter((id) => there.includes(id)) }))
			.filter((kit) => kit.changes.length);
		this.change('plan', { ...plan, ...(kits && { kits }), changes } as J[Saveable & keyof J]);
	}

	/**
	 * Do something that the server stamps with time and person, on the version the last write left; first what waits
	 * of that stage is saved.
	 * Gives what went wrong, empty when nothing did.
	 */
	async stamp(stage: StageName, act: (version: number) => Promise<Answer>): Promise<string> {
		if (!(await this.flush(stage))) return 'What was typed last is not saved yet: once it is, press again.';
		return this.inTurn(async () => {
			const asked = await ask(act(this.versions[stage] ?? 1));
			// Done, and perhaps not to be seen: what stands on the screen then is what was there before, and that is told.
			if (asked.data) return this.#read();
			// Somebody saved meanwhile: what they saved is looked at first.
			if (isClash(asked)) await this.#read();
			return asked.trouble;
		});
	}

	/** Fetch what the server has; gives what went wrong, empty when nothing did. */
	refresh(): Promise<string> {
		return this.inTurn(() => this.#read());
	}

	async #read(): Promise<string> {
		const { data, trouble } = await ask(
			api.GET('/api/jobs/{job_id}', { params: { path: { job_id: this.job.id } } })
		);
		if (!data) return trouble;
		this.history = data.history;
		this.asSigned = data.as_signed;
		const job = data.job as unknown as J;
		const same = (Object.keys(this.versions) as StageName[]).every(
			(s) => data.versions?.[s] === this.versions[s]
		);
		if (same && JSON.stringify(job[VEHICLE as keyof J]) === JSON.stringify(this.job[VEHICLE as keyof J]))
			return '';
		this.read(job, data.versions);
		// What the server stamped with time and person is not gone back over.
		this.forget((stage) => stage !== 'prove');
		this.compute();
		return '';
	}
}

/** A bench of any kind, for what does not ask. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any
export type AnyBench = JobBench<any, any>;
