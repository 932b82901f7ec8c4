/**
 * Rules of what a package states of its accessibility, and whether it is true (EPUB Accessibility 1.1; schema.org’s
 * vocabulary of accessibility).
 */
import { ACCESS_RULES } from './access';
import { ALTERNATIVE_RULES } from './alternatives';
import { descendants, type Finding, type Outcome } from '../../base';
import { runRules, type Rule } from '../rules';
import { undescribed } from './described';
import { epubSubject, type EpubSubject } from './subject';

const stated = (s: EpubSubject, name: string): string[] =>
  s.metadata.filter((m) => m.name === name || m.name === name.replace(/^schema:/, '')).map((m) => m.value);

/** The statement that the ebook conforms; null where it makes none. */
const claim = (s: EpubSubject): string | null =>
  stated(s, 'dcterms:conformsTo').find((v) => /EPUB Accessibility|epub-a11y|accessibility-20/i.test(v)) ??
  null;

export const STATEMENT_RULES: Rule<EpubSubject>[] = [
  {
    name: 'access/accessibility-metadata',
    severity: 'caution',
    profiles: ['accessibility'],
    source: 'EPUB Accessibility 1.1 §2.2',
    why: 'Shops show it beside the book, and libraries ask for it.',
    remedy: 'State it; Pagina derives it from the content when it makes an ebook.',
    *look({ metadata, path, version, root }) {
      if (!root || !version.startsWith('3')) return;
      for (const p of ['accessMode', 'accessibilityFeature', 'accessibilityHazard'])
        if (!metadata.some((m) => m.name === `schema:${p}`))
          yield { message: `The package doesn’t state its ${p}.`, file: path };
    },
  },
  {
    name: 'access/untrue-statement',
    severity: 'caution',
    profiles: ['accessibility'],
    source:
      'EPUB Accessibility 1.1 §2.2; Schema.org Accessibility Properties for Discoverability Vocabulary (W3C)',
    why: 'Readers choose books by such statements, and shops show them.',
    remedy: 'Leave out what isn’t true.',
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
            why: 'Readers choose books by such statements, and shops show them.',
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
    name: 'access/conformance',
    severity: 'caution',
    profiles: ['accessibility'],
    source: 'EPUB Accessibility 1.1 §4',
    why: 'A claim that isn’t true misleads readers who depend on it.',
    remedy: 'Put right what stands in the way, say who certifies it, or leave out the claim.',
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
  {
    name: 'access/pages-without-source',
    severity: 'caution',
    profiles: ['accessibility'],
    source:
      'EPUB Accessibility 1.1 §3.4.2: the source of the page breaks (pageBreakSource, or dc:source with source-of)',
    why: 'It isn’t clear which printed book the page numbers come from.',
    remedy: 'Name the ISBN of the printed edition.',
    *look(s) {
      const said = s.metadata.some(
        (m) =>
          m.name === 'pageBreakSource' ||
          m.name === 'a11y:pageBreakSource' ||
          m.name === 'source-of' ||
          m.name === 'source',
      );
      if (s.nav.pages.length > 0 && !said)
        yield {
          message: 'The ebook lists printed pages, but doesn’t say which book they come from.',
          file: s.path,
        };
    },
  },
  {
    name: 'access/certifier-link',
    severity: 'note',
    profiles: ['accessibility'],
    source: 'EPUB Accessibility 1.1 §4.3: certifierReport and certifierCredential',
    remedy: 'Link to the certifier’s report.',
    *look(s) {
      const report = s.metadata.find((m) => m.name === 'a11y:certifierReport');
      if (report && !/^https?:/.test(report.value || (report.attrs.href ?? '')))
        yield { message: 'The certifier’s report has no address.', file: s.path, line: report.line };
    },
  },
  {
    name: 'access/mode-value',
    severity: 'caution',
    profiles: ['accessibility'],
    source:
      'Schema.org Accessibility Properties for Discoverability Vocabulary (W3C): values of accessMode, accessibilityHazard',
    why: 'Shops show only what they know.',
    remedy: 'Use a value of the vocabulary.',
    *look(s) {
      const modes =
        /^(auditory|tactile|textual|visual|chartOnVisual|chemOnVisual|colorDependent|diagramOnVisual|mathOnVisual|musicOnVisual|textOnVisual)$/;
      const hazards =
        /^(flashing|noFlashingHazard|motionSimulation|noMotionSimulationHazard|sound|noSoundHazard|unknownFlashingHazard|unknownMotionSimulationHazard|unknownSoundHazard|unknown|none)$/;
      for (const m of s.metadata) {
        const name = m.name.replace(/^schema:/, '');
        const known =
          name === 'accessMode'
            ? modes.test(m.value)
            : name === 'accessibilityHazard'
              ? hazards.test(m.value)
              : name === 'accessModeSufficient'
                ? m.value.split(',').every((v) => modes.test(v.trim()))
                : true;
        if (!known) yield { message: `“${m.value}” is not a value of ${name}.`, file: s.path, line: m.line };
      }
    },
  },
  {
    name: 'access/hazards-clash',
    severity: 'caution',
    profiles: ['accessibility'],
    source:
      'Schema.org Accessibility Properties for Discoverability Vocabulary: hazards that exclude each other',
    remedy: 'Keep what is true.',
    *look(s) {
      const said = new Set(stated(s, 'schema:accessibilityHazard'));
      const clash = [
        ['flashing', 'noFlashingHazard'],
        ['motionSimulation', 'noMotionSimulationHazard'],
        ['sound', 'noSoundHazard'],
      ].find(([a, b]) => said.has(a ?? '') && said.has(b ?? ''));
      if (clash)
        yield {
          message: `The package states both “${clash[0] ?? ''}” and “${clash[1] ?? ''}”.`,
          file: s.path,
        };
      else if (said.has('none') && said.size > 1)
        yield { message: 'The package states “none” along with a hazard.', file: s.path };
    },
  },
];

/** Rules whose findings stand in the way of conformance at level AA. */
const IN_THE_WAY = new Set([
  'access/alt',
  'access/language',
  'access/page-title',
  'access/table-head',
  'access/link-words',
  'access/heading-level',
]);

const obstaclesIn = (s: EpubSubject): Finding[] =>
  runRules(
    [...ALTERNATIVE_RULES, ...ACCESS_RULES].filter((r) => IN_THE_WAY.has(r.name)),
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
