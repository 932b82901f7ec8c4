'use client';
/** What an ebook states of its accessibility, whether it claims to conform, and what would improve it. */
import { useState } from 'react';
import type { AccessReport } from '@pagina/core/check';
import { isReflow, type Edition } from '@pagina/core/book';
import type { Product } from '@pagina/data';
import { Button } from '@/ui/Button';
import { Popover } from '@/ui/Popover';

/** Statements in plain words (schema.org's vocabulary of accessibility). */
const WORDS: Record<string, string> = {
  'accessMode textual': 'It is read as text',
  'accessMode visual': 'It has pictures',
  'accessModeSufficient textual': 'Its text alone is enough to follow it',
  'accessModeSufficient textual,visual': 'It can be followed by reading and looking',
  'accessibilityFeature tableOfContents': 'Contents that lead to every chapter',
  'accessibilityFeature readingOrder': 'An order in which it is read aloud',
  'accessibilityFeature structuralNavigation': 'Headings to move by',
  'accessibilityFeature alternativeText': 'Every picture is described',
  'accessibilityFeature pageBreakMarkers': 'Pages of the print edition are marked',
  'accessibilityFeature pageNavigation': 'Pages of the print edition can be gone to',
  'accessibilityFeature displayTransformability': 'Type, colours and spacing are the reader’s choice',
  'accessibilityHazard none': 'Nothing flashes, moves or sounds',
  'accessibilityHazard unknown': 'A picture moves: whether it flashes isn’t known',
};

/** What to do about each thing that stands in the way, for the author. */
const REMEDIES: Record<string, [one: string, several: string, remedy: string]> = {
  'epub/alt': [
    '1 picture has no description',
    '# pictures have no description',
    'Describe them in Manuscript, or mark them as decoration.',
  ],
  'epub/table-head': [
    '1 table has no headings',
    '# tables have no headings',
    'In Manuscript, make the first row or column one of headings.',
  ],
  'epub/heading-level': [
    '1 heading skips a level',
    '# headings skip a level',
    'In Manuscript, raise them by one level.',
  ],
  'epub/link-words': [
    '1 link has no words',
    '# links have no words',
    'Give them words that say where they lead.',
  ],
  'epub/language': [
    '1 document doesn’t say its language',
    '# documents don’t say their language',
    'Choose the book’s language in Record.',
  ],
  'epub/page-title': ['1 document has no title', '# documents have no title', 'Give those sections a title.'],
};

function inTheWay(report: AccessReport): string[] {
  const counts = new Map<string, number>();
  for (const f of report.obstacles) counts.set(f.rule, (counts.get(f.rule) ?? 0) + 1);
  return [...counts].flatMap(([rule, n]) => {
    const [one, several, remedy] = REMEDIES[rule] ?? ['', '', ''];
    return one ? [`${n === 1 ? one : several.replace('#', String(n))}. ${remedy}`] : [];
  });
}

function improvements(report: AccessReport, edition: Edition): string[] {
  const better: string[] = [];
  if (report.fixed)
    better.push('The type of fixed pages can’t be enlarged. Offer an ebook whose text flows beside it.');
  if (!report.fixed && report.version.startsWith('2'))
    better.push('EPUB 2.0.1 can’t mark what screen readers need. Offer EPUB 3.3 wherever a shop takes it.');
  if (!report.pageList && !report.fixed)
    better.push(
      'With the folios of the print edition, readers can follow a class or a reading group: choose a page list.',
    );
  if (!report.claim && report.obstacles.length === 0 && isReflow(edition) && edition.version === '3.3')
    better.push(
      edition.conformance
        ? 'Nothing stands in the way of stating conformance but a name: fill in the imprint or the author in Record, and make it again.'
        : 'Nothing stands in the way of stating conformance: choose it above, and make it again.',
    );
  return better;
}

export function AccessOf({
  product,
  edition,
  called,
}: {
  product: Product;
  edition: Edition;
  called: string;
}) {
  const [report, setReport] = useState<AccessReport | { message: string } | null>(null);
  const ask = async (): Promise<void> => {
    try {
      const r = await fetch(`/api/files/${product.sha256}/access`);
      setReport((await r.json()) as AccessReport | { message: string });
    } catch {
      setReport({ message: 'Pagina can’t be reached just now.' });
    }
  };
  return (
    <Popover
      label={`Accessibility of the ${called}`}
      className="max-h-[70vh] w-[420px] overflow-auto p-3"
      onOpenChange={(open) => {
        if (open) void ask();
      }}
      trigger={
        <Button kind="quiet" className="h-6 px-1 text-[13px]" aria-label={`Accessibility of the ${called}`}>
          Accessibility
        </Button>
      }
    >
      {report === null ? (
        <p className="text-ink-soft">Looking into the file …</p>
      ) : 'message' in report ? (
        <p className="text-rubric">{report.message}</p>
      ) : (
        <Told report={report} edition={edition} />
      )}
    </Popover>
  );
}

function Told({ report, edition }: { report: AccessReport; edition: Edition }) {
  const stands = inTheWay(report);
  const better = improvements(report, edition);
  const states = report.states.flatMap(({ property, value }) => WORDS[`${property} ${value}`] ?? []);
  return (
    <div>
      <p className="font-serif text-[16px]">
        {report.claim
          ? `States that it conforms to ${report.claim.standard}.${report.claim.by ? ` Certified by ${report.claim.by}.` : ''}`
          : 'Doesn’t state that it conforms.'}
      </p>
      <h3 className="column-head mt-3">What it states</h3>
      <ul className="mt-1">
        {[...new Set(states)].map((s) => (
          <li key={s}>{s}</li>
        ))}
      </ul>
      {stands.length > 0 ? (
        <>
          <h3 className="column-head mt-3">What stands in the way</h3>
          <ul className="mt-1">
            {stands.map((s) => (
              <li key={s} className="border-l-2 border-ochre pl-2">
                {s}
              </li>
            ))}
          </ul>
        </>
      ) : null}
      {better.length > 0 ? (
        <>
          <h3 className="column-head mt-3">What would improve it</h3>
          <ul className="mt-1">
            {better.map((s) => (
              <li key={s}>{s}</li>
            ))}
          </ul>
        </>
      ) : null}
      <p className="mt-3 text-[13px] text-ink-soft">
        The checks can tell that a picture has a description, not that the description says what the picture
        shows. Read yours once before you let the file state anything.
      </p>
    </div>
  );
}
