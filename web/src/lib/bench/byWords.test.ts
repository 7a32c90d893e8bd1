import { expect, it } from 'vitest';
import { byWords } from './byWords';

it('asks for every word, best at the beginning of one, and for no letters strewn about', () => {
	expect(byWords('Add tyres and wheels', 'tyres')).toBe(1);
	expect(byWords('Add another eye or clevis', 'tyres')).toBe(0);
	expect(byWords('Add spring-seat spacer, front', 'Seat spacer, front')).toBe(1);
	expect(byWords('Add spring-seat spacer, rear', 'seat spacer, front')).toBe(0);
	expect(byWords('Millimetres or inches', 'metres')).toBe(0.5);
	expect(byWords('All jobs', ' ')).toBe(1);
});
