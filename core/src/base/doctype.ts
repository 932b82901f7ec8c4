/** The document type declaration of an XML file (XML 1.0 §2.8): what it names, and the entities that it declares. */

export interface Doctype {
  name: string;
  publicId: string;
  systemId: string;
  /** Replacement text of the internal entities, by name. Entities within them are not resolved. */
  entities: Record<string, string>;
  /** Names of entities that are kept outside of the file. */
  external: string[];
  /** Offset of its `<`. */
  at: number;
}

const LITERAL = `(?:"[^"]*"|'[^']*')`;
const HEAD = new RegExp(
  `^<!DOCTYPE\\s+([^\\s\\[>"']+)(?:\\s+(?:PUBLIC\\s+(${LITERAL})\\s+(${LITERAL})|SYSTEM\\s+(${LITERAL})))?\\s*`,
);
const bare = (literal: string | undefined): string => (literal ?? '').slice(1, -1);

/** `at`: offset of `<!DOCTYPE`. `to`: where the text goes on. */
export function readDoctype(
  text: string,
  at: number,
): { doctype: Doctype; to: number; fault: string | null } {
  const doctype: Doctype = { name: '', publicId: '', systemId: '', entities: {}, external: [], at };
  const rest = text.slice(at);
  const head = HEAD.exec(rest);
  const skip = (): number => {
    const end = text.indexOf('>', at);
    return end < 0 ? text.length : end + 1;
  };
  if (!head) return { doctype, to: skip(), fault: 'the document type declaration is damaged' };
  doctype.name = head[1] ?? '';
  doctype.publicId = bare(head[2]);
  doctype.systemId = bare(head[3] ?? head[4]);
  let i = head[0].length;
  if (rest[i] === '[') {
    const end = endOfSubset(rest, i + 1);
    if (end < 0) return { doctype, to: text.length, fault: 'the document type declaration has no end' };
    readEntities(rest.slice(i + 1, end), doctype);
    i = end + 1 + (/^\s*/.exec(rest.slice(end + 1))?.[0].length ?? 0);
  }
  if (rest[i] !== '>') return { doctype, to: skip(), fault: 'the document type declaration is damaged' };
  return { doctype, to: at + i + 1, fault: null };
}

/** Of the `]` that ends it, which no literal, comment or instruction holds. */
function endOfSubset(text: string, from: number): number {
  const part = /"[^"]*"|'[^']*'|<!--[^]*?-->|<\?[^]*?\?>|\]/g;
  part.lastIndex = from;
  for (let m = part.exec(text); m; m = part.exec(text)) if (m[0] === ']') return m.index;
  return -1;
}

function readEntities(subset: string, doctype: Doctype): void {
  const plain = subset.replace(/<!--[^]*?-->|<\?[^]*?\?>/g, '');
  for (const m of plain.matchAll(/<!ENTITY\s+([^\s%"'>]+)\s+("[^"]*"|'[^']*'|(?:SYSTEM|PUBLIC)\b)/g)) {
    const [, name = '', value = ''] = m;
    if (/^["']/.test(value)) {
      // The first declaration of a name counts (§4.2).
      if (!Object.hasOwn(doctype.entities, name))
        doctype.entities[name] = bare(value).replace(/&#(?:x([0-9a-f]+)|(\d+));/gi, (whole, hex, decimal) => {
          const code = hex ? parseInt(String(hex), 16) : Number(decimal);
          return code > 0 && code <= 0x10ffff ? String.fromCodePoint(code) : whole;
        });
    } else doctype.external.push(name);
  }
}
