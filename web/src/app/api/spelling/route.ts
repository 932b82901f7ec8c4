import * as z from 'zod';
import { answer, bodyOf, refuse } from '@/server/answer';
import { suggestions, wrongWords } from '@/server/speller';

const asked = z.object({ language: z.string().max(40), words: z.array(z.string().max(200)).max(400_000) });

/** Which of the words the language's dictionary does not know; null where there is no dictionary. */
export async function POST(request: Request): Promise<Response> {
  const parsed = asked.safeParse(await bodyOf(request));
  if (!parsed.success) return refuse('The words cannot be read.');
  return answer({ wrong: await wrongWords(parsed.data.language, parsed.data.words) });
}

export async function GET(request: Request): Promise<Response> {
  const { searchParams } = new URL(request.url);
  const word = searchParams.get('word') ?? '';
  if (word === '' || word.length > 200) return refuse('There is no word to look up.');
  return answer({ suggestions: await suggestions(searchParams.get('language') ?? 'en', word) });
}
