'use client';
/** Words that could not be saved where they were typed: the author decides what becomes of them. */
import { toast } from 'sonner';
import { freshSection, schema, sectionToJson, type Book, type Change } from '@pagina/core/book';
import { Button } from '@/ui/Button';
import { useBook, useTitle } from './context';
import { shortId } from './ids';
import type { Stranded } from './leftovers';

export function StrandedWords() {
  const { stranded } = useBook();
  if (stranded.length === 0) return null;
  return (
    <div role="alert" className="no-print max-h-52 overflow-auto border-b border-edge bg-sheet">
      {stranded.map((s) => (
        <Offer key={s.id} stranded={s} />
      ))}
    </div>
  );
}

function Offer({ stranded: s }: { stranded: Stranded }) {
  const { session } = useTitle();
  const copy = (): void =>
    void navigator.clipboard.writeText(s.words).then(
      () => toast('Copied.'),
      () => toast('The browser didn’t allow copying. Select the words and copy them.'),
    );
  return (
    <section className="border-b border-rule px-4 py-2 last:border-0" data-stranded>
      <p>
        <b className="text-rubric">Not saved</b>
        {s.heading ? <> in “{s.heading}”</> : null}: {s.why} Your words are kept in this browser.
      </p>
      <blockquote className="my-1 max-h-16 overflow-auto border-l-2 border-edge pl-3 font-serif whitespace-pre-wrap">
        {s.words}
      </blockquote>
      <div className="flex gap-2">
        <Button kind="primary" className="h-7" onClick={() => void session.settle(s.id, (b) => kept(b, s))}>
          {s.section ? 'Restore the section' : 'Keep in a new section'}
        </Button>
        <Button className="h-7" onClick={copy}>
          Copy
        </Button>
        <Button kind="quiet" className="h-7" onClick={() => void session.settle(s.id, null)}>
          Discard
        </Button>
      </div>
    </section>
  );
}

/** The section put back where it was; where it still exists, or is not known here, the words in a section of their own. */
function kept(book: Book, s: Stranded): Change {
  const json = s.section?.json as { id: string } | undefined;
  if (s.section && json && !book.sections.some((x) => x.id === json.id))
    return group({ type: 'insert-section', index: s.section.index, section: json });
  const id = `k${shortId()}`;
  const paragraphs = s.words
    .split('\n')
    .map((line, i) => schema.node('paragraph', { id: `${id}-${i}` }, line === '' ? [] : [schema.text(line)]));
  const section = freshSection(id, 'plain', {
    matter: 'body',
    title: s.heading,
    content: schema.node('doc', null, paragraphs),
  });
  return group({ type: 'insert-section', index: book.sections.length, section: sectionToJson(section) });
}
const group = (change: Change): Change => ({
  type: 'group',
  label: 'Restore what was typed',
  changes: [change],
});
