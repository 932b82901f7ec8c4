/** Rules of accessibility: what the text needs (WCAG 2.2). */
import { descendants, textOf, type XmlElement } from '../../base';
import type { Rule } from '../rules';
import { isPresentation } from './described';
import { isLanguage } from './language';
import { at, isHtml, isOlder, named, tokens, type EpubDocument, type EpubSubject } from './subject';

/** Tables of several rows and columns without a heading cell (WCAG 2.2 failure F91). */
const headless = (s: EpubSubject): { file: string; table: XmlElement }[] =>
  s.documents.flatMap((d) =>
    (d.root ? descendants(d.root, 'table') : [])
      .filter((table) => {
        const rows = descendants(table, 'tr');
        const cells = (r: XmlElement): number =>
          r.children.filter((c) => typeof c !== 'string' && /^t[dh]$/.test(c.name)).length;
        return (
          !isPresentation(table) &&
          descendants(table, 'th').length === 0 &&
          rows.length > 1 &&
          Math.max(...rows.map(cells)) > 1
        );
      })
      .map((table) => ({ file: d.path, table })),
  );

/** Headings more than a step deeper than the one before them. The first of a document may go on where another ended. */
function* skipped(
  s: EpubSubject,
): Generator<{ file: string; heading: XmlElement; from: number; to: number }> {
  for (const d of s.documents) {
    let last = 6;
    const walk = function* (e: XmlElement): Generator<{ heading: XmlElement; from: number; to: number }> {
      const to = Number(/^h([1-6])$/.exec(e.name)?.[1] ?? 0);
      if (to > 0) {
        if (to > last + 1) yield { heading: e, from: last, to };
        last = to;
      }
      for (const c of e.children) if (typeof c !== 'string') yield* walk(c);
    };
    if (d.root) for (const found of walk(d.root)) yield { file: d.path, ...found };
  }
}

const namedIn = (e: XmlElement): string =>
  `${textOf(e).trim()}${e.attrs['aria-label'] ?? ''}${e.attrs.title ?? ''}${descendants(e, 'img')
    .map((i) => i.attrs.alt ?? '')
    .join('')}${descendants(e, 'svg').length > 0 ? 'svg' : ''}`;

export const ACCESS_RULES: Rule<EpubSubject>[] = [
  {
    name: 'access/language',
    severity: 'caution',
    profiles: ['accessibility'],
    source: 'EPUB 3.3 §6.1.3; WCAG 2.2 SC 3.1.1',
    why: 'Screen readers and hyphenation use the wrong language.',
    remedy: 'Write lang and xml:lang on html.',
    mend: 'page-language',
    *look({ documents, metadata }) {
      const known = isLanguage(metadata.find((m) => m.name === 'language')?.value ?? '');
      for (const d of documents)
        if (d.root && !d.root.attrs['xml:lang'] && !d.root.attrs.lang)
          yield {
            message: 'The page doesn’t say its language.',
            ...at(d, d.root),
            ...(known ? {} : { mend: false as const }),
          };
    },
  },
  {
    name: 'access/page-title',
    severity: 'caution',
    profiles: ['accessibility'],
    source: 'HTML §4.2.2; WCAG 2.2 SC 2.4.2',
    why: 'Reading systems and screen readers identify the page by it.',
    remedy: 'Write the title of the page.',
    *look({ documents }) {
      for (const d of documents)
        if (d.root && !descendants(d.root, 'title').some((t) => textOf(t).trim()))
          yield { message: 'The page has no title.', file: d.path };
    },
  },
  {
    name: 'access/table-head',
    severity: 'caution',
    profiles: ['accessibility'],
    source: 'WCAG 2.2 SC 1.3.1, failure F91',
    remedy: 'Make its first row or column one of headings.',
    *look(s) {
      for (const { file, table } of headless(s))
        yield {
          message: 'A table has no heading cells.',
          why: 'Read aloud, its figures come without the words that say what they are.',
          remedy: 'Make its first row or column one of headings.',
          file,
          line: table.line,
          column: table.column,
        };
    },
  },
  {
    name: 'access/heading-level',
    severity: 'note',
    profiles: ['accessibility'],
    source: 'WCAG 2.2 SC 1.3.1, technique G141',
    remedy: 'Make it one level below the heading before it.',
    *look(s) {
      for (const { file, heading, from, to } of skipped(s))
        yield {
          message: `A heading of level ${to} follows one of level ${from}.`,
          remedy: `Make it one of level ${from + 1}.`,
          file,
          line: heading.line,
          column: heading.column,
        };
    },
  },
  {
    name: 'access/link-words',
    severity: 'caution',
    profiles: ['accessibility'],
    source: 'WCAG 2.2 SC 2.4.4, failure F89',
    why: 'Read aloud, it doesn’t say where it leads.',
    remedy: 'Write words into the link.',
    *look({ documents }) {
      for (const d of documents)
        for (const a of d.root ? descendants(d.root, 'a') : [])
          if (a.attrs.href !== undefined && namedIn(a) === '')
            yield {
              message: 'A link has no words.',
              why: 'Read aloud, it is silent, and nobody finds it.',
              file: d.path,
              line: a.line,
              column: a.column,
            };
    },
  },
  {
    name: 'access/heading-empty',
    severity: 'caution',
    profiles: ['accessibility'],
    source: 'WCAG 2.2 SC 2.4.6, 1.3.1',
    why: 'Readers who jump from heading to heading land on nothing.',
    remedy: 'Write the heading, or remove it.',
    *look(s) {
      for (const d of s.documents)
        for (const e of d.elements)
          if (isHtml(e) && /^h[1-6]$/.test(e.name) && namedIn(e).trim() === '')
            yield { message: 'A heading is empty.', ...at(d, e) };
    },
  },
  {
    name: 'access/page-mark-name',
    severity: 'caution',
    profiles: ['accessibility'],
    source: 'EPUB Accessibility 1.1 §3.4; DPUB-ARIA 1.1 (doc-pagebreak): a name for each page break',
    why: 'Readers in a class can’t find the page the others are on.',
    remedy: 'Write the number of the page in it, or in aria-label or title.',
    *look(s) {
      for (const d of s.documents)
        for (const e of d.elements)
          if (
            (tokens(e.attrs['epub:type']).includes('pagebreak') ||
              tokens(e.attrs.role).includes('doc-pagebreak')) &&
            namedIn(e).trim() === '' &&
            !/\d/.test(e.attrs.id ?? '')
          )
            yield { message: 'A mark of a printed page doesn’t say which page it is.', ...at(d, e) };
    },
  },
  {
    name: 'access/marks-without-list',
    severity: 'caution',
    profiles: ['accessibility'],
    source: 'EPUB Accessibility 1.1 §3.4: page-list where page breaks are marked',
    why: 'Readers can’t go to a page.',
    remedy: 'Add the list of pages.',
    *look(s) {
      if (isOlder(s) || s.nav.pages.length > 0) return;
      for (const d of s.documents) {
        const e = d.elements.find(
          (x) =>
            tokens(x.attrs['epub:type']).includes('pagebreak') ||
            tokens(x.attrs.role).includes('doc-pagebreak'),
        );
        if (e) return void (yield { message: 'Printed pages are marked, but not listed.', ...at(d, e) });
      }
    },
  },
  {
    name: 'access/hidden-link',
    severity: 'caution',
    profiles: ['accessibility'],
    source: 'WCAG 2.2 SC 4.1.2; WAI-ARIA 1.2 §6.6 (aria-hidden)',
    why: 'Keyboard users reach a link that screen readers don’t announce.',
    remedy: 'Remove aria-hidden, or the link.',
    *look(s) {
      for (const d of s.documents)
        for (const e of named(d, 'a'))
          if (isHtml(e) && e.attrs.href !== undefined && hiddenAround(e, d) && e.attrs.tabindex !== '-1')
            yield { message: 'A link is hidden from screen readers, but can be reached.', ...at(d, e) };
    },
  },
  {
    name: 'access/control-name',
    severity: 'caution',
    profiles: ['accessibility'],
    source: 'WCAG 2.2 SC 4.1.2, 1.3.1: the name of a control',
    remedy: 'Give it a label.',
    *look(s) {
      for (const d of s.documents)
        for (const e of d.elements) {
          if (
            !isHtml(e) ||
            !/^(input|select|textarea|button)$/.test(e.name) ||
            /^(hidden|submit|reset)$/.test(e.attrs.type ?? '')
          )
            continue;
          const labelled = d.elements.some(
            (l) =>
              l.name === 'label' &&
              ((e.attrs.id && l.attrs.for === e.attrs.id) || descendants(l, e.name).includes(e)),
          );
          if (
            !labelled &&
            !(
              e.attrs['aria-label'] ??
              e.attrs['aria-labelledby'] ??
              e.attrs.title ??
              e.attrs.alt ??
              (e.name === 'button' ? textOf(e) : '')
            ).trim()
          )
            yield { message: 'A control has no name.', ...at(d, e) };
        }
    },
  },
  {
    name: 'access/caption-in-table',
    severity: 'note',
    profiles: ['accessibility'],
    source: 'WCAG 2.2 SC 1.3.1, failure F46: presentation tables with marks of data tables',
    remedy: 'Remove the role, or the heading cells.',
    *look(s) {
      for (const d of s.documents)
        for (const e of named(d, 'table'))
          if (
            isHtml(e) &&
            isPresentation(e) &&
            (descendants(e, 'th').length > 0 || descendants(e, 'caption').length > 0)
          )
            yield {
              message: 'A layout table has heading cells or a caption.',
              ...at(d, e),
            };
    },
  },
  {
    name: 'access/scope',
    severity: 'note',
    profiles: ['accessibility'],
    source: 'WCAG 2.2 SC 1.3.1, technique H63: scope of heading cells where both sides have them',
    remedy: 'Add scope="col" or scope="row".',
    *look(s) {
      for (const d of s.documents)
        for (const e of d.elements) {
          if (!isHtml(e) || e.name !== 'table') continue;
          const rows = descendants(e, 'tr');
          const heads = descendants(e, 'th');
          const both =
            rows.slice(1).some((r) => descendants(r, 'th').length > 0) &&
            descendants(rows[0] ?? e, 'th').length > 1;
          const bare = heads.find((h) => !h.attrs.scope && !h.attrs.id);
          if (both && bare)
            yield {
              message: 'Heading cells don’t say whether they head a row or a column.',
              ...at(d, bare),
            };
        }
    },
  },
];

const hiddenAround = (e: XmlElement, d: EpubDocument): boolean => {
  for (let x: XmlElement | undefined = e; x; x = d.parents.get(x))
    if (x.attrs['aria-hidden'] === 'true') return true;
  return false;
};
