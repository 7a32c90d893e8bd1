import type { StageName } from './api/client';
import type { Wing } from './wings';

const NAMES: Record<StageName, string> = {
	brief: 'Brief',
	measure: 'Measure',
	plan: 'Plan',
	align: 'Align',
	build: 'Build',
	prove: 'Prove'
};

/** The stages in the order of work, as a kind of machine calls them. */
export const stagesOf = (wing: Wing): { id: StageName; name: string }[] =>
	(Object.keys(NAMES) as StageName[]).map((id) => ({ id, name: wing.called[id] ?? NAMES[id] }));
