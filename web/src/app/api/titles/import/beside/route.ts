import { answer } from '@/server/answer';
import { route } from '@/server/route';
import { store } from '@/server/store';
import { keepBeside } from '@/server/upload';

/** A file that comes with a manuscript, kept until that is read. What it is for is found out then. */
export const POST = route(async (request) => answer(await keepBeside(await store(), request), 201));
