export const match = (given: string) =>
	['brief', 'measure', 'plan', 'align', 'build', 'prove'].includes(given);
