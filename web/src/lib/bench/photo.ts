import { api, ask, type Asked, type Schemas } from '../api/client';

/** A picture larger than this is made smaller here already: it has to come through a workshop's network. */
const SENT_WHOLE = 1_500_000;
const LONGEST_PX = 2048;

export const photoAt = (id: string) => `/api/photos/${id}`;

/** Keep a picture that was chosen; where this browser cannot make it smaller it goes as it is. */
export async function keepPhoto(file: File): Promise<Asked<Schemas['Kept']>> {
	const data = file.size > SENT_WHOLE ? ((await smaller(file)) ?? file) : file;
	return ask(
		api.POST('/api/photos', {
			body: data as unknown as string,
			bodySerializer: (body) => body as unknown as BodyInit,
			headers: { 'content-type': data.type || 'application/octet-stream' }
		})
	);
}

async function smaller(file: File): Promise<Blob | undefined> {
	try {
		const picture = await createImageBitmap(file);
		const scale = Math.min(1, LONGEST_PX / Math.max(picture.width, picture.height));
		const canvas = new OffscreenCanvas(
			Math.max(1, Math.round(picture.width * scale)),
			Math.max(1, Math.round(picture.height * scale))
		);
		canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height);
		return await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.9 });
	} catch {
		return undefined;
	}
}
