/** Operators of a content stream with their operands (ISO 32000-1 §7.8.2). What is no operand of interest is passed over. */
export type Operand = number | { name: string } | { text: true } | { list: Operand[] };
export interface Operation {
  operator: string;
  operands: Operand[];
}

const isSpace = (c: number): boolean => c === 32 || (c >= 9 && c <= 13) || c === 0;
/** ( ) < > [ ] { } / % */
const isDelimiter = (c: number): boolean =>
  c === 40 ||
  c === 41 ||
  c === 60 ||
  c === 62 ||
  c === 91 ||
  c === 93 ||
  c === 123 ||
  c === 125 ||
  c === 47 ||
  c === 37;

/** Most operands of one operator; a stream that never comes to one is none. */
const MOST = 400;

/** `data` is the decoded stream. Damage ends what it stands in, never the reading. */
export function* operations(data: Uint8Array): Generator<Operation> {
  let at = 0;
  let operands: Operand[] = [];
  const lists: Operand[][] = [];
  const take = (o: Operand): void => {
    const into = lists.at(-1) ?? operands;
    if (into.length < MOST) into.push(o);
  };
  const word = (): string => {
    const from = at;
    while (at < data.length && !isSpace(data[at] as number) && !isDelimiter(data[at] as number)) at++;
    return String.fromCharCode(...data.subarray(from, Math.min(at, from + 200)));
  };
  while (at < data.length) {
    const c = data[at] as number;
    if (isSpace(c)) at++;
    else if (c === 37) while (at < data.length && data[at] !== 10 && data[at] !== 13) at++;
    else if (c === 40) {
      at = afterString(data, at);
      take({ text: true });
    } else if (c === 60 && data[at + 1] !== 60) {
      while (at < data.length && data[at] !== 62) at++;
      at++;
      take({ text: true });
    } else if (c === 60 || c === 62 || c === 123 || c === 125 || c === 41)
      at += c === 60 || (c === 62 && data[at + 1] === 62) ? 2 : 1;
    else if (c === 91) {
      at++;
      if (lists.length < 20) lists.push([]);
    } else if (c === 93) {
      at++;
      const list = lists.pop();
      if (list) take({ list });
    } else if (c === 47) {
      at++;
      take({
        name: word().replace(/#([0-9a-f]{2})/gi, (_, hex: string) => String.fromCharCode(parseInt(hex, 16))),
      });
    } else {
      const w = word();
      if (w === '') {
        at++;
        continue;
      }
      const n = Number(w);
      if (!Number.isNaN(n)) take(n);
      else if (w !== 'true' && w !== 'false' && w !== 'null') {
        yield { operator: w, operands };
        operands = [];
        lists.length = 0;
        // The bytes of an inline picture (§8.9.7) end at EI between white space.
        if (w === 'ID') at = afterInline(data, at);
      }
    }
  }
}

function afterString(data: Uint8Array, from: number): number {
  let depth = 0;
  for (let at = from; at < data.length; at++) {
    const c = data[at];
    if (c === 92) at++;
    else if (c === 40) depth++;
    else if (c === 41 && --depth === 0) return at + 1;
  }
  return data.length;
}
function afterInline(data: Uint8Array, from: number): number {
  for (let at = from + 1; at + 2 < data.length; at++)
    if (
      data[at] === 69 &&
      data[at + 1] === 73 &&
      isSpace(data[at - 1] as number) &&
      isSpace(data[at + 2] as number)
    )
      return at;
  return data.length;
}
