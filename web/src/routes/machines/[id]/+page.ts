import { redirect } from '@sveltejs/kit';

/** Two-wheelers had an address of their own. */
export const load = ({ params }: { params: { id: string } }) => redirect(308, `/vehicles/${params.id}`);
