/**
 * What was typed and is not saved yet, kept in this browser: over a reload, a crash, a server that is away.
 * A browser that keeps nothing (private window, full disk) is no reason to stop typing.
 */
export const drafts = {
	/** Keep it; false where the browser keeps nothing. */
	keep(key: string, value: unknown, store: Storage | null = localStorage): boolean {
		try {
			store?.setItem(key, JSON.stringify(value));
			return true;
		} catch {
			return false;
		}
	},
	/** What was kept; one that cannot be read is dropped. */
	kept<T>(key: string, store: Storage | null = localStorage): T | undefined {
		try {
			const text = store?.getItem(key) ?? null;
			return text === null ? undefined : (JSON.parse(text) as T);
		} catch {
			drafts.forget(key);
			return undefined;
		}
	},
	forget(key: string) {
		try {
			localStorage.removeItem(key);
		} catch {
			// Where nothing is kept there is nothing to forget.
		}
	},
	/** Drop everything that was kept of a job that is there no more. */
	forgetAll(prefix: string) {
		try {
			for (const key of Object.keys(localStorage)) if (key.startsWith(prefix)) localStorage.removeItem(key);
		} catch {
			// As above.
		}
	}
};

/** Seconds to wait before the nth try: soon at first, then rarely, never giving up. */
export const waitBefore = (tries: number) => Math.min(30, 2 ** Math.min(tries, 5));

/** Whether trying again by itself may help: nobody answered, or the server says that it cannot just now. */
export const passes = (status: number | undefined) => status === undefined || status >= 500;
