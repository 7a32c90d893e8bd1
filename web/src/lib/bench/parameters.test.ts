import { expect, it } from 'vitest';
import { parameters } from './parameters';

it('reads titles, units, limits and nesting from a change’s schema', () => {
	const found = parameters({
		$defs: {
			Coil: {
				properties: {
					type: { const: 'coil_spring', title: 'Type' },
					known: { type: 'number', title: 'Rate ±' },
					rate: { type: 'number', title: 'Rate', unit: 'N/mm', exclusiveMinimum: 0, maximum: 2000 }
				}
			}
		},
		properties: {
			type: { const: 'x' },
			axle: { enum: ['front', 'rear'] },
			coil: { $ref: '#/$defs/Coil' },
			thickness: { type: 'number', title: 'Thickness', unit: 'mm', minimum: 1, maximum: 80, slider: [1, 40] },
			stud: { anyOf: [{ type: 'number', minimum: 0 }, { type: 'null' }], title: 'Stud', unit: 'mm' },
			keeps: { type: 'boolean', title: 'Stops stay in' },
			wire: { anyOf: [{ $ref: '#/$defs/Coil' }, { type: 'null' }] },
			part: { type: 'string', title: 'Part', maxLength: 60 }
		}
	});
	expect(found.map((p) => [p.path.join('.'), p.kind, p.min, p.max, p.exclusive, p.optional])).toEqual([
		['coil.rate', 'number', 0, 2000, true, false],
		['thickness', 'number', 1, 80, false, false],
		['stud', 'number', 0, undefined, false, true],
		['keeps', 'flag', undefined, undefined, false, false],
		['part', 'text', undefined, 60, false, false],
		['coil.known', 'number', undefined, undefined, false, false]
	]);
	expect(found[1]?.slider).toEqual([1, 40]);
});
