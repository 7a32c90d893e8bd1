/**
 * A hold: a pointer or a key from its going down to its coming up. Whatever it changes on the way, at any pace, is one
 * step to go back over.
 */
let count = 0;
let held = 0;
let afterwards: (() => void)[] = [];

function down() {
	held = ++count;
}
function up() {
	const mine = held;
	// What a control tells of when it is let go still belongs to it.
	setTimeout(() => {
		if (held !== mine) return;
		held = 0;
		const due = afterwards;
		afterwards = [];
		due.forEach((act) => act());
	});
}

if (typeof window !== 'undefined') {
	addEventListener('pointerdown', down, { capture: true });
	addEventListener('keydown', (event) => event.repeat || down(), { capture: true });
	for (const end of ['pointerup', 'pointercancel', 'keyup', 'blur']) addEventListener(end, up);
}

/** Which hold is going on; 0 where there is none. */
export const hold = () => held;

/** Do something once what is held now is let go, after what it still tells of then. */
export const whenReleased = (act: () => void) => void afterwards.push(act);
