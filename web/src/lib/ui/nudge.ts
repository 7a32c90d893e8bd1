/** By how much an arrow key moves a thing to the right and up, mm; ten at a time with shift. None for other keys. */
export function nudge(event: KeyboardEvent): [number, number] | undefined {
	const step = event.shiftKey ? 10 : 1;
	const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
	return by && [step * (by[0] ?? 0), step * (by[1] ?? 0)];
}
