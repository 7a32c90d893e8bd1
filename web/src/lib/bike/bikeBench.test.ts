import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../api/client';
import { stubPage } from '../testing/page';

type Plan = { changes: unknown[]; override: string };
const asked: { job: { plan: Plan }; sag_mm: number }[] = [];
/** How long the server thinks about each sag in turn, ms. */
let slow: number[] = [];
const stored = stubPage(async (path, text) => {
	const body = text ? JSON.parse(text) : undefined;
	if (path !== '/api/sag') return Response.json({ version: 2 });
	asked.push(body);
	await new Promise((done) => setTimeout(done, slow.shift() ?? 5));
	// The spring is set beside what else is planned.
	const others = body.job.plan.changes.filter((c: { id: string }) => c.id !== 'sag');
	return Response.json({ changes: [...others, { id: 'sag', mm: body.sag_mm }] });
});
const { BikeBench } = await import('./bikeBench.svelte');

const view = () =>
	({
		kind: 'bike',
		job: { id: 'teal', plan: { changes: [], override: '' } },
		versions: { brief: 1, measure: 1, plan: 1, align: 1, build: 1, prove: 1 },
		history: []
	}) as unknown as Schemas['JobView'];
const changes = (bench: InstanceType<typeof BikeBench>) => (bench.job.plan as unknown as Plan).changes;

beforeEach(() => {
	vi.useFakeTimers();
	stored.clear();
	asked.length = 0;
	slow = [];
});
afterEach(() => vi.useRealTimers());

describe('a sag that is dragged', () => {
	it('ends where it was let go, though the first answers take longest', async () => {
		const bench = new BikeBench(view());
		slow = [900, 100, 5];
		for (const sag of [40, 45, 50]) {
			bench.setSag('rear', sag);
			await vi.advanceTimersByTimeAsync(10);
		}
		await vi.advanceTimersByTimeAsync(3000);
		expect(asked.map((a) => a.sag_mm)).toEqual([40, 50]);
		expect(changes(bench)).toEqual([{ id: 'sag', mm: 50 }]);
	});

	it('undoes nothing that was planned while it was worked out', async () => {
		const bench = new BikeBench(view());
		slow = [900];
		bench.setSag('rear', 40);
		await vi.advanceTimersByTimeAsync(100);
		bench.plan([{ id: 'rod' }]);
		await vi.advanceTimersByTimeAsync(3000);
		expect(asked.map((a) => a.job.plan.changes)).toEqual([[], [{ id: 'rod' }]]);
		expect(changes(bench)).toEqual([{ id: 'rod' }, { id: 'sag', mm: 40 }]);
	});
});
