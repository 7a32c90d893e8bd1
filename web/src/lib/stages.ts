import type { StageName } from './api/client';

/** The stages in the order of work. */
export const STAGES: { id: StageName; name: string }[] = [
	{ id: 'brief', name: 'Brief' },
	{ id: 'measure', name: 'Measure' },
	{ id: 'plan', name: 'Plan' },
	{ id: 'align', name: 'Align' },
	{ id: 'build', name: 'Build' },
	{ id: 'prove', name: 'Prove' }
];
