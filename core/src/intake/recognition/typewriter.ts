/** A manuscript that is typed in a typewriter face all through: its author’s habit, and no setting of the text. */
import { schema } from '../../book';
import { isText, paragraphsOf, type RawManuscript, type RawParagraph } from '../raw';

/** Share of the letters that makes it the face of the manuscript. */
const MOST = 0.6;

export function withoutTypewriter(m: RawManuscript): RawManuscript {
  let letters = 0;
  let typed = 0;
  const mark = schema.marks.monospaced!;
  for (const b of m.blocks)
    for (const p of paragraphsOf(b)) {
      letters += p.text.length;
      for (const n of p.inline) if (mark.isInSet(n.marks)) typed += n.text?.length ?? 0;
    }
  if (letters === 0 || typed < letters * MOST) return m;
  const plain = (p: RawParagraph): RawParagraph => ({
    ...p,
    monospace: false,
    inline: p.inline.map((n) => (n.isText ? n.mark(mark.removeFromSet(n.marks)) : n)),
  });
  return {
    ...m,
    blocks: m.blocks.map((b) =>
      isText(b) ? plain(b) : { ...b, rows: b.rows.map((r) => r.map((c) => c.map(plain))) },
    ),
    notes: m.notes.map((n) => ({ ...n, paragraphs: n.paragraphs.map(plain) })),
  };
}
