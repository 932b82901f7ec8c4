'use client';
/** The account of an intake: words in are words kept and words set aside, and what was set aside can be put back. */
import type { Arrival } from '@pagina/core/book';
import { Button } from '@/ui/Button';
import { Collapsible } from '@/ui/Collapsible';

const RULES: Record<string, string> = {
  'number-lines': 'Chapter numbers, which now come from the running order',
  'typed-contents': 'A typed contents list, replaced by the book’s own',
  'heads-and-page-numbers': 'Running heads and page numbers left in the text',
  'break-signs': 'Break signs, now real breaks',
  'title-page': 'Title-page text, now in the record',
  'contact-lines': 'An address, a word count and the like, which are not printed',
  'end-lines': '“The End” and the like',
  'note-marks': 'Note numbers that were typed; notes now number themselves',
  'list-numbers': 'List numbers that were typed; lists now number themselves',
  'uncalled-notes': 'Notes without a reference in the text',
  'not-carried-over': 'Words from the file that are in no section',
};
const CLEANED: Record<string, [one: string, many: string]> = {
  'empty-paragraphs': ['empty paragraph', 'empty paragraphs'],
  'page-breaks': ['page break', 'page breaks'],
  'double-spaces': ['run of spaces', 'runs of spaces'],
  'spaces-as-indent': ['indent made of spaces', 'indents made of spaces'],
  tabs: ['tab', 'tabs'],
  'soft-hyphens': ['soft hyphen', 'soft hyphens'],
  'paragraphs-joined': ['paragraph rejoined across a page break', 'paragraphs rejoined across page breaks'],
};
const n = (count: number): string => count.toLocaleString('en-GB');

export function Account({ arrival, onBack }: { arrival: Arrival; onBack: (index: number) => void }) {
  const aside = arrival.setAside.reduce((sum, s) => sum + s.words, 0);
  const rules = [...new Set(arrival.setAside.map((s) => s.rule))];
  const cleaned = Object.entries(arrival.tidied).filter(([, count]) => count > 0);
  const balanced = arrival.wordsIn === arrival.wordsOut + aside;
  return (
    <section aria-label="Account" className="border-t border-edge px-4 py-4">
      <h3 className="column-head mb-2">Account</h3>
      <p data-account className="font-serif text-[17px]">
        {n(arrival.wordsIn)} words in = {n(arrival.wordsOut)} kept + {n(aside)} set aside
      </p>
      {balanced ? null : (
        <p className="text-rubric">
          {n(Math.abs(arrival.wordsIn - arrival.wordsOut - aside))} words are not accounted for. Compare the
          text with your file.
        </p>
      )}
      <p className="mb-3 text-ink-soft">
        {[
          [arrival.pictures, 'picture', 'pictures'] as const,
          [arrival.notes, 'note', 'notes'] as const,
          [arrival.links, 'link', 'links'] as const,
        ]
          .map(([count, one, many]) => `${n(count)} ${count === 1 ? one : many}`)
          .join(' · ')}
        {cleaned.length > 0 ? ' · cleaned: ' : ''}
        {cleaned
          .map(([key, count]) => `${n(count)} ${CLEANED[key]?.[count === 1 ? 0 : 1] ?? key}`)
          .join(', ')}
      </p>
      {rules.length === 0 ? <p className="text-ink-soft">Nothing was set aside.</p> : null}
      {rules.map((rule) => {
        const items = arrival.setAside.map((s, index) => ({ ...s, index })).filter((s) => s.rule === rule);
        const words = items.reduce((sum, s) => sum + s.words, 0);
        return (
          <Collapsible
            key={rule}
            className="border-t border-rule py-0.5"
            heading={
              <>
                {RULES[rule] ?? rule}{' '}
                <span className="text-ink-soft">
                  {n(items.length)} {items.length === 1 ? 'place' : 'places'}, {n(words)}{' '}
                  {words === 1 ? 'word' : 'words'}
                </span>
              </>
            }
          >
            <ul className="max-h-64 overflow-auto pb-2">
              {items.map((s) => (
                <li key={s.index} className="flex items-center gap-3 py-0.5 pl-4">
                  <span className="min-w-0 flex-1 truncate font-serif">{s.text}</span>
                  {s.back ? (
                    <span className="text-ink-soft">restored</span>
                  ) : (
                    <Button kind="quiet" className="h-7" onClick={() => onBack(s.index)}>
                      Restore
                    </Button>
                  )}
                </li>
              ))}
            </ul>
          </Collapsible>
        );
      })}
      {arrival.comments.length > 0 ? (
        <Collapsible
          className="border-t border-rule py-0.5"
          heading={
            <>
              Comments in the file{' '}
              <span className="text-ink-soft">{n(arrival.comments.length)}, none of them in the book</span>
            </>
          }
        >
          <ul className="max-h-64 overflow-auto pb-2">
            {arrival.comments.map((c, i) => (
              <li key={i} className="py-1 pl-4">
                <span className="whitespace-pre-wrap">
                  {c.by ? `${c.by}: ` : ''}
                  {c.text}
                </span>
                {c.at ? <span className="block font-serif text-ink-soft">at “{c.at}”</span> : null}
              </li>
            ))}
          </ul>
        </Collapsible>
      ) : null}
    </section>
  );
}
