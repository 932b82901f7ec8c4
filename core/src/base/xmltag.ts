/** A start tag of XML read with its faults, each at the attribute that has it (XML 1.0 §3.1, productions 40, 41 and 44). */
import { nameAt, spaceAt } from './xmlnames';
import type { XmlFaultKind } from './xmltree';

export interface StartTag {
  name: string;
  /** By their names as written, each with its value and the offset that it begins at. */
  attributes: ReadonlyMap<string, { value: string; at: number }>;
  /** Whether it is the whole element. */
  empty: boolean;
  /** Where the text goes on. */
  to: number;
}
type Report = (kind: XmlFaultKind, at: number, message: string) => void;

/** `from`: offset of `<`, which a name follows. `resolved`: a stretch of the text with its references resolved. */
export function readStartTag(
  text: string,
  from: number,
  fault: Report,
  resolved: (from: number, to: number) => string,
): StartTag {
  const name = nameAt(text, from + 1);
  const attributes = new Map<string, { value: string; at: number }>();
  let at = from + 1 + name.length;
  for (;;) {
    const next = spaceAt(text, at);
    const c = text[next] ?? '';
    if (c === '>') return { name, attributes, empty: false, to: next + 1 };
    if (c === '/' && text[next + 1] === '>') return { name, attributes, empty: true, to: next + 2 };
    if (c === '' || c === '<') {
      fault('tag', from, `the tag of “${name}” has no “>”`);
      return { name, attributes, empty: false, to: next };
    }
    const key = nameAt(text, next);
    if (!key) {
      fault('tag', next, `“${c}” isn’t allowed in the tag of “${name}”`);
      at = next + 1;
      continue;
    }
    if (next === at) fault('attribute-gap', next, `the attribute “${key}” needs a space before it`);
    const read = valueAfter(text, key, next, fault, resolved);
    if (attributes.has(key)) fault('attribute-twice', next, `the attribute “${key}” is given twice`);
    else attributes.set(key, { value: read.value, at: next });
    at = read.to;
  }
}

/** What follows the name of an attribute, and where the tag goes on. */
function valueAfter(
  text: string,
  key: string,
  from: number,
  fault: Report,
  resolved: (from: number, to: number) => string,
): { value: string; to: number } {
  const sign = spaceAt(text, from + key.length);
  if (text[sign] !== '=') {
    fault('attribute-value', from, `the attribute “${key}” has no value`);
    return { value: '', to: from + key.length };
  }
  const begin = spaceAt(text, sign + 1);
  const quote = text[begin] ?? '';
  if (quote !== '"' && quote !== "'") {
    fault('attribute-quotes', from, `the value of “${key}” isn’t in quotation marks`);
    const bare = /^[^ \t\r\n<>"']*/.exec(text.slice(begin, begin + 1_000))?.[0] ?? '';
    const value = bare.endsWith('/') && text[begin + bare.length] === '>' ? bare.slice(0, -1) : bare;
    return { value, to: begin + value.length };
  }
  const close = text.indexOf(quote, begin + 1);
  const tagEnd = text.indexOf('>', begin + 1);
  const inner = text.slice(begin + 1, close < 0 ? text.length : close);
  // A value that runs over tags lacks its end.
  const runsOver =
    inner.includes('<') && tagEnd >= 0 && tagEnd < close && text.slice(tagEnd, close).includes('<');
  if (close < 0 || runsOver) {
    fault('attribute-quotes', from, `the value of “${key}” has no closing quotation mark`);
    const to = tagEnd < 0 ? text.length : text[tagEnd - 1] === '/' ? tagEnd - 1 : tagEnd;
    return { value: resolved(begin + 1, to), to };
  }
  const mark = inner.indexOf('<');
  if (mark >= 0)
    fault('less-than', begin + 1 + mark, `“<” within the value of “${key}” must be written as &lt;`);
  // White space is one character each, a line end too (§3.3.3).
  const value = inner.includes('&')
    ? resolved(begin + 1, close).replace(/[\t\n]/g, ' ')
    : inner.replace(/\r\n|[\t\r\n]/g, ' ');
  return { value, to: close + 1 };
}
