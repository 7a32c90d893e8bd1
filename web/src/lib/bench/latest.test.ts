import { expect, it } from 'vitest';
import { Latest } from './latest';

it('asks one at a time, skips wishes that were overtaken, and ends on the newest', async () => {
	const asked: number[] = [];
	const told: number[] = [];
	const release: (() => void)[] = [];
	const latest = new Latest<number, number>(
		(wish) => {
			asked.push(wish);
			return new Promise((resolve) => release.push(() => resolve(wish * 10)));
		},
		(answer) => told.push(answer)
	);
	latest.wish(1);
	latest.wish(2);
	latest.wish(3);
	release[0]?.();
	await new Promise((resolve) => setTimeout(resolve));
	release[1]?.();
	await new Promise((resolve) => setTimeout(resolve));
	expect(asked).toEqual([1, 3]);
	expect(told).toEqual([10, 30]);
});
