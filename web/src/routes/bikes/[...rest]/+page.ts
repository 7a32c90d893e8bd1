import { redirect } from '@sveltejs/kit';

/** Jobs on two wheels had an address of their own. */
export const load = ({ params }: { params: { rest: string } }) => redirect(308, `/jobs/${params.rest}`);
