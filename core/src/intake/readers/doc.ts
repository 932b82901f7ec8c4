/** An old binary document as a manuscript: its words and notes, which is all that the library can read of it. */
import { done, refused, type Outcome } from '../../base';
import { schema } from '../../book';
import { isSound } from './compound';
import { rawManuscript, rawParagraph, type RawManuscript, type RawParagraph } from '../raw';

/** Errors: `intake/damaged`. */
export async function readDoc(bytes: Uint8Array): Promise<Outcome<RawManuscript>> {
  const { default: WordExtractor } = await import('word-extractor');
  let document;
  try {
    document = isSound(bytes) ? await new WordExtractor().extract(Buffer.from(bytes)) : null;
  } catch {
    document = null;
  }
  if (!document)
    return refused(
      'intake/damaged',
      'The document cannot be read: it is damaged, or in a version too old for Pagina. Save it as .docx and import it again.',
    );
  const m = rawManuscript();
  m.blocks = paragraphs(document.getBody());
  // The library gives notes without their places: they are kept as a section of their own, and told.
  const notes = [...paragraphs(document.getFootnotes()), ...paragraphs(document.getEndnotes())].filter(
    (p) => p.text.trim() !== '',
  );
  if (notes.length > 0)
    m.blocks.push(
      rawParagraph({
        text: 'Notes',
        inline: [schema.text('Notes')],
        breakBefore: true,
        outline: 1,
        opens: 'notes',
      }),
      ...notes,
    );
  m.cautions.push({
    rule: 'intake/old-doc',
    message: `This is a document in the old binary form. Its words were read; italics, bold, styles and pictures could not be${notes.length > 0 ? ', and its notes stand at the end' : ''}. Saved as .docx and brought in again, it keeps them.`,
  });
  return done(m);
}

function paragraphs(text: string): RawParagraph[] {
  return text
    .replace(/\r\n?/g, '\n')
    .split(/\n|(?=\f)/)
    .map((line) => {
      const breakBefore = line.startsWith('\f');
      const shown = line.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f]/g, '');
      return rawParagraph({ text: shown, inline: shown === '' ? [] : [schema.text(shown)], breakBefore });
    });
}
