import type { AxleName, Schemas } from '../api/client';

export type Sheet = Schemas['OnPartBench']['sheet'];
/** A part on its way from the bench into a job: kept until the job's plan has it. */
export type Carried = { job: string; axle: AxleName | null; sheet: Sheet };

const KEY = 'inclinum.part';

export function carry(part: Carried) {
	sessionStorage.setItem(KEY, JSON.stringify(part));
}

/** What is on its way to a job; it is taken once. */
export function taken(job: string): Carried | undefined {
	const found = sessionStorage.getItem(KEY);
	if (!found) return undefined;
	const part = JSON.parse(found) as Carried;
	if (part.job !== job) return undefined;
	sessionStorage.removeItem(KEY);
	return part;
}
