/** What this screen remembers of the person in front of it. */

export type Units = 'mm' | 'in';

function remembered(key: string): string {
	return typeof localStorage === 'undefined' ? '' : (localStorage.getItem(key) ?? '');
}

class Settings {
	person = $state(remembered('person'));
	units = $state<Units>(remembered('units') === 'in' ? 'in' : 'mm');
	theme = $state<'light' | 'dark'>(
		typeof document !== 'undefined' && document.documentElement.dataset.theme === 'dark' ? 'dark' : 'light'
	);

	choosePerson(name: string) {
		this.person = name;
		localStorage.setItem('person', name);
	}
	toggleUnits() {
		this.units = this.units === 'mm' ? 'in' : 'mm';
		localStorage.setItem('units', this.units);
	}
	toggleTheme() {
		this.theme = this.theme === 'light' ? 'dark' : 'light';
		localStorage.setItem('theme', this.theme);
		document.documentElement.dataset.theme = this.theme;
	}
}

export const settings = new Settings();
