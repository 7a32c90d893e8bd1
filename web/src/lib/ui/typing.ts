const TEXT =
	'textarea, select, [role=dialog], [contenteditable=true], input:not([type=checkbox]):not([type=radio]):not([type=range]):not([type=button])';

/** Whether a key that was pressed belongs to a field somebody types in (or to a dialog), and is no shortcut. */
export const isTyped = (event: Event) => !!(event.target as Element | null)?.closest(TEXT);
