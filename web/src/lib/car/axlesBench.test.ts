import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../api/client';
import { stubPage } from '../testing/page';

type Body = { version?: number; vehicle?: unknown; tape?: { key: string }[] };
const saves: Body[] = [];
/** Axles whose parts were asked for. */
const drawings: Body[] = [];
/** Answers of the bench held back until let go, oldest first. */
const held: (() => void)[] = [];
/** What the core says goes along with a point. */
const followed = [
	{ name: 'arm_left', along: [], images: ['arm_right'] },
	{ name: 'spring_body', along: ['damper_body'], images: [] }
];
const stored = stubPage(async (path, text) => {
	const body = JSON.parse(text) as Body;
	if (path === '/api/bench') {
		await new Promise<void>((go) => held.push(go));
		return Response.json({ fit: { axle: { ...body, fitted: true } }, points: followed });
	}
	if (path === '/api/bench/drawn') {
		drawings.push(body);
		return Response.json({ views: {}, right: [] });
	}
	saves.push(body);
	return Response.json({ version: (body.version ?? 0) + 1 });
});
const { AxlesBench } = await import('./axlesBench.svelte');

const points = {
	wheel_centre: [0, 760, 315],
	arm_left: [0, 400, 200],
	arm_right: [0, -400, 200],
	spring_body: [0, 500, 600],
	damper_body: [0, 500, 600]
};
const axle = () => ({ linkage: { kind: 'x', points }, tape: [] as { key: string }[] });
const view = () =>
	({
		vehicle: { name: 'Reed', front: axle(), rear: axle() },
		owner: 'Eel House',
		version: 4
	}) as unknown as Schemas['VehicleView'];
const answers = async () => {
	for (let n = 0; n < 12; n++) {
		held.shift()?.();
		await vi.advanceTimersByTimeAsync(1);
	}
};
type Loose = { tape: { key: string }[]; prior: { points: Record<string, number[]> }; fitted?: boolean };
const front = (bench: InstanceType<typeof AxlesBench>) => bench.vehicle.front as unknown as Loose;
const read = (bench: InstanceType<typeof AxlesBench>, key: string) =>
	bench.setAxle('front', { ...front(bench), tape: [...front(bench).tape, { key }] } as never);

beforeEach(() => {
	vi.useFakeTimers();
	stored.clear();
	saves.length = 0;
	drawings.length = 0;
	held.length = 0;
});
afterEach(() => vi.useRealTimers());

describe('a vehicle on the bench', () => {
	it('keeps readings that are typed while an earlier one is still being fitted', async () => {
		const bench = new AxlesBench(1, view());
		await answers();
		read(bench, 'a');
		await vi.advanceTimersByTimeAsync(1);
		read(bench, 'b');
		held.shift()?.(); // the answer to the first alone
		await vi.advanceTimersByTimeAsync(1);
		read(bench, 'c');
		await answers();
		expect(front(bench).tape.map((t) => t.key)).toEqual(['a', 'b', 'c']);
		expect(front(bench).fitted).toBe(true);
		await vi.advanceTimersByTimeAsync(2000);
		expect(saves).toHaveLength(1);
		expect(saves[0]?.version).toBe(4);
		expect(bench.versions.vehicle).toBe(5);
	});

	it('asks for the parts of what stands still, and shows them with no other points', async () => {
		const bench = new AxlesBench(1, view());
		await answers();
		expect(drawings).toHaveLength(0);
		read(bench, 'a');
		await answers();
		await vi.advanceTimersByTimeAsync(600);
		// One of each end: of what stood there for a moment only, nothing was drawn.
		expect(drawings.filter((d) => d.tape?.length === 1)).toHaveLength(1);
		expect(bench.drawnOf('front')).toBeDefined();
		read(bench, 'b');
		await answers();
		expect(bench.drawnOf('front')).toBeUndefined();
	});

	it('undoes and redoes what was typed, and forgets the redone once something else is done', async () => {
		const bench = new AxlesBench(1, view());
		await answers();
		read(bench, 'a');
		await answers();
		read(bench, 'b');
		await answers();
		bench.undo();
		await answers();
		expect(front(bench).tape.map((t) => t.key)).toEqual(['a']);
		bench.redo();
		await answers();
		expect(front(bench).tape.map((t) => t.key)).toEqual(['a', 'b']);
		bench.undo();
		read(bench, 'c');
		expect(bench.redoable).toBe(false);
		expect(front(bench).tape.map((t) => t.key)).toEqual(['a', 'c']);
	});

	it('moves what the core says goes along: the twin on an even axle, a damper with its spring', async () => {
		const bench = new AxlesBench(1, view());
		await answers();
		bench.movePoint('front', 'arm_left', [0, 410, 210], true);
		expect(front(bench).prior.points.arm_right).toEqual([0, -410, 210]);
		bench.movePoint('front', 'spring_body', [5, 500, 610], true);
		expect(front(bench).prior.points.damper_body).toEqual([5, 500, 610]);
	});

	it('moves one side alone when it is unlocked', async () => {
		const bench = new AxlesBench(1, view());
		await answers();
		bench.movePoint('front', 'arm_left', [0, 410, 210], false);
		expect(front(bench).prior.points.arm_right).toEqual([0, -400, 200]);
	});
});
