/** Writes what is drawn on the screen to a file, as a picture that needs nothing else. */

const LOOKS = [
	'fill',
	'fill-opacity',
	'stroke',
	'stroke-width',
	'stroke-dasharray',
	'stroke-linecap',
	'stroke-linejoin',
	'stroke-opacity',
	'paint-order',
	'font-family',
	'font-size',
	'font-weight',
	'text-anchor',
	'display'
];
const SHARPER = 2;

/** A drawing with every look on its own elements: the page's styles do not come along into a file. */
export function standalone(drawn: SVGSVGElement): string {
	const copy = drawn.cloneNode(true) as SVGSVGElement;
	const from = [drawn, ...drawn.querySelectorAll('*')];
	const to = [copy, ...copy.querySelectorAll('*')];
	from.forEach((element, i) => {
		const look = getComputedStyle(element);
		const target = to[i] as SVGElement;
		for (const name of LOOKS) {
			target.style.setProperty(name, look.getPropertyValue(name));
			target.removeAttribute(name);
		}
		target.removeAttribute('class');
	});
	// A photograph stays in the shop: the file would only name where it is kept.
	for (const picture of copy.querySelectorAll('image')) picture.remove();
	copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
	copy.style.background = getComputedStyle(document.body).getPropertyValue('--chalk');
	return new XMLSerializer().serializeToString(copy);
}

/** As a file of lines. */
export function saveSvg(drawn: SVGSVGElement, name: string) {
	download(new Blob([standalone(drawn)], { type: 'image/svg+xml' }), `${name}.svg`);
}

/** As a file of points, twice as fine as on the screen. */
export async function savePng(drawn: SVGSVGElement, name: string) {
	const { width, height } = drawn.getBoundingClientRect();
	const picture = new Image();
	picture.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(standalone(drawn))}`;
	await picture.decode();
	const canvas = document.createElement('canvas');
	[canvas.width, canvas.height] = [width * SHARPER, height * SHARPER];
	const on = canvas.getContext('2d') as CanvasRenderingContext2D;
	on.fillStyle = getComputedStyle(document.body).getPropertyValue('--chalk') || '#ffffff';
	on.fillRect(0, 0, canvas.width, canvas.height);
	on.drawImage(picture, 0, 0, canvas.width, canvas.height);
	const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'));
	if (blob) download(blob, `${name}.png`);
}

function download(blob: Blob, name: string) {
	const link = document.createElement('a');
	link.href = URL.createObjectURL(blob);
	link.download = name.replaceAll(/[^\p{L}\p{N}.-]+/gu, '-');
	link.click();
	setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}
