/** XML as a small tree that remembers lines and columns. */
import { readXml } from './xmlreader';
import type { XmlElement, XmlFault, XmlNode } from './xmltree';

export * from './xmltree';

export type XmlResult = { root: XmlElement; fault: null } | { root: null; fault: XmlFault };

/**
 * Names of characters (`&nbsp;`) are known only where the DOCTYPE says XHTML 1.x, as in EPUB 2; anywhere else XML knows
 * five, and any other is a fault.
 */
export function parseXml(text: string): XmlResult {
  const { root, faults } = readXml(text);
  const [fault] = faults;
  if (fault) return { root: null, fault };
  if (!root) throw new Error('a text without an element has a fault');
  return { root, fault: null };
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
