import type { Schemas } from '../api/client';

export type Hold = { held: boolean; despite: string };
type Step = Schemas['Step'];

/** What can be done on a card; each is kept at once, and gives what is against it, empty where nothing is. */
export type CardActs = {
	tick(step: string, done: boolean, hold?: Hold, minutes?: number): Promise<string>;
	/** A torque that was read, with the angle where a wrench told it. */
	torque(
		step: Step,
		fastener: string,
		reading: Schemas['Torque'] | undefined,
		angle?: number
	): Promise<string>;
	/** Tightened to no figure. */
	byFeel(step: Step, fastener: string): Promise<string>;
	/** Told, or told anew where it has an id. */
	found(finding: Schemas['NewFinding'], id?: string): Promise<string>;
	withdraw(id: string): Promise<string>;
	/** A job opened for what was found; its id. */
	followUp(id: string): Promise<string>;
	/** Kept with the vehicle at its joint, for whoever opens it next. */
	keep(id: string): Promise<string>;
	setting(row: Schemas['SettingRow'], read: { before?: number; after?: number }): Promise<string>;
};

/** Something found at a step, to begin with. */
export const newFinding = (step: string): Schemas['NewFinding'] => ({
	step,
	kind: 'defect',
	what: '',
	photos: [],
	decision: 'later',
	because: '',
	work: '',
	part: null,
	minutes_least: 5,
	minutes_most: 15
});

export const KINDS = [
	['defect', 'defect'],
	['worn', 'worn'],
	['seized', 'seized'],
	['sheared', 'sheared'],
	['missing', 'missing'],
	['fouling', 'rubs'],
	['note', 'note']
] as const;
export const DECISIONS = [
	['later', 'another job'],
	['now', 'do it now'],
	['left', 'leave it as it is'],
	['noted', 'only note it']
] as const;
/** The same once it is decided. */
export const SETTLED = [
	['now', 'done on this job'],
	['later', 'for another job'],
	['left', 'left as it is'],
	['noted', 'only noted']
] as const;
