/**
 * Tracked changes of a .docx taken back (ECMA-376 part 1, §17.13.5): what was put in goes, what was deleted stands again.
 * The file that comes out has none, so that whatever reads it, reads the text as it was before them.
 */
import { SaxesParser } from 'saxes';
import { strToU8, zipSync, type Zippable } from 'fflate';
import { openZip } from '../../base';
import { edited, type Edit } from './edits';
import { textOfPart } from './docx-tree';

const PARTS = /^word\/(?:document|footnotes|endnotes)\d*\.xml$/;

/** The bytes as they are where the file can't be opened: its reader says why. */
export function withoutDocxChanges(bytes: Uint8Array): Uint8Array {
  const zip = openZip(bytes);
  if (!zip.ok) return bytes;
  const parts: Zippable = {};
  for (const { name } of zip.value.entries) {
    const part = zip.value.read(name);
    if (!part) continue;
    parts[name] = PARTS.test(name) ? strToU8(takenBack(textOfPart(part))) : part;
  }
  return zipSync(parts, { level: 1 });
}

function takenBack(xml: string): string {
  const parser = new SaxesParser({ xmlns: false, position: true });
  const edits: Edit[] = [];
  const tagStart = (end: number): number => xml.lastIndexOf('<', end - 1);
  /** Insertions that are open, and where the outermost begins. */
  let inserted = 0;
  let from = 0;
  let properties = 0;
  const local = (name: string): string => name.replace(/^.*:/, '');
  parser.on('error', () => undefined);
  parser.on('opentag', (tag) => {
    const name = local(tag.name);
    const to = parser.position;
    if (/^(?:rPr|pPr|trPr|tcPr)$/.test(name)) properties++;
    if (properties > 0) return;
    if (/^(?:ins|moveTo)$/.test(name) && !tag.isSelfClosing && inserted++ === 0) from = tagStart(to);
    if (inserted > 0) return;
    if (/^(?:del|moveFrom)$/.test(name)) edits.push({ from: tagStart(to), to, text: '' });
    if (name === 'delText')
      edits.push({ from: tagStart(to), to, text: xml.slice(tagStart(to), to).replace('delText', 't') });
  });
  parser.on('closetag', (tag) => {
    const name = local(tag.name);
    const to = parser.position;
    if (/^(?:rPr|pPr|trPr|tcPr)$/.test(name)) {
      properties--;
      return;
    }
    if (properties > 0) return;
    if (/^(?:ins|moveTo)$/.test(name) && !tag.isSelfClosing) {
      if (--inserted === 0) edits.push({ from, to, text: '' });
      return;
    }
    if (inserted > 0 || tag.isSelfClosing) return;
    if (/^(?:del|moveFrom)$/.test(name)) edits.push({ from: tagStart(to), to, text: '' });
    if (name === 'delText')
      edits.push({ from: tagStart(to), to, text: xml.slice(tagStart(to), to).replace('delText', 't') });
  });
  try {
    parser.write(xml).close();
  } catch {
    return xml;
  }
  return edited(xml, edits);
}
