import { settings, type Days, type Units } from './settings.svelte';

const MM_PER_INCH = 25.4;
const MINUS = '−';

function fixed(value: number, digits: number, signed: boolean): string {
	const text = Math.abs(value).toFixed(digits);
	const zero = Number(text) === 0;
	const sign = value < 0 && !zero ? MINUS : signed && !zero ? '+' : '';
	return sign + text;
}

/** A length in the chosen unit system, without the unit. */
export function length(
	mm: number,
	units: Units,
	options: { signed?: boolean; digits?: number } = {}
): string {
	const digits = options.digits ?? 0;
	return units === 'mm'
		? fixed(mm, digits, options.signed ?? false)
		: fixed(mm / MM_PER_INCH, digits + 2, options.signed ?? false);
}

/** A ± of a length: a few tenths are not told as none. */
export function plusMinus(mm: number, units: Units): string {
	const told = length(mm, units);
	if (Number(told) !== 0) return told;
	const finer = length(mm, units, { digits: 1 });
	return Number(finer) === 0 ? told : finer;
}

/** The same length in the other system, with its unit: for hover. */
export function otherUnit(mm: number, units: Units, signed = false): string {
	return units === 'mm'
		? `${length(mm, 'in', { signed })} in`
		: `${length(mm, 'mm', { signed, digits: 1 })} mm`;
}

/** A plain number with a true minus sign. */
export function number(value: number, digits: number, signed = false): string {
	return fixed(value, digits, signed);
}

/** A date in the order the shop writes it; the month in letters, so that nobody can mistake it for the day. */
export function day(iso: string, order: Days = settings.days): string {
	const date = new Date(iso);
	const month = date.toLocaleDateString('en-GB', { month: 'short' });
	const [d, y] = [date.getDate(), date.getFullYear()];
	return { 'en-GB': `${d} ${month} ${y}`, 'en-US': `${month} ${d}, ${y}`, 'sv-SE': `${y} ${month} ${d}` }[
		order
	];
}

/** A date with its time of day. */
export function moment(iso: string): string {
	const at = new Date(iso).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
	return `${day(iso).replace(/,? ?\d{4} ?/, '')}, ${at}`;
}
