/** What this screen remembers of the person in front of it. */

export type Units = 'mm' | 'in';
/** In which order a day is written, by a locale that writes it so. */
export const DAYS = [
	['en-GB', 'day first'],
	['en-US', 'month first'],
	['sv-SE', 'year first']
] as const;
export type Days = (typeof DAYS)[number][0];

function remembered(key: string): string {
	try {
		return localStorage.getItem(key) ?? '';
	} catch {
		return ''; // A browser that keeps nothing starts anew each time.
	}
}

function remember(key: string, value: string) {
	try {
		localStorage.setItem(key, value);
	} catch {
		// As above.
	}
}

class Settings {
	person = $state(remembered('person'));
	units = $state<Units>(remembered('units') === 'in' ? 'in' : 'mm');
	days = $state<Days>(DAYS.find(([of]) => of === remembered('days'))?.[0] ?? 'en-GB');
	theme = $state<'light' | 'dark'>(
		typeof document !== 'undefined' && document.documentElement.dataset.theme === 'dark' ? 'dark' : 'light'
	);

	choosePerson(name: string) {
		this.person = name;
		remember('person', name);
	}
	toggleUnits() {
		this.units = this.units === 'mm' ? 'in' : 'mm';
		remember('units', this.units);
	}
	chooseDays(days: Days) {
		this.days = days;
		remember('days', days);
	}
	toggleTheme() {
		this.theme = this.theme === 'light' ? 'dark' : 'light';
		remember('theme', this.theme);
		document.documentElement.dataset.theme = this.theme;
	}
}

export const settings = new Settings();
