import { vi } from 'vitest';

/**
 * What a bench needs of a page where there is none: a store that outlives it, addresses without a host, and a server.
 * Call it before the bench is imported. Gives what is stored.
 */
export function stubPage(server: (path: string, body: string, request: Request) => Promise<Response>) {
	const stored = new Map<string, string>();
	vi.stubGlobal('localStorage', {
		getItem: (key: string) => stored.get(key) ?? null,
		setItem: (key: string, value: string) => void stored.set(key, value),
		removeItem: (key: string) => void stored.delete(key)
	});
	// Tests of other files run beside this one: they are no tabs of its browser.
	vi.stubGlobal('BroadcastChannel', undefined);
	const RealRequest = Request;
	vi.stubGlobal(
		'Request',
		class extends RealRequest {
			constructor(input: string | URL | Request, init?: RequestInit) {
				super(typeof input === 'string' ? new URL(input, 'http://bench') : input, init);
			}
		}
	);
	vi.stubGlobal('fetch', async (request: Request) =>
		server(new URL(request.url).pathname, await request.text(), request)
	);
	return stored;
}
