/** Subheads within sections: their levels, and what stands below them. */
import type { Rule } from '../rules';
import type { Reading } from './reading';
import { atBlock } from './subject';

const PRACTICE = 'common practice';
const shown = (text: string): string => (text.length > 60 ? `${text.slice(0, 57).trim()} …` : text);

interface Head {
  id: string;
  level: number;
  text: string;
  /** Whether anything stands between it and the next subhead. */
  holds: boolean;
}

function headsOf({ section }: Reading): Head[] {
  const heads: Head[] = [];
  section.content.forEach((n) => {
    if (n.type.name === 'noteBody' || n.type.name === 'pageBreak') return;
    const last = heads.at(-1);
    if (n.type.name !== 'subhead') {
      if (last && (n.textContent.trim() !== '' || !n.isTextblock)) last.holds = true;
      return;
    }
    heads.push({
      id: n.attrs.id as string,
      level: Number(n.attrs.level),
      text: n.textContent.trim(),
      holds: false,
    });
  });
  return heads;
}

export const HEADING_RULES: readonly Rule<Reading>[] = [
  {
    name: 'heading/skipped-level',
    severity: 'caution',
    profiles: ['book', 'accessibility'],
    source: 'WCAG 2.2, technique G141: headings are nested by their levels (from memory)',
    why: 'Readers who move from heading to heading think that one is missing.',
    remedy: 'Make it a level higher in Manuscript.',
    *look(reading) {
      let before = 0;
      for (const h of headsOf(reading)) {
        if (h.level > before + 1)
          yield atBlock(
            reading.section,
            h,
            `The subhead “${shown(h.text)}” is of level ${h.level}, ${before === 0 ? 'and is the first of its section' : `below one of level ${before}`}.`,
          );
        before = h.level;
      }
    },
  },
  {
    name: 'heading/empty',
    severity: 'caution',
    profiles: ['book', 'accessibility'],
    source: 'WCAG 2.2, technique G130: headings are descriptive (from memory)',
    why: 'It leaves a gap on the page and an empty line in the contents.',
    remedy: 'Delete it, or write it.',
    *look(reading) {
      for (const h of headsOf(reading))
        if (h.text === '') yield atBlock(reading.section, h, 'A subhead has no words.');
    },
  },
  {
    name: 'heading/nothing-below',
    severity: 'caution',
    profiles: ['book'],
    source: PRACTICE,
    why: 'A heading promises text; text may have been lost here.',
    remedy: 'Write the text, or delete the heading.',
    *look(reading) {
      const heads = headsOf(reading);
      for (const [i, h] of heads.entries()) {
        const next = heads[i + 1];
        if (h.text !== '' && !h.holds && (!next || next.level <= h.level))
          yield atBlock(reading.section, h, `Nothing stands below the subhead “${shown(h.text)}”.`);
      }
    },
  },
];
