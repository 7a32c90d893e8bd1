import { createInfiniteQuery, createQuery } from '@tanstack/svelte-query';
import { api, ask, type Schemas } from './api/client';
import { passes } from './bench/drafts';

/** What went wrong with a question: a sentence, whether waiting may help, and where what is stored can be had. */
class Trouble extends Error {
	constructor(
		sentence: string,
		refusal: unknown,
		readonly passes: boolean
	) {
		super(sentence);
		this.raw = (refusal as Schemas['Refusal'] | undefined)?.raw_address ?? undefined;
	}
	readonly raw: string | undefined;
}

async function whole<T>(
	answer: Promise<{ data?: unknown; error?: unknown; response: Response }>
): Promise<T> {
	const { data, trouble, refusal, status } = await ask(answer);
	if (trouble) throw new Trouble(trouble, refusal, passes(status));
	return data as T;
}

/** Where what is stored can be downloaded, of something that cannot be read. */
export const rawOf = (error: Error | null) => (error instanceof Trouble ? error.raw : undefined);

/** A list that is gone while the server is away comes back by itself. */
const COMES_BACK = {
	refetchInterval: (query: { state: { error: Error | null } }) =>
		query.state.error instanceof Trouble && query.state.error.passes ? 3000 : false
} as const;

export const shopQuery = () =>
	createQuery(() => ({
		...COMES_BACK,
		queryKey: ['shop'],
		staleTime: 60_000,
		queryFn: () => whole<Schemas['ShopView']>(api.GET('/api/shop'))
	}));

export const partsQuery = () =>
	createQuery(() => ({
		...COMES_BACK,
		queryKey: ['parts'],
		staleTime: Infinity,
		queryFn: () => whole<Schemas['BenchPart'][]>(api.GET('/api/part-bench'))
	}));

const PAGE = 50;
const next = (_: unknown, pages: { items: unknown[]; total: number }[]) => {
	const shown = pages.reduce((sum, page) => sum + page.items.length, 0);
	return shown < (pages.at(-1)?.total ?? 0) && pages.at(-1)?.items.length ? shown : undefined;
};

/** Which jobs are listed, and in what order. */
export type Listed = {
	state: 'all' | 'open' | 'overdue' | 'finished';
	kind: string;
	order: 'due' | 'title' | 'saved';
};
const ALL: Listed = { state: 'all', kind: '', order: 'due' };
export const jobsQuery = (words: () => string, listed: () => Listed = () => ALL) =>
	createInfiniteQuery(() => ({
		...COMES_BACK,
		queryKey: ['jobs', words(), listed()],
		initialPageParam: 0,
		placeholderData: <T>(before: T | undefined) => before,
		getNextPageParam: next,
		queryFn: ({ pageParam }) =>
			whole<Schemas['Page_JobSummary_']>(
				api.GET('/api/jobs', {
					params: { query: { limit: PAGE, offset: pageParam, words: words(), ...listed() } }
				})
			)
	}));

export const binQuery = () =>
	createInfiniteQuery(() => ({
		...COMES_BACK,
		queryKey: ['bin'],
		initialPageParam: 0,
		getNextPageParam: next,
		queryFn: ({ pageParam }) =>
			whole<Schemas['Page_BinnedSummary_']>(
				api.GET('/api/bin', { params: { query: { limit: PAGE, offset: pageParam } } })
			)
	}));

export const historyQuery = (id: () => string, wanted: () => boolean) =>
	createInfiniteQuery(() => ({
		queryKey: ['history', id()],
		enabled: wanted(),
		initialPageParam: undefined as number | undefined,
		getNextPageParam: (last: Schemas['HistoryLine'][]) => (last.length < PAGE ? undefined : last.at(-1)?.id),
		queryFn: ({ pageParam }) =>
			whole<Schemas['HistoryLine'][]>(
				api.GET('/api/jobs/{job_id}/history', {
					params: { path: { job_id: id() }, query: { limit: PAGE, before: pageParam } }
				})
			)
	}));

export const jobQuery = (id: () => string) =>
	createQuery(() => ({
		...COMES_BACK,
		queryKey: ['job', id()],
		gcTime: 0,
		refetchOnReconnect: false,
		queryFn: () =>
			whole<Schemas['JobView']>(api.GET('/api/jobs/{job_id}', { params: { path: { job_id: id() } } }))
	}));

export const cardQuery = (id: () => string, planVersion: () => unknown) =>
	createQuery(() => ({
		queryKey: ['card', id(), planVersion()],
		queryFn: () =>
			whole<Schemas['Card']>(api.GET('/api/jobs/{job_id}/card', { params: { path: { job_id: id() } } }))
	}));

export const outcomesQuery = (id: () => string, version: () => unknown) =>
	createQuery(() => ({
		queryKey: ['outcomes', id(), version()],
		queryFn: () =>
			whole<Schemas['Outcome'][]>(
				api.GET('/api/jobs/{job_id}/outcomes', { params: { path: { job_id: id() } } })
			)
	}));

/** What there is to know of every kind of machine. */
export const kindsQuery = () =>
	createQuery(() => ({
		...COMES_BACK,
		queryKey: ['kinds'],
		staleTime: Infinity,
		queryFn: () => whole<Record<string, Schemas['KindView']>>(api.GET('/api/kinds'))
	}));
/** Drawings of what a machine of a kind can be set up from, of one choice, by what is chosen. */
export const picturesQuery = (kind: () => string, choice: () => string, wanted: () => boolean) =>
	createQuery(() => ({
		...COMES_BACK,
		queryKey: ['pictures', kind(), choice()],
		enabled: wanted(),
		staleTime: Infinity,
		queryFn: () =>
			whole<Record<string, Schemas['Picture']>>(
				api.POST('/api/pictures', { body: { kind: kind(), choice: choice() } })
			)
	}));
/** What there is to know of one kind. */
export const kindQuery = (kind: () => string) =>
	createQuery(() => ({
		...COMES_BACK,
		queryKey: ['kinds'],
		staleTime: Infinity,
		queryFn: () => whole<Record<string, Schemas['KindView']>>(api.GET('/api/kinds')),
		select: (kinds: Record<string, Schemas['KindView']>) => kinds[kind()]
	}));

export const vehiclesQuery = (words: () => string) =>
	createInfiniteQuery(() => ({
		...COMES_BACK,
		queryKey: ['vehicles', words()],
		initialPageParam: 0,
		placeholderData: <T>(before: T | undefined) => before,
		getNextPageParam: next,
		queryFn: ({ pageParam }) =>
			whole<Schemas['Page_VehicleSummary_']>(
				api.GET('/api/vehicles', { params: { query: { limit: PAGE, offset: pageParam, words: words() } } })
			)
	}));

export const vehicleQuery = (id: () => number) =>
	createQuery(() => ({
		...COMES_BACK,
		queryKey: ['vehicle', id()],
		gcTime: 0,
		refetchOnReconnect: false,
		queryFn: () =>
			whole<Schemas['VehicleView']>(
				api.GET('/api/vehicles/{vehicle_id}', { params: { path: { vehicle_id: id() } } })
			)
	}));
