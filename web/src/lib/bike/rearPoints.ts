import type { Schemas } from '../api/client';

export type Rear = Schemas['Bike']['rear'];
export type Place = [number, number];

/** Every point of a rear end by name, forward from the axle and up from the ground, mm. */
export function pointsOf(rear: Rear): Record<string, Place> {
	if (rear.kind === 'free') return rear.points as Record<string, Place>;
	return Object.fromEntries(Object.entries(rear).filter(([, at]) => Array.isArray(at))) as Record<
		string,
		Place
	>;
}

/** The rear end with a point elsewhere. */
export function withPoint(rear: Rear, name: string, to: Place): Rear {
	const at = to.map((v) => Math.round(v * 100) / 100) as Place;
	if (rear.kind === 'free') return { ...rear, points: { ...rear.points, [name]: at } };
	return { ...rear, [name]: at } as Rear;
}

/** A shift on the drawing told in the machine's frame, which is turned on the ground by an angle, rad. */
export function inFrame([dx, dz]: Place, turn: number): Place {
	const [c, s] = [Math.cos(turn), Math.sin(turn)];
	return [c * dx + s * dz, c * dz - s * dx];
}
