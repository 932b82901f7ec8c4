/** Mends of XML that is not well-formed, each at the place where its fault begins. */
import { characterEntities } from 'character-entities';
import { readXml, type XmlFault } from '../../base';
import type { Replacement } from '../../emend';
import { PREFIXES } from '../epub/wellformed';
import { HTML_ELEMENTS } from '../html/models';
import { atPlaces, type Mend } from './mend';

/** The faults of a text that begin at these places. */
const faultAt = (text: string, at: number): XmlFault | undefined =>
  readXml(text).faults.find((f) => f.at === at);

/** Elements that HTML closes a paragraph before (HTML §4.4.1, tag omission). */
const ENDS_PARAGRAPH =
  /<(?:address|article|aside|blockquote|details|div|dl|fieldset|figcaption|figure|footer|form|h[1-6]|header|hgroup|hr|main|menu|nav|ol|p|pre|section|table|ul)[\s/>]/g;

function closing(text: string, f: XmlFault): Replacement[] {
  const name = /^<([^\s/>]+)/.exec(text.slice(f.at))?.[1] ?? '';
  if (f.kind === 'stray-end') {
    const end = text.indexOf('>', f.at);
    return end < 0 ? [] : [{ from: f.at, to: end + 1, with: '' }];
  }
  if (!f.end) return [];
  if (HTML_ELEMENTS.get(name)?.content === 'nothing') {
    const end = text.indexOf('>', f.at);
    return end < 0 || text[end - 1] === '/' ? [] : [{ from: end, to: end, with: '/' }];
  }
  let { at } = f.end;
  if (name === 'p') {
    ENDS_PARAGRAPH.lastIndex = f.at + 2;
    const next = ENDS_PARAGRAPH.exec(text);
    if (next && next.index < at) at = next.index;
  } else if (name === 'li') {
    const next = /<(li|ul|ol)[\s/>]/.exec(text.slice(f.at + 3, at));
    if (next?.[1] === 'li') at = f.at + 3 + next.index;
  }
  // The white space before what comes next stays before it.
  const before = text.slice(0, at).trimEnd().length;
  return [{ from: before, to: before, with: f.end.text }];
}

const XHTML_NAMESPACE = ' xmlns="http://www.w3.org/1999/xhtml"';
export const MARKUP_MENDS: Record<string, Mend> = {
  characters: {
    label: 'Escape special characters',
    apply: atPlaces((text, at) => {
      if (text[at] === '<') return [{ from: at, to: at + 1, with: '&lt;' }];
      if (text[at] !== '&') {
        // A character that XML doesn’t hold.
        return [{ from: at, to: at + 1, with: '' }];
      }
      const reference = /^&(?:#x?([0-9a-fA-F]+)|(\w+));/.exec(text.slice(at, at + 60));
      if (!reference) return [{ from: at, to: at + 1, with: '&amp;' }];
      const [whole, code, name = ''] = reference;
      const to = at + whole.length;
      if (code !== undefined) return [{ from: at, to, with: '' }];
      const character = Object.hasOwn(characterEntities, name) ? characterEntities[name] : undefined;
      return character === undefined
        ? [{ from: at, to: at + 1, with: '&amp;' }]
        : [{ from: at, to, with: character }];
    }),
  },
  attributes: {
    label: 'Put attribute values in quotation marks',
    apply: atPlaces((text, at) => {
      const kind = faultAt(text, at)?.kind;
      if (kind === 'attribute-gap') return [{ from: at, to: at, with: ' ' }];
      const name = /^[^\s=/>]+/.exec(text.slice(at))?.[0] ?? '';
      if (kind === 'attribute-value')
        return [{ from: at + name.length, to: at + name.length, with: `="${name}"` }];
      const bare = /^(\s*=\s*)([^\s"'<>=]+?)(?=\s|\/?>)/.exec(
        text.slice(at + name.length, at + name.length + 2_000),
      );
      if (kind !== 'attribute-quotes' || !bare) return [];
      const from = at + name.length + (bare[1] ?? '').length;
      return [{ from, to: from + (bare[2] ?? '').length, with: `"${bare[2] ?? ''}"` }];
    }),
  },
  comments: {
    label: 'Remove double hyphens from comments',
    apply: atPlaces((text, at) => {
      const double = /^-{2,}(?!>)/.exec(text.slice(at));
      return double
        ? [{ from: at, to: at + double[0].length, with: '- '.repeat(double[0].length).trim() }]
        : [];
    }),
  },
  'close-tags': {
    label: 'Close open elements',
    apply: (m) =>
      atPlaces((text, at) => {
        const f = faultAt(text, at);
        return f ? closing(text, f) : [];
      })(m),
  },
  declaration: {
    label: 'Correct the XML declaration',
    apply: atPlaces((text, at) => {
      const declaration = /^\s*<\?xml[^>]*\?>/.exec(text.slice(at, at + 500));
      if (!declaration) return [];
      const first = text.slice(0, at).replace(/^\ufeff/, '') === '';
      return [
        {
          from: at,
          to: at + declaration[0].length,
          with: first ? '<?xml version="1.0" encoding="utf-8"?>' : '',
        },
      ];
    }),
  },
  namespace: {
    label: 'Declare namespaces',
    apply(m) {
      for (const path of new Set(m.findings.map((f) => f.file ?? ''))) {
        const text = m.d.text(path);
        const { root, faults } = readXml(text);
        if (!root) continue;
        const tag = text.indexOf('>', root.at);
        const end = text[tag - 1] === '/' ? tag - 1 : tag;
        const wanted = new Set(faults.flatMap((f) => f.about ?? []));
        let more = root.name === 'html' && root.attrs.xmlns === undefined ? XHTML_NAMESPACE : '';
        for (const prefix of wanted)
          if (PREFIXES[prefix] && root.attrs[`xmlns:${prefix}`] === undefined)
            more += ` xmlns:${prefix}="${PREFIXES[prefix]}"`;
        if (
          root.name === 'html' &&
          root.attrs.xmlns !== undefined &&
          root.ns !== 'http://www.w3.org/1999/xhtml'
        )
          continue;
        if (more) m.d.edit(path, [{ from: end, to: end, with: more }]);
      }
    },
  },
  doctype: {
    label: 'Use the right document type',
    apply(m) {
      const older = m.s.version.startsWith('2');
      for (const path of new Set(m.findings.map((f) => f.file ?? ''))) {
        const text = m.d.text(path);
        const found = /<!DOCTYPE[^>[]*>/.exec(text);
        // What is declared within it is kept.
        if (!found) continue;
        const written = older
          ? '<!DOCTYPE html PUBLIC "-//W3C//DTD XHTML 1.1//EN" "http://www.w3.org/TR/xhtml11/DTD/xhtml11.dtd">'
          : m.s.items.get(path)?.type === 'application/xhtml+xml'
            ? '<!DOCTYPE html>'
            : '';
        m.d.edit(path, [{ from: found.index, to: found.index + found[0].length, with: written }]);
      }
    },
  },
};
