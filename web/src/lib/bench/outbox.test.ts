import 'fake-indexeddb/auto';
import { IDBFactory } from 'fake-indexeddb';
import { beforeEach, expect, it, vi } from 'vitest';
import type { Schemas } from '../api/client';
import { stubPage } from '../testing/page';

type Act = { id: string; ago_s: number; do: string; step: string };
type Request = { job: string; person: string; acts: Act[] };
const requests: Request[] = [];
/** What the server did, by the acts' own ids. */
const done = new Map<string, Act>();
let answers: (request: Request) => Response | undefined | Promise<Response | undefined>;
stubPage(async (path, text, request) => {
	const body = JSON.parse(text);
	const made = {
		job: path.split('/')[3] as string,
		person: request.headers.get('x-acting-person') ?? '',
		...body
	};
	requests.push(made);
	const other = await answers(made);
	if (other) return other;
	for (const act of made.acts as Act[]) done.set(act.id, act);
	return Response.json({ version: done.size, build: { ticks: [], torques: [], found: [] }, refused: [] });
});
const { Outbox, withActs, withSettings } = await import('./outbox.svelte');

const tick = (step: string) =>
	({ do: 'tick', step, done: true, held: false, despite: '', minutes: null }) as const;
const settled = () => new Promise((end) => setTimeout(end, 60));
const away = () => {
	throw new TypeError('network');
};

beforeEach(() => {
	vi.stubGlobal('indexedDB', new IDBFactory());
	requests.length = 0;
	done.clear();
	answers = () => undefined;
});

it('sends what was done quickly together, each once, and is empty when the server has it', async () => {
	const box = new Outbox();
	await box.opened;
	for (let n = 0; n < 40; n++) box.add('van', 'Ines', tick(`s${n}`), `step ${n}`);
	expect(box.of('van')).toHaveLength(40);
	expect(await box.flush('van')).toBe(true);
	expect([...done.values()].map((act) => act.step)).toEqual(Array.from({ length: 40 }, (_, n) => `s${n}`));
	expect(requests.length).toBeLessThan(5);
	expect(box.waiting).toEqual([]);
});

it('keeps what was done over a reload in the next moment, with its person and its time', async () => {
	answers = away;
	const box = new Outbox();
	await box.opened;
	box.add('van', 'Ines', tick('a'), 'a');
	box.add('van', 'Bram Ö', tick('b'), 'b');
	// The page goes, without a moment for anything to end.
	const next = new Outbox();
	await next.opened;
	expect(next.of('van').map((w) => [w.act.do === 'tick' && w.act.step, w.person])).toEqual([
		['a', 'Ines'],
		['b', 'Bram Ö']
	]);
	await settled();
	requests.length = 0;
	answers = () => undefined;
	await next.flush('van');
	expect(requests.map((r) => [decodeURIComponent(r.person), r.acts.length])).toEqual([
		['Ines', 1],
		['Bram Ö', 1]
	]);
	expect(requests[0]?.acts[0]?.ago_s).toBeGreaterThan(0.02);
});

it('sends again what was answered by nobody, and it is the same act', async () => {
	let lost = true;
	answers = (request) => {
		if (!lost) return undefined;
		// The server did it; its answer is lost.
		for (const act of request.acts) done.set(act.id, act);
		return away();
	};
	const box = new Outbox();
	await box.opened;
	box.add('van', 'Ines', tick('a'), 'a');
	await settled();
	expect([box.of('van').length, box.trouble]).toEqual([1, expect.stringContaining('does not answer')]);
	lost = false;
	expect(await box.flush('van')).toBe(true);
	expect([done.size, requests.length]).toEqual([1, 2]);
});

it('tells what was refused, sends it no more, and lets it go when it was read or done again', async () => {
	answers = ({ acts }) =>
		Response.json({
			version: 2,
			build: { ticks: [], torques: [], found: [] },
			refused: acts.filter((a) => a.step === 'gone').map((a) => ({ id: a.id, sentence: 'No such step.' }))
		});
	const box = new Outbox();
	await box.opened;
	box.add('van', 'Ines', tick('gone'), 'gone');
	box.add('van', 'Ines', tick('there'), 'there');
	await box.flush('van');
	expect(box.waiting.map((w) => [w.words, w.refused])).toEqual([['gone', 'No such step.']]);
	expect(
		withActs({ ticks: [], torques: [], found: [] } as unknown as Schemas['Build'], box.waiting).ticks
	).toEqual([]);
	const sent = requests.length;
	await box.flush('van');
	expect(requests).toHaveLength(sent);
	const other = new Outbox();
	await other.opened;
	expect(other.waiting).toHaveLength(1);
	other.drop(other.waiting[0]!.id);
	expect(other.waiting).toEqual([]);
});

it('parts a batch that one act spoils: the others are done', async () => {
	answers = ({ acts }) =>
		acts.some((a) => a.step === 'bad')
			? Response.json({ sentence: 'No torque.' }, { status: 422 })
			: undefined;
	const box = new Outbox();
	await box.opened;
	for (const step of ['a', 'bad', 'c']) box.add('van', 'Ines', tick(step), step);
	await box.flush('van');
	expect([...done.values()].map((a) => a.step)).toEqual(['a', 'c']);
	expect(box.waiting.map((w) => [w.words, w.refused])).toEqual([['bad', 'No torque.']]);
});

it('shows what is on its way as done: ticks, torques, findings, settings', () => {
	const build = {
		ticks: [{ step: 'a', done_at: '2026-01-01T00:00:00Z', by: 'Bram', despite: '', minutes: null, work: '' }],
		torques: [{ fastener: 'hub', axle: 'rear', side: null, torque: null, by_feel: true, by: 'Bram' }],
		found: [{ id: 'f1', what: 'rust' }]
	} as unknown as Schemas['Build'];
	const on = (act: object, at = 0) =>
		({ id: `${at}`, job: 'van', person: 'Ines', at, turn: at, words: '', act }) as unknown as Parameters<
			typeof withActs
		>[1][number];
	const shown = withActs(build, [
		on({ ...tick('a'), done: false }),
		on(tick('b')),
		on({ do: 'torque', fastener: 'hub', axle: 'rear', torque: '80 Nm' }),
		on({ do: 'withdraw', key: 'f1' }),
		on({ do: 'found', key: 'f2', found: { what: 'play' } })
	]);
	expect(shown.ticks.map((t) => [t.step, t.by])).toEqual([['b', 'Ines']]);
	expect(shown.torques.map((t) => [t.torque?.value, t.by])).toEqual([[80, 'Ines']]);
	expect(shown.found?.map((f) => f.id)).toEqual(['f2']);
	const row = { key: 'collar', axle: 'rear', side: 'left', before: 3, after: null };
	const read = on({ do: 'setting', setting: { key: 'collar', axle: 'rear', side: 'left', after: 9 } });
	const rows = withSettings([row, { ...row, side: 'right' }] as unknown as Schemas['SettingRow'][], [read]);
	expect(rows.map((r) => [r.before, r.after])).toEqual([
		[3, 9],
		[3, null]
	]);
});
