const plain = (text: string) => text.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, ' ');

/**
 * How well a name answers what was typed: every word of it has to stand in the name, best at the beginning of one of
 * its words. Letters that are merely there in that order are no answer: Enter would do something else.
 */
export function byWords(name: string, typed: string): number {
	const [there, words] = [` ${plain(name)}`, plain(typed).split(' ').filter(Boolean)];
	if (!words.every((word) => there.includes(word))) return 0;
	return words.every((word) => there.includes(` ${word}`)) ? 1 : 0.5;
}
