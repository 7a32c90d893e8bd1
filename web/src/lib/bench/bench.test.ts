import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../api/client';
import { stubPage } from '../testing/page';

type Call = {
	method: string;
	path: string;
	query: URLSearchParams;
	body: { version: number; section: unknown } | undefined;
};
const calls: Call[] = [];
let answer: (call: Call) => { status: number; body: unknown } | 'lost';

const stored = stubPage(async (path, text, request) => {
	const query = new URL(request.url).searchParams;
	const call = { method: request.method, path, query, body: text ? JSON.parse(text) : undefined };
	calls.push(call);
	const made = answer(call);
	if (made === 'lost') throw new TypeError('network');
	return Response.json(made.body, { status: made.status });
});
/** Which pointer or key is down. */
const hands = vi.hoisted(() => ({ hold: 0, released: [] as (() => void)[] }));
vi.mock('./hold', () => ({
	hold: () => hands.hold,
	whenReleased: (act: () => void) => hands.released.push(act)
}));
const { CarBench: Bench } = await import('../car/carBench.svelte');
const { reading, standing } = await import('../ui/unread.svelte');

function view(): Schemas['JobView'] {
	return {
		kind: 'car',
		job: { id: 'van', brief: { load: 'mail' }, plan: { changes: [], override: '' } },
		versions: { brief: 3, measure: 1, plan: 1, align: 1, build: 1, prove: 1 },
		history: []
	} as unknown as Schemas['JobView'];
}
const brief = (load: string) => ({ load }) as unknown as Schemas['Brief'];
const saves = () => calls.filter((c) => c.method === 'PUT');
const settled = () => vi.advanceTimersByTimeAsync(2000);

beforeEach(() => {
	vi.useFakeTimers();
	stored.clear();
	calls.length = 0;
	hands.hold = 0;
	hands.released.length = 0;
	answer = (call) => ({
		status: 200,
		body:
			call.method === 'PUT'
				? { version: call.body!.version + 1 }
				: call.method === 'GET'
					? view()
					: { rise: 1 }
	});
});
afterEach(() => vi.useRealTimers());

describe('putting changes on the stack', () => {
	const stackOf = (call: Call) => (call.body as unknown as { job: Schemas['Job'] }).job.plan.changes ?? [];
	const begun = () => calls.filter((c) => c.path === '/api/changes/begin');
	beforeEach(() => {
		answer = (call) => ({
			status: 200,
			body: call.path === '/api/changes/begin' ? { id: `c${stackOf(call).length + 1}` } : { version: 2 }
		});
	});

	it('begins one after the other, each on the stack the last one left', async () => {
		const bench = new Bench(view());
		const both = Promise.all([bench.begin('coil_over', 'front'), bench.begin('collar', 'front')]);
		await settled();
		expect(await both).toEqual(['', '']);
		expect(bench.job.plan.changes?.map((p) => p.id)).toEqual(['c1', 'c2']);
		expect(begun().map((c) => stackOf(c).length)).toEqual([0, 1]);
	});

	it('begins anew where the plan was changed meanwhile', async () => {
		const bench = new Bench(view());
		const usual = answer;
		answer = (call) => {
			const made = usual(call);
			if (begun().length === 1 && !bench.job.plan.changes?.length) bench.plan([{ id: 'c1' }]);
			return made;
		};
		const added = bench.begin('collar', 'front');
		await settled();
		expect(await added).toBe('');
		expect(bench.job.plan.changes?.map((p) => p.id)).toEqual(['c1', 'c2']);
	});
});

describe('what is typed', () => {
	it('is read and saved before anything goes by it', async () => {
		const bench = new Bench(view());
		let heard = () => {};
		const read = new Promise<void>((done) => (heard = done)).then(() =>
			bench.change('brief', brief('mail and a dog'))
		);
		reading(read);
		expect(standing('saved')).toBe('waiting');
		const act = vi.fn((version: number) => Promise.resolve({ data: { version }, response: new Response() }));
		const done = bench.stamp('brief', act);
		await settled();
		expect(act).not.toHaveBeenCalled();
		heard();
		await settled();
		expect(await done).toBe('');
		expect(saves().map((c) => c.body?.section)).toEqual([brief('mail and a dog')]);
		expect(act.mock.calls).toEqual([[4]]);
		expect(standing('saved')).toBe('saved');
	});

	it('is told where it was done and nobody can see it', async () => {
		const bench = new Bench(view());
		answer = (call) => (call.method === 'GET' ? 'lost' : { status: 200, body: { version: 2 } });
		const done = bench.stamp('brief', (version) =>
			Promise.resolve({ data: { version }, response: new Response() })
		);
		await settled();
		expect(await done).not.toBe('');
	});
});

describe('saving', () => {
	it('waits for the hand to rest, then saves once on the version that was read', async () => {
		const bench = new Bench(view());
		for (const load of ['e', 'em', 'empty']) bench.change('brief', brief(load));
		expect(bench.saving).toBe('waiting');
		await settled();
		expect(saves()).toHaveLength(1);
		expect(saves()[0]?.body).toMatchObject({ kind: 'car', version: 3, section: { load: 'empty' } });
		expect(bench.versions.brief).toBe(4);
		expect(bench.saving).toBe('saved');
		expect(stored.size).toBe(0);
	});

	it('goes back over a drag in one step, at whatever pace, forward again, and saves what stands', async () => {
		const bench = new Bench(view());
		hands.hold = 7;
		for (const load of ['e', 'em', 'empty']) {
			bench.change('brief', brief(load));
			await vi.advanceTimersByTimeAsync(900); // a slow machine, a slow hand
		}
		hands.hold = 8;
		bench.change('brief', brief('full'));
		bench.undo();
		expect(bench.job.brief.load).toBe('empty');
		bench.undo();
		expect(bench.job.brief.load).toBe('mail');
		expect(bench.undoable).toBe(false);
		bench.redo();
		bench.redo();
		expect(bench.redoable).toBe(false);
		bench.undo();
		await settled();
		expect(saves().at(-1)?.body?.section).toEqual({ load: 'empty' });
	});

	it('keeps what was typed while nobody answers, tries again, and saves it then', async () => {
		answer = () => 'lost';
		const bench = new Bench(view());
		bench.change('brief', brief('two sacks'));
		await settled();
		expect(bench.saving).toBe('unsaved');
		expect(bench.saveTrouble).toContain('What you typed is kept here');
		expect(JSON.parse(stored.get('unsaved:van:brief') ?? '{}')).toEqual({
			version: 3,
			section: { load: 'two sacks' },
			base: { load: 'mail' }
		});
		answer = (call) => ({ status: 200, body: call.method === 'PUT' ? { version: 4 } : {} });
		await vi.advanceTimersByTimeAsync(5000);
		expect(bench.saving).toBe('saved');
		expect(stored.size).toBe(0);
	});

	it('picks up what another visit could not save', async () => {
		stored.set('unsaved:van:brief', JSON.stringify({ version: 2, section: { load: 'left over' } }));
		const bench = new Bench(view());
		expect(bench.job.brief.load).toBe('left over');
		await settled();
		expect(saves()[0]?.body).toMatchObject({ kind: 'car', version: 2, section: { load: 'left over' } });
	});

	it('shows a refusal in words and keeps the section', async () => {
		answer = (call) =>
			call.method === 'PUT'
				? {
						status: 422,
						body: {
							sentence: 'This field is missing.',
							complaints: [{ path: 'section.owner', sentence: 'x' }]
						}
					}
				: { status: 200, body: {} };
		const bench = new Bench(view());
		bench.change('brief', brief(''));
		await settled();
		expect(bench.saveTrouble).toBe('section.owner: This field is missing.');
		expect(stored.has('unsaved:van:brief')).toBe(true);
	});
});

describe('one write at a time', () => {
	/** Answers of the server held back until let go, so that the next action comes while one is under way. */
	function slowly() {
		const held: (() => void)[] = [];
		const quick = globalThis.fetch;
		vi.stubGlobal('fetch', async (request: Request) => {
			if (request.method !== 'GET') await new Promise<void>((go) => held.push(go));
			return quick(request);
		});
		return { next: async () => (held.shift()?.(), settled()), restore: () => vi.stubGlobal('fetch', quick) };
	}

	it('ticks in quick succession go one after another, each on the version the last one made', async () => {
		let version = 1;
		const bench = new Bench(view());
		await settled();
		answer = (call) => ({
			status: 200,
			body: call.method === 'GET' ? { ...view(), versions: { build: ++version } } : {}
		});
		const seen: number[] = [];
		const act = async (v: number) => {
			seen.push(v);
			return { data: {}, response: new Response() };
		};
		const said = await Promise.all([
			bench.stamp('build', act),
			bench.stamp('build', act),
			bench.stamp('build', act)
		]);
		expect(seen).toEqual([1, 2, 3]);
		expect(said).toEqual(['', '', '']);
	});

	it('a change made while a save is under way is saved on top of it, not against it', async () => {
		const bench = new Bench(view());
		await settled();
		const slow = slowly();
		bench.change('brief', brief('mail'));
		void bench.flush();
		await settled();
		bench.change('brief', brief('mail and driver'));
		void bench.flush();
		for (let n = 0; n < 6; n++) await slow.next();
		slow.restore();
		expect(saves().map((s) => s.body)).toMatchObject([
			{ kind: 'car', version: 3, section: { load: 'mail' } },
			{ kind: 'car', version: 4, section: { load: 'mail and driver' }, base: { load: 'mail' } }
		]);
		expect(bench.conflict).toBeUndefined();
	});

	it('what is typed while it is being saved is saved before it is signed', async () => {
		const bench = new Bench(view());
		await settled();
		const slow = slowly();
		const signed: number[] = [];
		const after = (note: string) => ({ note }) as never;
		bench.change('prove', after('417'));
		const signing = bench.stamp('prove', async (version) => {
			signed.push(version);
			return { data: {}, response: new Response() };
		});
		await settled();
		bench.change('prove', after('418'));
		for (let n = 0; n < 6; n++) await slow.next();
		slow.restore();
		expect(await signing).toBe('');
		const written = saves().map((s) => s.body?.section);
		expect(written).toEqual([{ note: '417' }, { note: '418' }]);
		expect(signed).toEqual([bench.versions.prove]);
	});

	it('nothing is signed on what could not be saved', async () => {
		const bench = new Bench(view());
		await settled();
		answer = () => 'lost';
		bench.change('prove', { note: 'x' } as never);
		const act = vi.fn();
		expect(await bench.stamp('prove', act)).toContain('not saved yet');
		expect(act).not.toHaveBeenCalled();
	});

	it('a tick does not wipe out what is typed elsewhere and not yet saved', async () => {
		const bench = new Bench(view());
		bench.change('brief', brief('typed'));
		answer = (call) => ({ status: 200, body: call.method === 'GET' ? view() : { version: 4 } });
		await bench.stamp('build', async () => ({ data: {}, response: new Response() }));
		expect(bench.job.brief.load).toBe('typed');
		await settled();
		expect(saves()[0]?.body).toMatchObject({ kind: 'car', version: 3, section: { load: 'typed' } });
	});
});

describe('two hands on one stage', () => {
	const contested = [{ path: 'load', where: 'Load', mine: 'driver', theirs: 'empty' }];
	const clash = { sentence: 'Bram changed the same', contested, version: 9, by: 'Bram' };
	/** The server merges by what both began from, and asks about what both changed. */
	const chosen = (call: Call) => (call.body as unknown as { chosen: Record<string, string> }).chosen.load;
	beforeEach(() => {
		answer = (call) =>
			call.method === 'PUT' && !chosen(call)
				? { status: 409, body: clash }
				: {
						status: 200,
						body:
							call.method !== 'PUT'
								? {}
								: { version: 10, section: chosen(call) === 'theirs' ? { load: 'empty' } : null }
					};
	});

	it('overwrites nothing by itself', async () => {
		const bench = new Bench(view());
		bench.change('brief', brief('driver'));
		await settled();
		expect(bench.conflict).toMatchObject({ part: 'brief', by: 'Bram', contested });
		expect(bench.job.brief.load).toBe('driver');
		expect(saves()).toHaveLength(1);
	});

	it('keeps theirs where that is chosen', async () => {
		const bench = new Bench(view());
		bench.change('brief', brief('driver'));
		await settled();
		await bench.choose({ load: 'theirs' });
		expect(bench.job.brief.load).toBe('empty');
		expect([bench.versions.brief, bench.saving, bench.undoable]).toEqual([10, 'saved', false]);
		expect(stored.size).toBe(0);
		await settled();
		expect(saves()).toHaveLength(2);
	});

	it('keeps mine where that is chosen, and says what it stands on', async () => {
		const bench = new Bench(view());
		bench.change('brief', brief('driver'));
		await settled();
		await bench.choose({ load: 'mine' });
		expect(saves()[1]?.body).toMatchObject({
			section: { load: 'driver' },
			base: { load: 'mail' },
			version: 3
		});
		expect([bench.job.brief.load, bench.versions.brief]).toEqual(['driver', 10]);
		expect(bench.conflict).toBeUndefined();
	});

	it('lets what is typed while others’ entries come in stand on what was sent', async () => {
		answer = () => ({ status: 200, body: { version: 7, section: { load: 'a', purpose: 'theirs' } } });
		const bench = new Bench(view());
		bench.change('brief', brief('a'));
		const saving = bench.flush();
		bench.change('brief', brief('ab'));
		await saving;
		await settled();
		const bodies = saves().map((c) => c.body as unknown as { base: object; section: object });
		expect(bodies.at(-1)).toMatchObject({ section: { load: 'ab' } });
		expect(bench.saving).toBe('saved');
	});
});

describe('prediction', () => {
	it('seeks no ways to a height while something is dragged, and does once it is let go', async () => {
		const bench = new Bench(view());
		await settled();
		const sought = () => calls.filter((c) => c.path === '/api/predict').map((c) => c.query.get('ways'));
		hands.hold = 3;
		for (const load of ['e', 'em', 'empty']) {
			bench.change('brief', brief(load));
			await vi.advanceTimersByTimeAsync(50);
		}
		expect(sought()).toEqual(['true', 'true', 'false', 'false']);
		hands.hold = 0;
		expect(hands.released).toHaveLength(1);
		hands.released.pop()?.();
		await settled();
		expect(sought().slice(4)).toEqual(['true']);
		bench.change('brief', brief('typed'));
		await settled();
		expect(sought().slice(5)).toEqual(['true']);
	});

	it('keeps the last good answer when the next cannot be computed, and says why', async () => {
		let good = true;
		answer = () =>
			good
				? { status: 200, body: { rise: 17 } }
				: { status: 422, body: { sentence: 'The front axle finds no ride height.' } };
		const bench = new Bench(view());
		await settled();
		expect(bench.prediction).toEqual({ rise: 17 });
		good = false;
		bench.compute();
		await settled();
		expect(bench.prediction).toEqual({ rise: 17 });
		expect(bench.trouble).toBe('The front axle finds no ride height.');
		expect(bench.computing).toBe(false);
	});
});
