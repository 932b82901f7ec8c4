/**
 * Tracked changes of an OpenDocument text taken back (ODF 1.3 part 3, §5.5): what was put in goes, what was deleted stands
 * again. The file that comes out has none, so that whatever reads it, reads the text as it was before them.
 */
import { SaxesParser } from 'saxes';
import { strFromU8, strToU8, zipSync, type Zippable } from 'fflate';
import { openZip } from '../../base';
import { edited, type Edit } from './edits';

/** The bytes as they are where the file can't be opened: its reader says why. */
export function withoutOdtChanges(bytes: Uint8Array): Uint8Array {
  const zip = openZip(bytes);
  if (!zip.ok) return bytes;
  const parts: Zippable = {};
  for (const { name } of zip.value.entries) {
    const part = zip.value.read(name);
    if (part) parts[name] = name === 'content.xml' ? strToU8(takenBack(strFromU8(part))) : part;
  }
  return zipSync(parts, { level: 1 });
}

/** An insertion that is open: tags that closed in it without having opened, and those that opened and are open still. */
interface Insertion {
  id: string;
  from: number;
  closed: string[];
  open: string[];
  /** Its text, should the tags around it not allow it to be cut out whole. */
  text: Edit[];
}

function takenBack(xml: string): string {
  const deleted = deletions(xml);
  const edits: Edit[] = [];
  const inserted = new Set<string>();
  const parser = new SaxesParser({ xmlns: false, position: true });
  const tagStart = (end: number): number => xml.lastIndexOf('<', end - 1);
  /** Start tags of the elements that are open. */
  const open: { name: string; tag: string }[] = [];
  let insertion: Insertion | null = null;
  let tracked: { from: number } | null = null;
  let textFrom = 0;
  const idOf = (attributes: Record<string, unknown>): string =>
    String(attributes['text:change-id'] ?? attributes['text:id'] ?? attributes['xml:id'] ?? '');
  const endOfText = (at: number): void => {
    if (insertion && at > textFrom) insertion.text.push({ from: textFrom, to: at, text: '' });
  };
  parser.on('error', () => undefined);
  parser.on('opentag', ({ name, attributes, isSelfClosing }) => {
    const to = parser.position;
    const from = tagStart(to);
    endOfText(from);
    textFrom = to;
    open.push({ name, tag: xml.slice(from, to) });
    if (name === 'text:tracked-changes' && !isSelfClosing) tracked = { from };
    if (tracked) {
      if (name === 'text:insertion') inserted.add(region);
      if (name === 'text:changed-region') region = idOf(attributes);
      return;
    }
    const id = idOf(attributes);
    if (name === 'text:change-start' && !insertion && inserted.has(id)) {
      insertion = { id, from: to, closed: [], open: [], text: [] };
      return;
    }
    if (name === 'text:change-end' && insertion?.id === id) {
      const { closed, open: opened } = insertion;
      const whole = closed.join('|') === opened.toReversed().join('|');
      edits.push(...(whole ? [{ from: insertion.from, to: from, text: '' }] : insertion.text));
      insertion = null;
      return;
    }
    if (insertion && !/^text:change(?:-start|-end)?$/.test(name)) insertion.open.push(name);
    const content = insertion || name !== 'text:change' ? undefined : deleted.get(id);
    if (content) edits.push({ from, to: from, text: standing(content, open.slice(0, -1)) });
  });
  let region = '';
  parser.on('closetag', ({ name, isSelfClosing }) => {
    const to = parser.position;
    open.pop();
    if (!isSelfClosing) endOfText(tagStart(to));
    textFrom = to;
    if (name === 'text:tracked-changes' && tracked) {
      edits.push({ from: tracked.from, to, text: '' });
      tracked = null;
    }
    if (!insertion || /^text:change(?:-start|-end)?$/.test(name)) return;
    if (insertion.open.length > 0) insertion.open.pop();
    else insertion.closed.push(name);
  });
  try {
    parser.write(xml).close();
  } catch {
    return xml;
  }
  return edited(xml, edits);
}

/** What each deletion took out, as it was written. */
function deletions(xml: string): Map<string, string> {
  const found = new Map<string, string>();
  const regions =
    /<text:changed-region\b[^>]*?(?:text|xml):id="([^"]*)"[^>]*>\s*<text:deletion>([^]*?)<\/text:deletion>/g;
  for (const [, id = '', content = ''] of xml.matchAll(regions))
    found.set(id, content.replace(/<office:change-info>[^]*?<\/office:change-info>/, '').trim());
  return found;
}

const PARAGRAPH = /^<(text:[ph])\b[^>]*?(?:\/>|>([^]*?)<\/\1>)$/;

/**
 * Deleted content as it goes back where it stood, between the open elements: its first paragraph's text belongs to the
 * paragraph around it, and so does its last one's (§5.5.9).
 */
function standing(content: string, open: readonly { name: string; tag: string }[]): string {
  const around = open.findLastIndex((o) => /^text:[ph]$/.test(o.name));
  if (around < 0) return content;
  const blocks = content.match(/<(text:[ph])\b[^>]*?(?:\/>|>[^]*?<\/\1>)/g) ?? [];
  const rest = content.replace(/<(text:[ph])\b[^>]*?(?:\/>|>[^]*?<\/\1>)/g, '').trim();
  const inner = (block: string): string => PARAGRAPH.exec(block)?.[2] ?? '';
  // A deleted table, or whatever else is no paragraph, can't stand within one: its words do.
  if (rest !== '') return blocks.map(inner).join(' ');
  const within = open.slice(around);
  const close = within
    .toReversed()
    .map((o) => `</${o.name}>`)
    .join('');
  const again = within.map((o) => o.tag).join('');
  return blocks.map(inner).join(`${close}${again}`);
}
