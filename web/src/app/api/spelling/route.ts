import * as z from 'zod';
import { answer, problem } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { route } from '@/server/route';
import { suggestions, wrongWords } from '@/server/speller';

/** No word of a language is longer; suggestions for anything longer take minutes to find. */
const LONGEST = 50;
const asked = z.object({ language: z.string().max(40), words: z.array(z.string().max(200)).max(400_000) });
const MOST_BYTES = 20_000_000;

/** Which of the words the language's dictionary does not know; null where there is no dictionary. */
export const POST = route(async (request) => {
  const { language, words } = await bodyOf(request, asked, 'The words can’t be read.', MOST_BYTES);
  return answer({ wrong: await wrongWords(language, words) });
});

export const GET = route(async (request) => {
  const { searchParams } = new URL(request.url);
  const word = searchParams.get('word') ?? '';
  const language = (searchParams.get('language') ?? 'en').slice(0, 40);
  if (word === '') return problem('There is no word to look up.');
  return answer({ suggestions: word.length > LONGEST ? [] : await suggestions(language, word) });
});
