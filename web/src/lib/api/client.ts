import createClient, { type Middleware } from 'openapi-fetch';
import type { components, paths } from './schema';
import { settings } from '../settings.svelte';

export type Schemas = components['schemas'];
export type Job = Schemas['Job'];
export type Prediction = Schemas['Prediction'];
export type AxleName = 'front' | 'rear';
export type Side = 'left' | 'right';
export type StageName = 'brief' | 'measure' | 'plan' | 'align' | 'build' | 'prove';

const who: Middleware = {
	onRequest({ request }) {
		// What somebody did before somebody else sat down is sent in their name.
		if (settings.person && !request.headers.has('x-acting-person'))
			request.headers.set('x-acting-person', encodeURIComponent(settings.person));
		return request;
	},
	/** Where nobody answers that is told like any refusal: no caller has two ways of failing. */
	onError() {
		return Response.json({ status: 503, sentence: SILENT, complaints: [] }, { status: 503 });
	}
};
const SILENT = 'The bench does not answer. What you typed is kept here and is saved when it does.';

export const api = createClient<paths>({ baseUrl: '/' });
api.use(who);

/** What was asked for, or why there is none: in a sentence, with all that was said of it. */
export type Asked<T> = { data?: T; trouble: string; refusal?: unknown; status?: number };

/** Wait for an answer. Never rejects: an answer that is cut off or is no answer is told as a silent bench. */
export async function ask<T>(
	answer: Promise<{ data?: T; error?: unknown; response: Response }>
): Promise<Asked<T>> {
	try {
		const { data, error, response } = await answer;
		if (response.ok) return { data, trouble: '', status: response.status };
		return { trouble: sentence(error), refusal: error, status: response.status };
	} catch {
		return { trouble: SILENT };
	}
}

/** What the server said was wrong, as a sentence for people. */
export function sentence(error: unknown): string {
	if (error && typeof error === 'object' && 'sentence' in error) {
		const refusal = error as Schemas['Refusal'];
		const where = refusal.complaints?.[0]?.path;
		return where && where !== '(the file)' && !refusal.sentence.startsWith(where)
			? `${where}: ${refusal.sentence}`
			: refusal.sentence;
	}
	return SILENT;
}
