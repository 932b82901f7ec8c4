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
  'accessMode textual': 'Text that can be read aloud',
  'accessMode visual': 'Pictures',
  'accessModeSufficient textual': 'The text alone is enough to follow it',
  'accessModeSufficient textual,visual': 'Text and pictures together are enough to follow it',
  'accessibilityFeature tableOfContents': 'Contents with links',
  'accessibilityFeature readingOrder': 'A fixed reading order',
  'accessibilityFeature structuralNavigation': 'Headings to navigate by',
  'accessibilityFeature alternativeText': 'Every picture is described',
  'accessibilityFeature pageBreakMarkers': 'Pages of the print edition are marked',
  'accessibilityFeature pageNavigation': 'A list of the print edition’s pages',
  'accessibilityFeature displayTransformability': 'Readers can change type, colours and spacing',
  'accessibilityHazard none': 'Nothing that flashes, moves or makes a sound',
  'accessibilityHazard unknown': 'A moving picture, which may flash',
};

/** What to do about each thing that stands in the way, for the author. */
const REMEDIES: Record<string, [one: string, several: string, remedy: string]> = {
  'access/alt': [
    '1 picture has no description',
    '# pictures have no description',
    'Describe them in Manuscript, or mark them as decoration.',
  ],
  'access/table-head': [
    '1 table has no headings',
    '# tables have no headings',
    'In Manuscript, make the first row or column one of headings.',
  ],
  'access/heading-level': [
    '1 heading skips a level',
    '# headings skip a level',
    'In Manuscript, raise them by one level.',
  ],
  'access/link-words': [
    '1 link has no words',
    '# links have no words',
    'Give them words that say where they lead.',
  ],
  'access/language': [
    '1 document doesn’t say its language',
    '# documents don’t say their language',
    'Choose the book’s language in Record.',
  ],
  'access/page-title': [
    '1 document has no title',
    '# documents have no title',
    'Give those sections a title.',
  ],
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
  const moving = report.states.some((s) => s.property === 'accessibilityHazard' && s.value === 'unknown');
  if (moving) better.push('A picture moves, and readers can’t stop it. Use one that stands still.');
  if (
    !moving &&
    !report.claim &&
    report.obstacles.length === 0 &&
    isReflow(edition) &&
    edition.version === '3.3'
  )
    better.push(
      edition.conformance
        ? 'Nothing stands in the way of stating conformance, but nobody is named to certify it. Enter the imprint or the author in Record, then make it again.'
        : 'Nothing stands in the way of stating conformance. Turn it on above, then make it again.',
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
          ? `States conformance with ${report.claim.standard}.${report.claim.by ? ` Certified by ${report.claim.by}.` : ''}`
          : 'States no conformance.'}
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
        shows. Read yours through before you let the file make a statement.
      </p>
    </div>
  );
}
