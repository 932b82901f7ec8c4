import { answer } from '@/server/answer';
import { keepPicture } from '@/server/picture';
import { titleRoute } from '@/server/route';

/** Keeps a picture's bytes and tells what it is; the book takes it in by a change of its own. */
export const POST = titleRoute(async (request, s) => answer(await keepPicture(s, request), 201));
