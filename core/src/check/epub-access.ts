/**
 * Rules of accessibility: what the text needs (WCAG 2.2), and whether what the package states of it is true (EPUB
 * Accessibility 1.1; schema.org's vocabulary of accessibility).
 */
import { descendants, textOf, type Finding, type Outcome, type XmlElement } from '../base';
import { epubSubject, type EpubSubject } from './epub-subject';
import { runRules, type Rule } from './rules';

const isOlder = ({ version }: EpubSubject): boolean => version.startsWith('2');
const isPresentation = (e: XmlElement): boolean => /^(presentation|none)$/.test(e.attrs.role ?? '');

/** Pictures of which nothing is said, and that do not say that they only decorate. */
const undescribed = (s: EpubSubject): { file: string; img: XmlElement }[] =>
  s.documents.flatMap((d) =>
    (d.root ? descendants(d.root, 'img') : [])
      // XHTML 1.1 has no roles: there, nothing to be said is all that a decoration can say of itself.
      .filter(
        (img) =>
          img.attrs.alt === undefined || (img.attrs.alt.trim() === '' && !isOlder(s) && !isPresentation(img)),
      )
      .map((img) => ({ file: d.path, img })),
  );

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

const stated = (s: EpubSubject, name: string): string[] =>
  s.metadata.filter((m) => m.name === name || m.name === name.replace(/^schema:/, '')).map((m) => m.value);
/** The statement that the ebook conforms; null where it makes none. */
const claim = (s: EpubSubject): string | null =>
  stated(s, 'dcterms:conformsTo').find((v) => /EPUB Accessibility|epub-a11y|accessibility-20/i.test(v)) ??
  null;

const namedIn = (e: XmlElement): string =>
  `${textOf(e).trim()}${e.attrs['aria-label'] ?? ''}${e.attrs.title ?? ''}${descendants(e, 'img')
    .map((i) => i.attrs.alt ?? '')
    .join('')}${descendants(e, 'svg').length > 0 ? 'svg' : ''}`;

export const ACCESS_RULES: Rule<EpubSubject>[] = [
  {
    name: 'epub/alt',
    severity: 'caution',
    source: 'EPUB Accessibility 1.1 §3.3; WCAG 2.2 SC 1.1.1',
    *look(s) {
      for (const { file, img } of undescribed(s))
        yield {
          message: 'A picture has no alternative text.',
          file,
          line: img.line,
          column: img.column,
          remedy: 'Describe it in the manuscript, or say that it is only decoration.',
        };
    },
  },
  {
    name: 'epub/language',
    severity: 'caution',
    source: 'EPUB 3.3 §6.1.3; WCAG 2.2 SC 3.1.1',
    *look({ documents }) {
      for (const d of documents)
        if (d.root && !d.root.attrs['xml:lang'] && !d.root.attrs.lang)
          yield { message: 'The page does not say its language.', file: d.path, line: d.root.line };
    },
  },
  {
    name: 'epub/page-title',
    severity: 'caution',
    source: 'HTML §4.2.2; WCAG 2.2 SC 2.4.2',
    *look({ documents }) {
      for (const d of documents)
        if (d.root && !descendants(d.root, 'title').some((t) => textOf(t).trim()))
          yield { message: 'The page has no title.', file: d.path };
    },
  },
  {
    name: 'epub/table-head',
    severity: 'caution',
    source: 'WCAG 2.2 SC 1.3.1, failure F91',
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
    name: 'epub/heading-level',
    severity: 'note',
    source: 'WCAG 2.2 SC 1.3.1, technique G141',
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
    name: 'epub/link-words',
    severity: 'caution',
    source: 'WCAG 2.2 SC 2.4.4, failure F89',
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
    name: 'epub/accessibility-metadata',
    severity: 'caution',
    source: 'EPUB Accessibility 1.1 §2.2',
    *look({ metadata, path, version, root }) {
      if (!root || !version.startsWith('3')) return;
      for (const p of ['accessMode', 'accessibilityFeature', 'accessibilityHazard'])
        if (!metadata.some((m) => m.name === `schema:${p}`))
          yield { message: `The package doesn’t state its ${p}.`, file: path };
    },
  },
  {
    name: 'epub/untrue-statement',
    severity: 'caution',
    source:
      'EPUB Accessibility 1.1 §2.2; Schema.org Accessibility Properties for Discoverability Vocabulary (W3C)',
    *look(s) {
      const features = stated(s, 'schema:accessibilityFeature');
      const pictures = s.documents.some((d) => d.root && descendants(d.root, 'img').length > 0);
      const untrue: [string, boolean][] = [
        ['alternativeText', pictures && undescribed(s).length > 0],
        ['pageNavigation', s.nav.pages.length === 0 && s.older.pages.length === 0],
        ['tableOfContents', s.nav.contents.length === 0 && s.older.contents.length === 0],
        ['MathML', !s.documents.some((d) => d.root && descendants(d.root, 'math').length > 0)],
        ['displayTransformability', s.fixed],
      ];
      for (const [feature, wrong] of untrue)
        if (wrong && features.includes(feature))
          yield {
            message: `The package states “${feature}”, which isn’t true of this ebook.`,
            why: 'Readers choose by such statements, and shops show them.',
            file: s.path,
          };
      if (
        stated(s, 'schema:accessModeSufficient').some((v) => v.trim() === 'textual') &&
        undescribed(s).length > 0
      )
        yield {
          message:
            'The package states that its text alone is sufficient, but pictures have no alternative text.',
          file: s.path,
        };
    },
  },
  {
    name: 'epub/conformance',
    severity: 'caution',
    source: 'EPUB Accessibility 1.1 §4',
    *look(s) {
      if (claim(s) === null) return;
      if (!stated(s, 'a11y:certifiedBy').some(Boolean))
        yield { message: 'The package claims to conform but doesn’t say who certifies it.', file: s.path };
      const inTheWay = obstaclesIn(s).length;
      if (inTheWay > 0)
        yield {
          message: `The package claims to conform to EPUB Accessibility, but ${inTheWay === 1 ? 'one thing stands' : `${inTheWay} things stand`} in the way.`,
          why: 'A claim that isn’t true misleads readers who depend on it.',
          file: s.path,
        };
    },
  },
];

/** Rules whose findings stand in the way of conformance at level AA. */
const IN_THE_WAY = new Set([
  'epub/alt',
  'epub/language',
  'epub/page-title',
  'epub/table-head',
  'epub/link-words',
  'epub/heading-level',
]);
const obstaclesIn = (s: EpubSubject): Finding[] =>
  runRules(
    ACCESS_RULES.filter((r) => IN_THE_WAY.has(r.name)),
    s,
  );

export interface AccessReport {
  /** The standard that it claims to conform to, and who says so; null where it claims nothing. */
  claim: { standard: string; by: string } | null;
  /** What the package states, in its order. */
  states: { property: string; value: string }[];
  /** What stands in the way of conformance. */
  obstacles: Finding[];
  fixed: boolean;
  pageList: boolean;
  version: string;
}

/** What an ebook states of its accessibility, and what stands in the way. Errors: those of `epubSubject`. */
export function accessReport(bytes: Uint8Array): Outcome<AccessReport> {
  const read = epubSubject(bytes);
  if (!read.ok) return read;
  const s = read.value;
  const standard = claim(s);
  return {
    ok: true,
    value: {
      claim: standard === null ? null : { standard, by: stated(s, 'a11y:certifiedBy')[0] ?? '' },
      states: s.metadata
        .filter((m) => /^(schema:)?access/.test(m.name))
        .map((m) => ({ property: m.name.replace('schema:', ''), value: m.value })),
      obstacles: obstaclesIn(s),
      fixed: s.fixed,
      pageList: s.nav.pages.length > 0 || s.older.pages.length > 0,
      version: s.version,
    },
  };
}
