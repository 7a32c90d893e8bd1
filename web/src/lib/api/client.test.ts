import { expect, it } from 'vitest';
import { api, sentence } from './client';

it('tells a server that is away like any refusal: no call throws, and none is silent', async () => {
	const fetch = () => Promise.reject(new TypeError('network'));
	const { data, error, response } = await api.GET('/api/shop', { baseUrl: 'http://bench', fetch });
	expect(data).toBeUndefined();
	expect(response.status).toBe(503);
	expect(sentence(error)).toContain('The bench does not answer');
});

it('says where a refusal lies, unless its sentence begins with it', async () => {
	const refused = { sentence: 'It must be more.', complaints: [{ path: 'front.spring', sentence: '' }] };
	const fetch = () => Promise.resolve(Response.json(refused, { status: 422 }));
	const { error } = await api.GET('/api/shop', { baseUrl: 'http://bench', fetch });
	expect(sentence(error)).toBe('front.spring: It must be more.');
});
