import { describe, expect, it } from 'vitest';
import { length, number, otherUnit, plusMinus } from './format';

describe('lengths', () => {
	it('are whole millimetres, or hundredths of an inch', () => {
		expect(length(146.05, 'mm')).toBe('146');
		expect(length(146.05, 'in')).toBe('5.75');
	});
	it('carry a true minus sign, and no sign on nothing', () => {
		expect(length(-12.4, 'mm', { signed: true })).toBe('−12');
		expect(length(-0.2, 'mm', { signed: true })).toBe('0');
		expect(number(0.3049, 2, true)).toBe('+0.30');
	});
	it('tell a ± that there is, however small', () => {
		expect(plusMinus(2.4, 'mm')).toBe('2');
		expect(plusMinus(0.3, 'mm')).toBe('0.3');
		expect(plusMinus(0.01, 'mm')).toBe('0');
		expect(plusMinus(0.1, 'in')).toBe('0.004');
	});
	it('can be told in the other system', () => {
		expect(otherUnit(25.4, 'mm', true)).toBe('+1.00 in');
		expect(otherUnit(25.4, 'in')).toBe('25.4 mm');
	});
});
