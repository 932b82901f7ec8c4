import { differencesOf } from '@pagina/core/emend';
import { answer } from '@/server/answer';
import { ebookRoute } from '@/server/emended';

/** What a copy would have that the file that was opened has not. */
export const GET = ebookRoute((_, __, { state }) => Promise.resolve(answer(differencesOf(state))));
