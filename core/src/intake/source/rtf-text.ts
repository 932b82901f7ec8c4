/** The text of a Rich Text file (specification 1.9.1): groups and control words skipped, nothing understood but those. */
import { formulaWord } from './missing';

/** Groups whose text is not the document's. */
const NOT_TEXT = new Set(
  'fonttbl colortbl stylesheet info pict fldinst bkmkstart bkmkend listtable listoverridetable rsidtbl generator xmlnstbl themedata colorschememapping datastore latentstyles header headerl headerr headerf footer footerl footerr footerf objclass objname objalias objsect objtime objdata mmathPict moMathParaPr revtbl filetbl annotation atnid atnauthor atndate atnref pntext nonshppict shpinst sp ftnsep ftnsepc aftnsep aftnsepc pgptbl mmathPr xe tc'.split(
    ' ',
  ),
);
/** Of groups begun with \*, those that hold text all the same. */
const STARRED_TEXT = new Set([
  'shppict',
  'cs',
  'footnote',
  'shptxt',
  'result',
  'mmath',
  'moMathPara',
  'moMath',
]);
const APART = new Set([
  'par',
  'line',
  'cell',
  'row',
  'tab',
  'page',
  'sect',
  'nestcell',
  'nestrow',
  'footnote',
]);
const SIGNS = new Map(
  Object.entries({
    emdash: '\u2014',
    endash: '\u2013',
    lquote: '\u2018',
    rquote: '\u2019',
    ldblquote: '\u201c',
    rdblquote: '\u201d',
    bullet: '\u2022',
  }),
);

export function rtfText(bytes: Uint8Array): string {
  const s = new TextDecoder('latin1').decode(bytes);
  const out: string[] = [];
  /** Whether each open group's text counts; fallback characters after \u; hidden or deleted by a tracked change. */
  const stack: { text: boolean; stand: number; hidden: boolean }[] = [];
  let now = { text: true, stand: 1, hidden: false };
  let starred = false;
  let skip = 0;
  /** The formula that is open: groups around it, and where its signs begin in `out`. */
  let formula: { depth: number; from: number } | null = null;
  const put = (t: string): void => {
    if (skip > 0) skip--;
    else if (now.text && !now.hidden) out.push(t);
  };
  const token = /\\([a-z]+)(-?\d+)? ?|\\'([0-9a-f]{2})|\\([^a-z])|([{}])|([^\\{}\r\n]+)|[\r\n]/gi;
  for (let m = token.exec(s); m; m = token.exec(s)) {
    const [, word, number, hex, sign, brace, plain] = m;
    if (brace === '{') {
      stack.push({ ...now });
      starred = false;
      skip = 0;
    } else if (brace === '}') {
      now = stack.pop() ?? now;
      skip = 0;
      if (formula && stack.length < formula.depth) {
        out.push(formulaWord(out.splice(formula.from).join('')));
        formula = null;
      }
    } else if (sign === '*') starred = true;
    else if (word !== undefined) {
      if (starred && !STARRED_TEXT.has(word)) now.text = false;
      starred = false;
      if (NOT_TEXT.has(word) || (formula && /^m\w+Pr$/.test(word))) now.text = false;
      else if (word === 'moMath') formula ??= { depth: stack.length, from: out.length };
      else if (word === 'shppict') now.text = false;
      else if (APART.has(word)) out.push(' ');
      else if (word === 'u') {
        skip = 0;
        const code = Number(number);
        put(String.fromCharCode(code < 0 ? code + 65_536 : code));
        skip = now.stand;
      } else if (word === 'uc') now.stand = Number(number ?? 1);
      else if (word === 'v' || word === 'deleted') now.hidden = number !== '0';
      else if (word === 'plain') now.hidden = false;
      else if (SIGNS.has(word)) put(SIGNS.get(word) as string);
      // Bytes follow, as many as it says.
      else if (word === 'bin') token.lastIndex += Number(number ?? 0);
    } else if (hex !== undefined) put(hexSign(hex));
    else if (sign === '~' || sign === '_') put(sign === '~' ? ' ' : '-');
    else if (sign === '\n' || sign === '\r') out.push(' ');
    else if (plain !== undefined) {
      const from = Math.min(skip, plain.length);
      skip -= from;
      if (now.text && !now.hidden) out.push(plain.slice(from));
    } else if (sign && sign !== '-') put(sign);
  }
  return out.join('');
}

/** A byte by Windows-1252, which nearly all files are in; the readers' words are compared without what is no letter. */
const windows1252 = new TextDecoder('windows-1252');
const hexSign = (hex: string): string => windows1252.decode(Uint8Array.of(parseInt(hex, 16)));
