import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../api/client';
import { stubPage } from '../testing/page';
import { inFrame, pointsOf, withPoint, type Rear } from './rearPoints';

type Body = { version: number; chosen?: object; vehicle: { rear: { pivot: number[] } } };
const saves: Body[] = [];
let clash = false;
const stored = stubPage(async (path, text) => {
	const body = JSON.parse(text);
	if (path === '/api/bench') return Response.json({ drawn: body.rear.pivot });
	saves.push(body);
	const theirs = { sentence: 'Two hands.', contested: [], version: 9, by: 'Oda' };
	return clash ? Response.json(theirs, { status: 409 }) : Response.json({ version: body.version + 1 });
});
/** Which pointer or key is down. */
const hands = vi.hoisted(() => ({ hold: 0 }));
vi.mock('../bench/hold', () => ({ hold: () => hands.hold }));
const { WholeBench } = await import('./wholeBench.svelte');

const direct = { kind: 'direct', axle: [0, 318], pivot: [550, 400] } as unknown as Rear;
const view = () =>
	({
		kind: 'bike',
		vehicle: { name: 'Reed', rear: direct },
		owner: 'Eel House',
		version: 4
	}) as unknown as Schemas['VehicleView'];
const pivot = (bench: InstanceType<typeof WholeBench>) => pointsOf(bench.vehicle.rear).pivot;

beforeEach(() => {
	vi.useFakeTimers();
	stored.clear();
	saves.length = 0;
	clash = false;
});
afterEach(() => vi.useRealTimers());

describe('points of a rear end', () => {
	it('are fields of the known kinds and a mapping of a free one', () => {
		expect(pointsOf(direct)).toEqual({ axle: [0, 318], pivot: [550, 400] });
		const free = { kind: 'free', points: { axle: [0, 300] } } as unknown as Rear;
		expect(pointsOf(withPoint(free, 'eye', [1.234, 5.678]))).toEqual({ axle: [0, 300], eye: [1.23, 5.68] });
		expect(pointsOf(free)).toEqual({ axle: [0, 300] });
	});
	it('are moved in the frame, whichever way it is turned on the ground', () => {
		const turn = 0.3;
		const [x, z] = inFrame([10, 4], turn);
		// Turned back onto the ground it is the shift that was drawn.
		expect(Math.cos(turn) * x - Math.sin(turn) * z).toBeCloseTo(10, 9);
		expect(Math.sin(turn) * x + Math.cos(turn) * z).toBeCloseTo(4, 9);
	});
});

describe('a machine on its bench', () => {
	it('undoes a drag in one step, redoes it, and saves what stands at the end', async () => {
		const bench = new WholeBench(3, view());
		hands.hold = 1;
		bench.movePoint('pivot', [551, 401]);
		bench.movePoint('pivot', [552, 402]);
		hands.hold = 0;
		bench.tape('axle.pivot', { text: '556', value: 556 } as Schemas['Length']);
		expect(bench.vehicle.tape).toHaveLength(1);
		bench.undo();
		expect([pivot(bench), bench.vehicle.tape]).toEqual([[552, 402], undefined]);
		bench.undo();
		expect([pivot(bench), bench.undoable]).toEqual([[550, 400], false]);
		bench.redo();
		expect(pivot(bench)).toEqual([552, 402]);
		expect(stored.get('unsaved:#3:vehicle')).toContain('552');
		await vi.advanceTimersByTimeAsync(1000);
		expect(saves.map((s) => s.vehicle.rear.pivot)).toEqual([[552, 402]]);
		expect([bench.saving, bench.versions.vehicle, stored.size]).toEqual(['saved', 5, 0]);
		expect((bench.view as unknown as { drawn: number[] }).drawn).toEqual([552, 402]);
	});

	it('keeps what was not saved for the next time', () => {
		new WholeBench(3, view()).movePoint('pivot', [560, 410]);
		expect(pivot(new WholeBench(3, view()))).toEqual([560, 410]);
		expect(pivot(new WholeBench(4, view()))).toEqual([550, 400]);
	});

	it('asks when two hands were on it, and takes either', async () => {
		clash = true;
		const mine = new WholeBench(3, view());
		mine.movePoint('pivot', [560, 410]);
		await vi.advanceTimersByTimeAsync(1000);
		expect([mine.conflict?.by, mine.saving, pivot(mine)]).toEqual(['Oda', 'unsaved', [560, 410]]);
		clash = false;
		await mine.choose({ 'rear/pivot': 'mine' });
		expect([saves.at(-1)?.chosen, mine.saving, mine.conflict]).toEqual([
			{ 'rear/pivot': 'mine' },
			'saved',
			undefined
		]);
	});
});
