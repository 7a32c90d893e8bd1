/** What a form shows of a document, read from the core's own schema. */
export type Node =
	| {
			kind: 'number';
			unit: string;
			min?: number;
			max?: number;
			exclusive: boolean;
			step: number;
			slider?: [number, number];
			start: unknown;
	  }
	| { kind: 'text'; max?: number; start: unknown }
	| { kind: 'flag'; start: unknown }
	| { kind: 'choice'; options: (string | number)[]; start: unknown }
	| { kind: 'tuple'; items: Node[]; start: unknown }
	| { kind: 'list'; item: Node; start: unknown }
	| { kind: 'photos'; start: unknown }
	| { kind: 'map'; item: Node; keys: string[]; start: unknown }
	| { kind: 'object'; fields: Field[]; start: unknown }
	| { kind: 'union'; tag: string; options: Record<string, Node>; start: unknown };
export type Field = {
	name: string;
	title: string;
	help: string;
	node: Node;
	optional: boolean;
	required: boolean;
};
export type Schema = {
	[key: string]: unknown;
	type?: string;
	$ref?: string;
	$defs?: Record<string, Schema>;
	properties?: Record<string, Schema>;
	required?: string[];
	anyOf?: Schema[];
	oneOf?: Schema[];
	prefixItems?: Schema[];
	items?: Schema;
	additionalProperties?: Schema | boolean;
	propertyNames?: Schema;
	enum?: (string | number)[];
	discriminator?: { propertyName: string; mapping: Record<string, string> };
};
type Defs = Record<string, Schema>;

const named = (defs: Defs, ref: string) => defs[ref.split('/').at(-1) ?? ''] ?? {};

/**
 * The node of a schema; references are looked up in its own definitions, or in those given. A part that is not like
 * others of its kind says which of their examples it begins with.
 */
export function nodeOf(schema: Schema, defs: Defs = schema.$defs ?? {}, which = 0): Node {
	const examples = (schema.examples ?? []) as unknown[];
	const given = examples[which] ?? examples[0] ?? schema.default;
	if (schema.$ref) return nodeOf({ ...named(defs, schema.$ref), ...own(schema) }, defs, which);
	if (schema.anyOf) {
		const some = schema.anyOf.find((b) => b.type !== 'null') ?? {};
		return nodeOf({ ...some, ...own(schema) }, defs, which);
	}
	if (schema.discriminator) {
		const options = Object.fromEntries(
			Object.entries(schema.discriminator.mapping).map(([tag, ref]) => [
				tag,
				nodeOf(named(defs, ref), defs, which)
			])
		);
		const first = Object.values(options)[0];
		return { kind: 'union', tag: schema.discriminator.propertyName, options, start: given ?? first?.start };
	}
	if (schema.enum) return { kind: 'choice', options: schema.enum, start: given ?? schema.enum[0] };
	if (schema.type === 'boolean') return { kind: 'flag', start: given ?? false };
	if (schema.type === 'string' || schema.const !== undefined)
		return {
			kind: 'text',
			max: schema.maxLength as number | undefined,
			start: schema.const ?? given ?? (schema.minLength ? 'new' : '')
		};
	if (schema.prefixItems) {
		const items = schema.prefixItems.map((s) => nodeOf(s, defs, which));
		return { kind: 'tuple', items, start: given ?? items.map((n) => n.start) };
	}
	if (schema.shows === 'photographs') return { kind: 'photos', start: [] };
	if (schema.type === 'array')
		return { kind: 'list', item: nodeOf(schema.items ?? {}, defs, which), start: given ?? [] };
	if (schema.properties) return objectOf(schema, defs, which);
	if (schema.type === 'object')
		return {
			kind: 'map',
			item: nodeOf(schema.additionalProperties as Schema, defs, which),
			keys: (schema.propertyNames?.enum ?? []).map(String),
			start: given ?? {}
		};
	const min = (schema.minimum ?? schema.exclusiveMinimum) as number | undefined;
	const max = (schema.maximum ?? schema.exclusiveMaximum) as number | undefined;
	const exclusive = schema.exclusiveMinimum !== undefined;
	const zero = min === undefined || min < 0 ? 0 : exclusive ? (min ? min * 1.2 : 1) : min;
	return {
		kind: 'number',
		unit: (schema.unit as string) ?? '',
		min,
		max,
		exclusive,
		step: (schema.step as number) ?? 1,
		slider: schema.slider as [number, number] | undefined,
		start: given ?? zero
	};
}

/** What a reference or a choice with null says of the field itself. */
function own(schema: Schema): Schema {
	const not = ['$ref', 'anyOf', ...(schema.default === null ? ['default'] : [])];
	return Object.fromEntries(Object.entries(schema).filter(([key]) => !not.includes(key)));
}

function objectOf(schema: Schema, defs: Defs, which: number): Node {
	const required = schema.required ?? [];
	const fields: Field[] = [];
	const start: Record<string, unknown> = {};
	for (const [name, s] of Object.entries(schema.properties ?? {})) {
		const node = nodeOf(s, defs, (s.example as number | undefined) ?? which);
		if (required.includes(name)) start[name] = node.start;
		if (s.set_by === 'changes') continue;
		if (s.const !== undefined) {
			start[name] = s.const; // which branch of a union this is, not a thing to fill in
			continue;
		}
		fields.push({
			name,
			title: (s.title as string) ?? name.replaceAll('_', ' '),
			help: (s.description as string) ?? '',
			node,
			optional: s.anyOf?.some((b) => b.type === 'null') ?? false,
			required: required.includes(name)
		});
	}
	return { kind: 'object', fields: inOrder(fields), start };
}

/** What has to be given comes first, then what may be left as it is or out, how well it is known, which part it is. */
function inOrder<F extends Field>(fields: F[]): F[] {
	const rank = (f: Field) =>
		f.name === 'part' ? 4 : f.title.endsWith('±') ? 3 : f.optional ? 2 : f.required ? 0 : 1;
	return fields.toSorted((a, b) => rank(a) - rank(b));
}

/** A field with where it stands in its document. */
export type Placed = Field & { path: string[] };

/**
 * All fields of an object in one row, those of the objects in it too. What may be left out whole is told where the
 * machine is set up.
 */
export function laidOut(node: Node, path: string[] = []): Placed[] {
	if (node.kind !== 'object') return [];
	return inOrder(
		node.fields.flatMap((f): Placed[] => {
			const here = [...path, f.name];
			if (f.node.kind !== 'object') return [{ ...f, path: here }];
			return f.optional ? [] : laidOut(f.node, here);
		})
	);
}

/** What stands at a path of a document. */
export const valueAt = (document: unknown, path: string[]): unknown =>
	path.reduce<unknown>((at, key) => (at as Record<string, unknown> | undefined)?.[key], document);

/** The document with something else at a path. */
export function withValue<D>(document: D, path: string[], to: unknown): D {
	const [head, ...rest] = path;
	if (head === undefined) return to as D;
	const fields = (document ?? {}) as Record<string, unknown>;
	return { ...fields, [head]: withValue(fields[head], rest, to) } as D;
}

/** One more row like the last, under a name that none of them has: two of one name are refused. */
export function another(rows: unknown[], start: unknown): unknown {
	const row = rows.at(-1) ?? start;
	const nameOf = (of: unknown) => (of as { name?: unknown } | null)?.name;
	const name = nameOf(row);
	if (typeof name !== 'string' || !name || !rows.some((r) => nameOf(r) === name)) return row;
	const stem = name.replace(/ \d+$/, '');
	const taken = new Set(rows.map(nameOf));
	let n = 2;
	while (taken.has(`${stem} ${n}`)) n += 1;
	return { ...(row as object), name: `${stem} ${n}` };
}

/** A field of an object's node. */
export function fieldOf(node: Node | undefined, ...path: string[]): Field | undefined {
	const [name, ...rest] = path;
	const field = node?.kind === 'object' ? node.fields.find((f) => f.name === name) : undefined;
	return rest.length ? fieldOf(field?.node, ...rest) : field;
}

/** Whether it fits into one cell of a form. */
export const isPlain = (node: Node) => ['number', 'text', 'flag', 'choice'].includes(node.kind);
