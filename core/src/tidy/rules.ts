/** The rules of typographic clean-up. Each looks at the text of one block and answers what it would put in place of what. */
import { NBSP, NNBSP, type TypographicStyle } from './styles';

export type RuleName =
  | 'quotation-marks'
  | 'apostrophes'
  | 'dashes'
  | 'ellipses'
  | 'primes'
  | 'fractions'
  | 'no-break-spaces'
  | 'multiple-spaces'
  | 'space-before-punctuation'
  | 'tabs'
  | 'white-space-at-ends'
  | 'empty-paragraphs'
  | 'underlining'
  | 'capital-titles'
  | 'caption-numbers'
  | 'cross-references';

/** Put `by` in place of the characters from `from` to `to`. Offsets are UTF-16 units of the block's text. */
export interface Edit {
  rule: RuleName;
  from: number;
  to: number;
  by: string;
}

export const RULE_NAMES: Record<RuleName, string> = {
  'quotation-marks': 'Quotation marks',
  apostrophes: 'Apostrophes',
  dashes: 'Dashes',
  ellipses: 'Ellipses',
  primes: 'Feet and inches',
  fractions: 'Fractions',
  'no-break-spaces': 'No-break spaces',
  'multiple-spaces': 'More than one space',
  'space-before-punctuation': 'Space before punctuation',
  tabs: 'Tabs',
  'white-space-at-ends': 'White space at the ends of paragraphs',
  'empty-paragraphs': 'Empty paragraphs',
  underlining: 'Underlining to italics',
  'capital-titles': 'Titles typed in capitals',
  'caption-numbers': 'Numbers typed before captions',
  'cross-references': 'Typed references',
};

const WORD = /[\p{L}\p{N}]/u;
const SPACE = /[\s\u00a0\u202f]/;
/** Words that begin with an apostrophe. */
const ELIDED = /^(?:[Tt]is|[Tt]was|[Tt]were|[Tt]will|em|cause|bout|round|til|n|neath|gainst)(?![\p{L}])/u;
const OPENS = /[\s\u00a0\u202f([{\u2013\u2014\u2018\u201c\u00ab\u201e\u201a/\ufffc-]/;

/**
 * Straight quotation marks and apostrophes, seen together: what one is depends on those before it. A mark opens where
 * something begins and a word follows; it closes otherwise. A figure before a mark outside any quotation is a measure.
 */
export function quotes(text: string, style: TypographicStyle): Edit[] {
  const edits: Edit[] = [];
  let doubles = 0;
  let singles = 0;
  let opened = -1;
  const put = (rule: RuleName, at: number, by: string): void =>
    void edits.push({ rule, from: at, to: at + 1, by });
  for (let i = 0; i < text.length; i++) {
    const c = text.charAt(i);
    const before = text.charAt(i - 1);
    const after = text.charAt(i + 1);
    if (c === '\u201c' || c === '\u00ab' || c === '\u201e') doubles++;
    if (c === '\u2018' || c === '\u201a') singles++;
    if (c === '\u201d' || c === '\u00bb') doubles = Math.max(0, doubles - 1);
    if (c === '\u2019' && !WORD.test(after)) singles = Math.max(0, singles - 1);
    if (c !== '"' && c !== "'") continue;
    const begins = before === '' || OPENS.test(before) || opened === i - 1;
    const opens = begins && after !== '' && !SPACE.test(after);
    if (c === '"') {
      if (/\d/.test(before) && doubles === 0 && !WORD.test(after)) put('primes', i, '\u2033');
      else {
        put('quotation-marks', i, style.double[opens ? 0 : 1]);
        doubles = opens ? doubles + 1 : Math.max(0, doubles - 1);
        if (opens) opened = i;
      }
      continue;
    }
    const rest = text.slice(i + 1);
    if (/\d/.test(before) && singles === 0 && /^\s?\d+"/.test(rest)) put('primes', i, '\u2032');
    else if (
      (WORD.test(before) && WORD.test(after)) ||
      (begins && (/^\d\ds?(?!\d)/.test(rest) || ELIDED.test(rest)))
    )
      put('apostrophes', i, '\u2019');
    else if (opens) {
      put('quotation-marks', i, style.single[0]);
      singles++;
      opened = i;
    } else if (singles > 0) {
      put('quotation-marks', i, style.single[1]);
      singles--;
    } else put('apostrophes', i, '\u2019');
  }
  return edits;
}

const found = (text: string, pattern: RegExp, edit: (m: RegExpExecArray) => Edit | null): Edit[] =>
  [...text.matchAll(pattern)].flatMap((m) => edit(m as RegExpExecArray) ?? []);

export function dashes(text: string, style: TypographicStyle): Edit[] {
  const { sign, spaced } = style.dash;
  const rule = 'dashes';
  return [
    // Two or three hyphens, or one between spaces.
    ...found(text, /(?<! )( *)(---?|(?<= )-(?= ))( *)/g, (m) => {
      const [whole, left = '', dash = '', right = ''] = m;
      if (dash === '-' && (left === '' || right === '')) return null;
      const from = m.index;
      const edges = from === 0 || from + whole.length === text.length;
      const by =
        spaced && dash !== '---' && !edges
          ? `${left ? ' ' : ''}${sign}${right ? ' ' : ''}`
          : edges
            ? `${left}${sign}${right}`
            : sign;
      return { rule, from, to: from + whole.length, by };
    }),
    // Between figures of a range.
    ...found(text, /(?<![\p{L}\p{N}-])(\d{1,4})-(\d{1,4})(?![\p{L}\p{N}-])/gu, (m) => {
      const at = m.index + (m[1] as string).length;
      return Number(m[2]) > 0 ? { rule, from: at, to: at + 1, by: '\u2013' } : null;
    }),
  ];
}

export const ellipses = (text: string): Edit[] =>
  found(text, /(?<!\.)(\.\.\.|\. \. \.)(?!\.)/g, (m) => ({
    rule: 'ellipses',
    from: m.index,
    to: m.index + m[0].length,
    by: '\u2026',
  }));

export function noBreakSpaces(text: string, style: TypographicStyle): Edit[] {
  const edits: Edit[] = [];
  const rule = 'no-break-spaces';
  const signs = Object.keys(style.before);
  if (signs.length > 0) {
    edits.push(
      ...found(text, /(?<![ \u00a0\u202f])([ \u00a0\u202f]*)([;:!?]+)/g, (m) => {
        const [, space = '', marks = ''] = m;
        const wanted = style.before[marks.charAt(0)] ?? '';
        const before = text.charAt(m.index - 1);
        const after = text.charAt(m.index + m[0].length);
        // A time or a proportion, and the sign after an ellipsis or an opening bracket, want none.
        if (before === '' || (/\d/.test(before) && /\d/.test(after)) || /[([\u2026\u00ab]/.test(before))
          return null;
        return space === wanted ? null : { rule, from: m.index, to: m.index + space.length, by: wanted };
      }),
      ...found(text, /\u00ab([ \u202f]|(?=[^\s\u00a0]))/g, (m) => ({
        rule,
        from: m.index + 1,
        to: m.index + m[0].length,
        by: NBSP,
      })),
      ...found(text, /(?:[ \u202f]|(?<=[^\s\u00a0]))\u00bb/g, (m) => ({
        rule,
        from: m.index,
        to: m.index + m[0].length - 1,
        by: NBSP,
      })),
    );
  }
  for (const written of style.abbreviations) {
    const pattern = new RegExp(`(?<![\\p{L}])${written.replace(/\./g, '\\.').replace(/ /g, ' ?')}`, 'gu');
    edits.push(
      ...found(text, pattern, (m) => {
        const by = written.replace(/ /g, NNBSP);
        return m[0] === by ? null : { rule, from: m.index, to: m.index + m[0].length, by };
      }),
    );
  }
  return edits;
}

const WRITTEN: Record<string, string> = { '1/2': '\u00bd', '1/4': '\u00bc', '3/4': '\u00be' };
/**
 * Fractions typed with a solidus, of the denominators that are counted with. The three that every face has become one
 * character; others get the fraction slash (The Unicode Standard §6.2), which faces build a fraction around.
 */
export const fractions = (text: string): Edit[] =>
  found(
    text,
    /(?<![\d/.,\u2044])(?:(\d{1,4}) )?(\d{1,2})\/(2|3|4|5|6|8|10|12|16|32|64)(?![\d/\u2044]|[.,]\d)/g,
    (m) => {
      const [all, whole, over, under] = m as unknown as [string, string | undefined, string, string];
      if (Number(over) >= Number(under) || over.startsWith('0')) return null;
      const by = WRITTEN[`${over}/${under}`] ?? `${over}\u2044${under}`;
      // A whole number stands close to its fraction; two figures in a row want a thin space between.
      const joined = whole === undefined ? by : `${whole}${by.length === 1 ? '' : NNBSP}${by}`;
      return { rule: 'fractions', from: m.index, to: m.index + all.length, by: joined };
    },
  );

export function spaces(text: string, style: TypographicStyle): Edit[] {
  const edits: Edit[] = [];
  edits.push(
    ...found(text, /^[ \t\u00a0]+/g, (m) => ({
      rule: 'white-space-at-ends',
      from: 0,
      to: m[0].length,
      by: '',
    })),
    ...found(text, /(?<![ \t\u00a0])[ \t\u00a0]+$/g, (m) => ({
      rule: 'white-space-at-ends',
      from: m.index,
      to: text.length,
      by: '',
    })),
    ...found(text, /(?<=\S) *\t+ *(?=\S)/g, (m) => ({
      rule: 'tabs',
      from: m.index,
      to: m.index + m[0].length,
      by: ' ',
    })),
    ...found(text, /(?<=\S) {2,}(?=\S)/g, (m) => ({
      rule: 'multiple-spaces',
      from: m.index,
      to: m.index + m[0].length,
      by: ' ',
    })),
  );
  const french = Object.keys(style.before).length > 0;
  edits.push(
    ...found(
      text,
      french
        ? /(?<=[\p{L}\p{N}]) +(?=[,.](?![.\d]))/gu
        : /(?<=[\p{L}\p{N}]) +(?=[,;:!?](?!\S)|\.(?![.\d\p{L}]))/gu,
      (m) => ({
        rule: 'space-before-punctuation',
        from: m.index,
        to: m.index + m[0].length,
        by: '',
      }),
    ),
  );
  return edits;
}
