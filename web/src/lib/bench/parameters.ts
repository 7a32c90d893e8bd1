/** A parameter of a change, as its schema describes it. */
export type Parameter = {
	path: string[];
	title: string;
	kind: 'number' | 'text' | 'flag';
	unit: string;
	min?: number;
	max?: number;
	exclusive: boolean;
	optional: boolean;
	step: number;
	slider?: [number, number];
};

type Schema = Record<string, unknown> & {
	properties?: Record<string, Schema>;
	anyOf?: Schema[];
	$defs?: Record<string, Schema>;
};

/** The fields of a change's form, from the core's own schema: titles, units and limits live there only. */
export function parameters(schema: Schema): Parameter[] {
	const all = fields(schema, schema.$defs ?? {}, []);
	// How well a number is known comes after the numbers themselves.
	return [...all.filter((p) => !p.title.endsWith('±')), ...all.filter((p) => p.title.endsWith('±'))];
}

function fields(schema: Schema, defs: Record<string, Schema>, path: string[]): Parameter[] {
	return Object.entries(schema.properties ?? {}).flatMap(([name, field]) => {
		if (path.length === 0 && (name === 'type' || name === 'axle')) return [];
		if (field.const !== undefined) return []; // which branch of a union this is, not a thing to fill in
		const reference = field.$ref as string | undefined;
		if (reference) return fields(defs[reference.split('/').at(-1) ?? ''] ?? {}, defs, [...path, name]);
		const branch = field.anyOf?.find((b) => b.type !== 'null');
		if (branch?.$ref) return []; // a part that may be left out is told where the vehicle is set up
		const shape: Schema = { ...branch, ...field };
		const type = branch?.type ?? field.type;
		const parameter: Parameter[] = [
			{
				path: [...path, name],
				title: (shape.title as string) ?? name,
				kind: type === 'string' ? 'text' : type === 'boolean' ? 'flag' : 'number',
				unit: (shape.unit as string) ?? '',
				min: (shape.minimum ?? shape.exclusiveMinimum) as number | undefined,
				max: (shape.maximum ?? shape.maxLength) as number | undefined,
				exclusive: shape.exclusiveMinimum !== undefined,
				optional: field.anyOf !== undefined,
				step: (shape.step as number) ?? 1,
				slider: shape.slider as [number, number] | undefined
			}
		];
		return parameter;
	});
}
