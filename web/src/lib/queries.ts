import { createQuery } from '@tanstack/svelte-query';
import { api, sentence, type Schemas } from './api/client';

async function whole<T>(answer: Promise<{ data?: unknown; error?: unknown }>): Promise<T> {
	const { data, error } = await answer.catch(() => ({ data: undefined, error: undefined }));
	if (data === undefined) throw new Error(sentence(error));
	return data as T;
}

export const shopQuery = () =>
	createQuery(() => ({
		queryKey: ['shop'],
		staleTime: 60_000,
		queryFn: () => whole<Schemas['ShopView']>(api.GET('/api/shop'))
	}));

export const jobsQuery = () =>
	createQuery(() => ({
		queryKey: ['jobs'],
		queryFn: () => whole<Schemas['JobSummary'][]>(api.GET('/api/jobs'))
	}));

export const jobQuery = (id: () => string) =>
	createQuery(() => ({
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

export const changeKindsQuery = () =>
	createQuery(() => ({
		queryKey: ['change-kinds'],
		staleTime: Infinity,
		queryFn: () => whole<Schemas['ChangeKind'][]>(api.GET('/api/change-kinds'))
	}));

export const vehiclesQuery = () =>
	createQuery(() => ({
		queryKey: ['vehicles'],
		queryFn: () => whole<Schemas['VehicleSummary'][]>(api.GET('/api/vehicles'))
	}));

export const bikeQuery = (id: () => number) =>
	createQuery(() => ({
		queryKey: ['bike', id()],
		gcTime: 0,
		queryFn: () =>
			whole<Schemas['BikeView']>(api.GET('/api/bikes/{bike_id}', { params: { path: { bike_id: id() } } }))
	}));

export const vehicleQuery = (id: () => number) =>
	createQuery(() => ({
		queryKey: ['vehicle', id()],
		gcTime: 0,
		refetchOnReconnect: false,
		queryFn: () =>
			whole<Schemas['VehicleView']>(
				api.GET('/api/vehicles/{vehicle_id}', { params: { path: { vehicle_id: id() } } })
			)
	}));

export const choicesQuery = () =>
	createQuery(() => ({
		queryKey: ['archetypes'],
		staleTime: Infinity,
		queryFn: () => whole<Schemas['Choices']>(api.GET('/api/archetypes'))
	}));

export const bikeChoicesQuery = () =>
	createQuery(() => ({
		queryKey: ['bike-archetypes'],
		staleTime: Infinity,
		queryFn: () => whole<Schemas['BikeChoices']>(api.GET('/api/bike-archetypes'))
	}));

export const bikeJobQuery = (id: () => string) =>
	createQuery(() => ({
		queryKey: ['bike-job', id()],
		gcTime: 0,
		refetchOnReconnect: false,
		queryFn: () =>
			whole<Schemas['BikeJobView']>(
				api.GET('/api/bike-jobs/{job_id}', { params: { path: { job_id: id() } } })
			)
	}));

export const bikeCardQuery = (id: () => string, planVersion: () => unknown) =>
	createQuery(() => ({
		queryKey: ['bike-card', id(), planVersion()],
		queryFn: () =>
			whole<Schemas['BikeCard']>(
				api.GET('/api/bike-jobs/{job_id}/card', { params: { path: { job_id: id() } } })
			)
	}));
