import { describe, expect, it, test } from 'vitest';
import { another, fieldOf, laidOut, nodeOf, valueAt, withValue, type Schema } from './form';

const schema: Schema = {
	type: 'object',
	required: ['type', 'rate_n_per_mm', 'groups'],
	properties: {
		type: { const: 'coil', type: 'string' },
		part: { type: 'string', title: 'Part number', default: '' },
		rate_tolerance: { type: 'number', title: 'Rate ±', default: 4 },
		rate_n_per_mm: { type: 'number', title: 'Rate', unit: 'N/mm', exclusiveMinimum: 0, maximum: 2000 },
		groups: { type: 'array', items: { $ref: '#/$defs/Group' } },
		helper: { anyOf: [{ $ref: '#/$defs/Group' }, { type: 'null' }], default: null, title: 'Helper' },
		by_name: { type: 'object', additionalProperties: { type: 'number', minimum: 0 } },
		at: { type: 'array', prefixItems: [{ type: 'number' }, { type: 'number' }] }
	},
	$defs: {
		Group: {
			type: 'object',
			required: ['coils'],
			properties: { coils: { type: 'number', examples: [6], exclusiveMinimum: 0 } }
		}
	}
};

describe('a form read from a schema', () => {
	const node = nodeOf(schema);
	it('starts a new document with what is required, and with the branch it is of', () => {
		expect(node.start).toEqual({ type: 'coil', rate_n_per_mm: 1, groups: [] });
	});
	it('has numbers first, then how well they are known, then the part', () => {
		const names = node.kind === 'object' ? node.fields.map((f) => f.name) : [];
		expect(names.slice(0, 1)).toEqual(['rate_n_per_mm']);
		expect(names.slice(-2)).toEqual(['rate_tolerance', 'part']);
	});
	it('knows limits, units and what may be left out', () => {
		expect(fieldOf(node, 'rate_n_per_mm')?.node).toMatchObject({
			unit: 'N/mm',
			min: 0,
			max: 2000,
			exclusive: true
		});
		expect(fieldOf(node, 'helper')).toMatchObject({ optional: true, title: 'Helper' });
		expect(fieldOf(node, 'helper')?.node.start).toEqual({ coils: 6 });
	});
	it('sees lists, names and tuples', () => {
		const groups = fieldOf(node, 'groups')?.node;
		expect(groups?.kind === 'list' && groups.item.start).toEqual({ coils: 6 });
		expect(fieldOf(node, 'by_name')?.node.kind).toBe('map');
		expect(fieldOf(node, 'at')?.node.start).toEqual([0, 0]);
	});
});

test('a part that is not like others of its kind begins with the example it names', () => {
	const node = nodeOf({
		$defs: {
			Shaft: {
				type: 'object',
				required: ['at'],
				properties: { at: { type: 'number', examples: [220, -220] } }
			},
			Axle: {
				type: 'object',
				properties: { shaft: { anyOf: [{ $ref: '#/$defs/Shaft' }, { type: 'null' }] } }
			}
		},
		type: 'object',
		properties: { front: { $ref: '#/$defs/Axle', example: 1 }, rear: { $ref: '#/$defs/Axle' } }
	});
	expect(fieldOf(node, 'front', 'shaft')?.node.start).toEqual({ at: -220 });
	expect(fieldOf(node, 'rear', 'shaft')?.node.start).toEqual({ at: 220 });
});

describe('all fields of a change in one row', () => {
	const laid = laidOut(
		nodeOf({
			$defs: {
				Coil: {
					type: 'object',
					properties: {
						type: { const: 'coil_spring', title: 'Type' },
						known: { type: 'number', title: 'Rate ±' },
						rate: { type: 'number', title: 'Rate', unit: 'N/mm', exclusiveMinimum: 0, maximum: 2000 }
					}
				}
			},
			type: 'object',
			properties: {
				type: { const: 'x' },
				coil: { $ref: '#/$defs/Coil' },
				thickness: {
					type: 'number',
					title: 'Thickness',
					unit: 'mm',
					minimum: 1,
					maximum: 80,
					step: 2,
					slider: [1, 40]
				},
				stud: { anyOf: [{ type: 'number', minimum: 0 }, { type: 'null' }], title: 'Stud', unit: 'mm' },
				keeps: { type: 'boolean', title: 'Stops stay in' },
				wire: { anyOf: [{ $ref: '#/$defs/Coil' }, { type: 'null' }] }
			}
		} as Schema)
	);
	it('has what lies in the objects in it, and a yes or no as such', () => {
		expect(laid.map((f) => [f.path.join('.'), f.node.kind, f.optional])).toEqual([
			['coil.rate', 'number', false],
			['thickness', 'number', false],
			['keeps', 'flag', false],
			['stud', 'number', true],
			['coil.known', 'number', false]
		]);
		expect(laid[1]?.node).toMatchObject({ slider: [1, 40], step: 2, min: 1, max: 80 });
	});
	it('is read and put at any depth without touching what was there', () => {
		const change = { type: 'x', coil: { rate: 20, known: 1 } };
		const path = laid[0]?.path ?? [];
		const put = withValue(change, path, 25);
		expect([valueAt(change, path), valueAt(put, path), put.coil.known]).toEqual([20, 25, 1]);
	});
});

describe('one more row of a list', () => {
	const sill = { name: 'sill', x: 3 };
	it('is like the last, under a name of its own', () => {
		expect(another([], sill)).toEqual(sill);
		expect(another([sill], {})).toEqual({ name: 'sill 2', x: 3 });
		const three = [sill, { name: 'sill 3', x: 1 }, { name: 'sill 2', x: 9 }];
		expect(another(three, {})).toEqual({ name: 'sill 4', x: 9 });
	});
	it('and is a plain copy where rows have no names', () => {
		expect(another([{ turns: 2 }], {})).toEqual({ turns: 2 });
		expect(another([{ name: '', x: 1 }], {})).toEqual({ name: '', x: 1 });
		expect(another([1.5], 0)).toBe(1.5);
	});
});

it('nobody is asked for what only changes write', () => {
	const lowered: Schema = { type: 'number', default: 0, set_by: 'changes' };
	const node = nodeOf({ type: 'object', properties: { stroke: { type: 'number' }, lowered } });
	expect(node.kind === 'object' && node.fields.map((f) => f.name)).toEqual(['stroke']);
});
