/** Notes and their calls. */
import type { Rule } from '../rules';
import type { Reading } from './reading';
import { matchesIn, wordsAround } from './reading';
import { atBlock, atSection } from './subject';

const PRACTICE = 'common practice';

export const NOTE_RULES: readonly Rule<Reading>[] = [
  {
    name: 'note/without-call',
    severity: 'caution',
    profiles: ['book'],
    source: PRACTICE,
    why: 'It isn’t printed, since nothing in the text leads to it.',
    remedy: 'Put a note call where it belongs, or delete the note.',
    *look({ section }) {
      const called = calls(section.content);
      for (const n of section.content.children)
        if (n.type.name === 'noteBody' && !called.has(n.attrs.id as string))
          yield atBlock(
            section,
            { id: n.attrs.id as string },
            `No call leads to the note “${short(n.textContent)}”.`,
          );
    },
  },
  {
    name: 'note/without-text',
    severity: 'caution',
    profiles: ['book'],
    source: PRACTICE,
    why: 'The call leads readers to nothing.',
    remedy: 'Write the note, or delete its call.',
    *look({ section }) {
      const bodies = new Map(
        section.content.children
          .filter((n) => n.type.name === 'noteBody')
          .map((n) => [n.attrs.id as string, n]),
      );
      for (const [ref, block] of calls(section.content)) {
        const body = bodies.get(ref);
        if (!body)
          yield atBlock(section, { id: block }, 'A call leads to a note that doesn’t exist.', undefined, {
            about: ref,
          });
        else if (body.textContent.trim() === '')
          yield atBlock(section, { id: ref }, 'A note has no words.', undefined, { about: ref });
      }
    },
  },
  {
    name: 'note/typed-call',
    severity: 'note',
    profiles: ['book'],
    source: PRACTICE,
    why: 'A number that was typed leads to no note in an ebook, and isn’t renumbered.',
    remedy: 'Make it a note, or leave it if it is none.',
    *look({ section, blocks }) {
      const found: { b: Reading['blocks'][number]; at: number; text: string }[] = [];
      for (const b of blocks) {
        if (b.note || b.type === 'subhead') continue;
        b.node.forEach((n, at) => {
          const raised = n.isText && n.marks.some((m) => m.type.name === 'super');
          if (
            raised &&
            /^\d{1,3}$/.test(n.text as string) &&
            /[\p{L}.,;:!?"\u201d\u2019)]{2}$/u.test(b.text.slice(0, at))
          )
            found.push({ b, at, text: n.text as string });
        });
        for (const m of matchesIn(b, /(?<=[\p{L}.,;!?"\u201d\u2019])\[(\d{1,3})\]/gu))
          found.push({ b, at: m.index, text: m[0] });
      }
      const first = found[0];
      if (first)
        yield atBlock(
          section,
          first.b,
          `${found.length === 1 ? 'A number is' : `${found.length} numbers are`} typed as calls, and lead to no note.`,
          first.at,
          { words: wordsAround(first.b.text, first.at, first.at + first.text.length) },
        );
    },
  },
  {
    name: 'note/call-before-sign',
    severity: 'note',
    profiles: ['book'],
    source:
      'The Chicago Manual of Style, 17th ed., 14.26: calls follow the punctuation, but for a dash (from memory)',
    why: 'Calls stand after the sign that ends the clause in most houses.',
    remedy: 'Move the call behind the sign.',
    *look(reading) {
      if (!/^en/i.test(reading.language)) return;
      const found = reading.blocks.filter(
        (b) => !b.note && /\p{L}\ufffc[.,;:!?]/u.test(b.text) && precedesSign(b),
      );
      const first = found[0];
      if (first)
        yield atSection(
          reading.section,
          `${found.length === 1 ? 'A call stands' : `Calls in ${found.length} paragraphs stand`} before the punctuation.`,
          {
            words: wordsAround(first.text, first.text.indexOf('\ufffc'), first.text.indexOf('\ufffc') + 2),
            place: { section: reading.section.id, block: first.id },
          },
        );
    },
  },
];

/** Calls of a text: the id of the note, and the block in which it is called first. */
function calls(content: Reading['section']['content']): Map<string, string> {
  const found = new Map<string, string>();
  let block = '';
  content.descendants((n) => {
    if (n.isTextblock) block = n.attrs.id as string;
    if (n.type.name === 'note' && !found.has(n.attrs.ref as string)) found.set(n.attrs.ref as string, block);
  });
  return found;
}

function precedesSign({ node, text }: Reading['blocks'][number]): boolean {
  let found = false;
  node.forEach((n, at) => {
    found ||=
      n.type.name === 'note' && /^[.,;:!?]/.test(text.slice(at + 1)) && /\p{L}$/u.test(text.slice(0, at));
  });
  return found;
}

const short = (text: string): string => (text.length > 50 ? `${text.slice(0, 47).trim()} …` : text.trim());
