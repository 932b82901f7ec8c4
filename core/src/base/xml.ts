/** XML read into a small tree that remembers lines and columns. No external entity is ever resolved. */
import { characterEntities } from 'character-entities';
import { SaxesParser } from 'saxes';

export interface XmlElement {
  /** Local name, without prefix. */
  name: string;
  /** Namespace URI, '' when none. */
  ns: string;
  /** Attributes by qualified name as written. */
  attrs: Record<string, string>;
  children: XmlNode[];
  /** Where its start tag begins, both counted from 1. */
  line: number;
  column: number;
}
export type XmlNode = XmlElement | string;

export interface XmlFault {
  message: string;
  line: number;
  column: number;
}
export type XmlResult = { root: XmlElement; fault: null } | { root: null; fault: XmlFault };

/** Levels that elements may be nested; no document that somebody wrote has a tenth of them. */
export const DEEPEST_XML = 2_000;

/**
 * Names of characters (`&nbsp;`) are known only where the DOCTYPE says XHTML 1.x, as in EPUB 2; anywhere else XML knows
 * five, and any other is a fault.
 */
export function parseXml(text: string): XmlResult {
  const parser = new SaxesParser({ xmlns: true, position: true });
  parser.on('doctype', (declared) => {
    if (/-\/\/W3C\/\/DTD XHTML 1\./.test(declared)) Object.assign(parser.ENTITIES, characterEntities);
  });
  let root: XmlElement | null = null;
  let fault: XmlFault | null = null;
  const open: XmlElement[] = [];
  const lines = lineCounter(text);
  let began = { line: 1, column: 1 };
  parser.on('opentagstart', () => {
    began = lines(text.lastIndexOf('<', parser.position - 1));
  });
  parser.on('error', (e) => {
    fault ??= { message: e.message.replace(/^\d+:\d+: /, ''), line: parser.line, column: parser.column };
  });
  parser.on('opentag', (tag) => {
    const attrs: Record<string, string> = {};
    for (const [key, a] of Object.entries(tag.attributes)) attrs[key] = a.value;
    const el: XmlElement = {
      name: tag.local,
      ns: tag.uri,
      attrs,
      children: [],
      ...began,
    };
    open.at(-1)?.children.push(el);
    root ??= el;
    open.push(el);
    // The library looks through all that is open for every element.
    if (open.length > DEEPEST_XML) throw new Error('elements are nested thousands of levels deep');
  });
  parser.on('closetag', () => void open.pop());
  const text_ = (t: string): void => void open.at(-1)?.children.push(t);
  parser.on('text', text_);
  parser.on('cdata', text_);
  try {
    parser.write(text).close();
  } catch (e) {
    fault ??= { message: (e as Error).message, line: parser.line, column: parser.column };
  }
  if (fault) return { root: null, fault };
  if (!root) return { root: null, fault: { message: 'there is no element', line: 1, column: 1 } };
  return { root, fault: null };
}

/** Line and column, from 1, of places asked for in the order of the text. */
function lineCounter(text: string): (at: number) => { line: number; column: number } {
  let line = 1;
  let start = 0;
  const next = /\r\n|\r|\n/g;
  let found = next.exec(text);
  return (at) => {
    for (; found && found.index < at; found = next.exec(text)) {
      line++;
      start = next.lastIndex;
    }
    return { line, column: at - start + 1 };
  };
}

/** All descendants of that local name, in document order, the element itself included. */
export function descendants(el: XmlElement, name: string): XmlElement[] {
  const found: XmlElement[] = [];
  const walk = (e: XmlElement): void => {
    if (e.name === name) found.push(e);
    for (const c of e.children) if (typeof c !== 'string') walk(c);
  };
  walk(el);
  return found;
}

export const firstOf = (el: XmlElement, name: string): XmlElement | undefined => descendants(el, name)[0];

export function textOf(node: XmlNode): string {
  return typeof node === 'string' ? node : node.children.map(textOf).join('');
}

const ESCAPES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
/** Text made safe for XML content and double-quoted attributes; characters XML 1.0 forbids are dropped. */
export function escapeXml(text: string): string {
  return text
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
    .replace(/[&<>"]/g, (c) => ESCAPES[c] ?? c);
}
