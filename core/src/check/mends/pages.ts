/** Mends of pages and style sheets: attributes, elements, addresses. */
import {
  attributeEdit,
  attributeOf,
  elementsNamed,
  localName,
  textWithin,
  valueOf,
  type Located,
  type Replacement,
} from '../../emend';
import { escapeXml } from '../../base';
import { reference, resolve } from '../../package';
import { isLanguage } from '../epub/language';
import { elsewhere, otherCase } from '../epub/items';
import { BOOLEAN_ATTRIBUTES } from '../html/models';
import { ARIA_ROLES, DPUB_ROLES, SEMANTICS, DEPRECATED_SEMANTICS } from '../html/words';
import { atElements, renamedElement, valueFor, withoutAttribute, type Mend, type Mending } from './mend';

/** Style in place of an attribute that HTML had once; null where there is none that says the same. */
function styleFor(element: string, name: string, value: string): string | null {
  const v = value.trim();
  const length = /^\d+$/.test(v) ? `${v}px` : /^\d+%$/.test(v) ? v : null;
  switch (name) {
    case 'align':
      if (element === 'img' || element === 'table')
        return /^(left|right)$/i.test(v) ? `float: ${v.toLowerCase()}` : null;
      return /^(left|right|center|justify)$/i.test(v) ? `text-align: ${v.toLowerCase()}` : null;
    case 'valign':
      return /^(top|middle|bottom|baseline)$/i.test(v) ? `vertical-align: ${v.toLowerCase()}` : null;
    case 'bgcolor':
      return `background-color: ${v}`;
    case 'width':
    case 'height':
      return length ? `${name}: ${length}` : null;
    case 'border':
      return length && element !== 'table' ? `border-width: ${length}` : null;
    case 'clear':
      return /^(left|right)$/i.test(v) ? `clear: ${v.toLowerCase()}` : 'clear: both';
    default:
      return null;
  }
}
/** A style added to those that an element has. */
function withStyle(text: string, e: Located, style: string): Replacement[] {
  const a = attributeOf(e, 'style');
  const was = a?.value.trim().replace(/;$/, '') ?? '';
  return a ? [valueFor(text, a, was ? `${was}; ${style}` : style)] : attributeEdit(text, e, 'style', style);
}

/** What replaces an element that HTML had once, where it looks and means the same. */
const REPLACED: Record<string, [name: string, style: string]> = {
  acronym: ['abbr', ''],
  big: ['span', 'font-size: larger'],
  center: ['div', 'text-align: center'],
  dir: ['ul', ''],
  font: ['span', ''],
  nobr: ['span', 'white-space: nowrap'],
  strike: ['s', ''],
  tt: ['code', ''],
};
const fontStyle = (e: Located): string =>
  [
    valueOf(e, 'color') ? `color: ${valueOf(e, 'color') ?? ''}` : '',
    valueOf(e, 'face') ? `font-family: ${(valueOf(e, 'face') ?? '').replace(/"/g, "'")}` : '',
  ]
    .filter(Boolean)
    .join('; ');

/** References written anew where `to` says that they lead elsewhere. */
const lead =
  (to: (path: string, m: Mending) => string | null): Mend['apply'] =>
  (m) => {
    const files = new Set(m.findings.map((f) => f.file));
    m.d.lead((r) => {
      if (!files.has(r.in) || m.d.now.parts.has(r.path)) return null;
      const other = to(r.path, m);
      return other === null ? null : { path: other, fragment: r.fragment };
    });
  };
const keepTokens = (name: string, known: (t: string) => boolean): Mend['apply'] =>
  atElements((e, text) => {
    const a = attributeOf(e, name);
    const kept = (a?.value ?? '').split(/\s+/).filter((t) => t && known(t));
    return a ? (kept.length > 0 ? [valueFor(text, a, kept.join(' '))] : [withoutAttribute(text, a)]) : [];
  });

export const PAGE_MENDS: Record<string, Mend> = {
  'unknown-attribute': {
    label: 'Remove unknown attributes',
    apply: atElements((_e, text, _m, _path, a) => (a ? [withoutAttribute(text, a)] : [])),
  },
  'obsolete-attribute': {
    label: 'Replace with a style',
    apply(m) {
      // One at a time: a second style of an element stands on the first.
      for (const f of m.findings)
        atElements((e, text, _m, _path, a) => {
          if (!a) return [];
          const style = styleFor(localName(e.name), a.name, a.value);
          if (!style) return [withoutAttribute(text, a)];
          const own = attributeOf(e, 'style');
          return own
            ? [withoutAttribute(text, a), ...withStyle(text, e, style)]
            : [{ from: a.from, to: a.to, with: `style="${style}"` }];
        })({ ...m, findings: [f] });
    },
  },
  'obsolete-element': {
    label: 'Replace obsolete elements',
    apply(m) {
      // Inner ones last, so that places before them stay.
      for (const f of [...m.findings].reverse())
        atElements((e, text) => {
          const found = REPLACED[localName(e.name)];
          if (!found) return [];
          const style = localName(e.name) === 'font' ? fontStyle(e) : found[1];
          const own = attributeOf(e, 'style');
          const more = style && !own ? ` style="${escapeXml(style)}"` : '';
          const dropped =
            localName(e.name) === 'font'
              ? e.attributes
                  .filter((a) => /^(color|face|size)$/.test(a.name))
                  .map((a) => withoutAttribute(text, a))
              : [];
          return [
            ...renamedElement(e, text, found[0], more),
            ...dropped,
            ...(style && own ? withStyle(text, e, style) : []),
          ];
        })({ ...m, findings: [f] });
    },
  },
  boolean: {
    label: 'Correct on/off attributes',
    apply: atElements((_e, text, _m, _path, a) => {
      if (!a || !BOOLEAN_ATTRIBUTES.has(a.name)) return [];
      return /^(false|no|0|off)$/i.test(a.value) ? [withoutAttribute(text, a)] : [valueFor(text, a, a.name)];
    }),
  },
  number: {
    label: 'Correct numbers',
    apply: atElements((e, text, _m, _path, a) => {
      if (!a) return [];
      const px = /^\s*(\d+)(\.\d+)?\s*(px)?\s*$/i.exec(a.value);
      if (px) return [valueFor(text, a, px[1] ?? '0')];
      const style =
        /^(width|height)$/.test(a.name) && /^\d+(\.\d+)?(%|em|rem)$/.test(a.value.trim())
          ? `${a.name}: ${a.value.trim()}`
          : null;
      const own = attributeOf(e, 'style');
      return style
        ? own
          ? [withoutAttribute(text, a), ...withStyle(text, e, style)]
          : [{ from: a.from, to: a.to, with: `style="${style}"` }]
        : [];
    }),
  },
  'page-language': {
    label: 'Give pages the language of the book',
    apply: atElements((e, text, { s }) => {
      const tag = s.metadata.find((m) => m.name === 'language')?.value ?? '';
      // XHTML 1.1 has the one attribute, HTML both (HTML §3.2.6.2).
      const written = s.version.startsWith('2') ? ` xml:lang="${tag}"` : ` lang="${tag}" xml:lang="${tag}"`;
      const at = e.attributes.at(-1)?.to ?? e.open.from + 1 + e.name.length;
      return text && isLanguage(tag) ? [{ from: at, to: at, with: written }] : [];
    }),
  },
  languages: {
    label: 'Make both languages the same',
    apply: atElements((e, text, _m, _path, a) => (a ? [valueFor(text, a, valueOf(e, 'lang') ?? '')] : [])),
  },
  'tab-order': {
    label: 'Remove the tab order',
    apply: atElements((_e, text, _m, _path, a) => (a ? [withoutAttribute(text, a)] : [])),
  },
  autoplay: {
    label: 'Turn off autoplay',
    apply: atElements((e, text, _m, _path, a) =>
      a
        ? [
            withoutAttribute(text, a),
            ...(valueOf(e, 'controls') === undefined
              ? [
                  {
                    from: e.open.from + 1 + e.name.length,
                    to: e.open.from + 1 + e.name.length,
                    with: ' controls="controls"',
                  },
                ]
              : []),
          ]
        : [],
    ),
  },
  'unknown-role': {
    label: 'Remove unknown roles',
    apply: keepTokens('role', (t) => ARIA_ROLES.has(t) || DPUB_ROLES.has(t)),
  },
  'unknown-semantics': {
    label: 'Remove unknown terms',
    apply: keepTokens(
      'epub:type',
      (t) => SEMANTICS.has(t) || DEPRECATED_SEMANTICS[t] !== undefined || t.includes(':'),
    ),
  },
  'double-id': {
    label: 'Make ids unique',
    apply(m) {
      // Links lead to the first; the others get another.
      for (const path of new Set(m.findings.map((f) => f.file ?? ''))) {
        const text = m.d.text(path);
        const taken = new Set(m.d.elements(path).map((e) => valueOf(e, 'id')));
        const seen = new Set<string>();
        const edits: Replacement[] = [];
        for (const e of m.d.elements(path)) {
          const a = attributeOf(e, 'id');
          if (!a) continue;
          if (seen.has(a.value)) {
            let n = 2;
            while (taken.has(`${a.value}-${n}`)) n++;
            taken.add(`${a.value}-${n}`);
            edits.push(valueFor(text, a, `${a.value}-${n}`));
          }
          seen.add(a.value);
        }
        m.d.edit(path, edits);
      }
    },
  },
  'page-title': {
    label: 'Use the heading as the page title',
    apply(m) {
      for (const path of new Set(m.findings.map((f) => f.file ?? ''))) {
        const all = m.d.elements(path);
        const head = elementsNamed(all, 'head')[0];
        const heading = all.find((e) => /^h[1-6]$/.test(localName(e.name)));
        const text = m.d.text(path);
        const words =
          (heading ? textWithin(text, heading) : '') ||
          (m.s.metadata.find((x) => x.name === 'title')?.value ?? '');
        if (!head || !words) continue;
        const empty = head.children.find((e) => localName(e.name) === 'title');
        const written = `<title>${escapeXml(words)}</title>`;
        if (empty) m.d.edit(path, [{ from: empty.from, to: empty.to, with: written }]);
        else if (head.open.to === head.to && text.slice(head.from, head.to).endsWith('/>'))
          m.d.edit(path, [{ from: head.from, to: head.to, with: `<head>${written}</head>` }]);
        else m.d.edit(path, [{ from: head.open.to, to: head.open.to, with: written }]);
      }
    },
  },
  charset: {
    label: 'Declare UTF-8',
    apply(m) {
      for (const path of new Set(m.findings.map((f) => f.file ?? ''))) {
        const text = m.d.text(path);
        const found = /\.css$/i.test(path) ? /@charset\s+["'][^"']*["']/i.exec(text) : null;
        if (found)
          m.d.edit(path, [
            { from: found.index, to: found.index + found[0].length, with: '@charset "utf-8"' },
          ]);
      }
      atElements((e, text) => {
        if (localName(e.name) !== 'meta') return [];
        const a = attributeOf(e, 'charset') ?? attributeOf(e, 'content');
        return a ? [valueFor(text, a, a.name === 'charset' ? 'utf-8' : 'text/html; charset=utf-8')] : [];
      })(m);
    },
  },
  time: {
    label: 'Remove the time element',
    apply: atElements((e, text) =>
      valueOf(e, 'datetime') === undefined ? renamedElement(e, text, 'span') : [],
    ),
  },
  'list-entry': {
    label: 'Put it into a list item',
    apply: atElements((e) => [
      { from: e.from, to: e.from, with: '<li>' },
      { from: e.to, to: e.to, with: '</li>' },
    ]),
  },
  case: {
    label: 'Match the names of the files',
    apply: lead((path, { s }) => otherCase(s, path) ?? null),
  },
  'dead-path': {
    label: 'Link to the file of that name',
    apply: lead((path, { s }) => elsewhere(s.names, path)),
  },
  'root-path': {
    label: 'Make paths relative',
    apply: atElements((_e, text, m, path, a) => {
      const to = a && resolve(path, a.value.trim());
      if (!a || !to) return [];
      const folder = m.s.path.slice(0, m.s.path.lastIndexOf('/') + 1);
      const found =
        [to.path, folder + to.path].find((p) => m.d.now.parts.has(p)) ?? elsewhere(m.s.names, to.path);
      return found ? [valueFor(text, a, reference(path, { path: found, fragment: to.fragment }))] : [];
    }),
  },
  'dead-place': {
    label: 'Link to the page instead',
    apply: atElements((_e, text, _m, path, a) => {
      const to = a && resolve(path, a.value.trim());
      return a && to
        ? [valueFor(text, a, reference(path, { path: to.path }) || (path.split('/').at(-1) ?? path))]
        : [];
    }),
  },
  address: {
    label: 'Escape characters in addresses',
    apply: atElements((_e, text, _m, _path, a) => {
      if (!a) return [];
      const value = a.value
        .trim()
        .replace(/%(?![0-9a-f]{2})/gi, '%25')
        .replace(/\\/g, '/')
        .replace(/[ |<>^`{}"]/g, (c) => encodeURIComponent(c));
      return value === a.value ? [] : [valueFor(text, a, value)];
    }),
  },
  scheme: {
    label: 'Add https://',
    apply: atElements((_e, text, _m, _path, a) =>
      a ? [valueFor(text, a, `https://${a.value.trim()}`)] : [],
    ),
  },
  viewport: {
    label: 'Give pages the usual size',
    apply(m) {
      const sizes = new Map<string, number>();
      for (const d of m.s.documents)
        for (const e of d.byName.get('meta') ?? [])
          if (
            e.attrs.name === 'viewport' &&
            /^\s*width\s*=\s*\d+(\.\d+)?\s*,\s*height\s*=\s*\d+(\.\d+)?\s*$/.test(e.attrs.content ?? '')
          )
            sizes.set(e.attrs.content ?? '', (sizes.get(e.attrs.content ?? '') ?? 0) + 1);
      const [usual] = [...sizes].sort((a, b) => b[1] - a[1]);
      for (const path of new Set(m.findings.map((f) => f.file ?? ''))) {
        const all = m.d.elements(path);
        const meta = all.find((e) => localName(e.name) === 'meta' && valueOf(e, 'name') === 'viewport');
        const said = meta && attributeOf(meta, 'content');
        const text = m.d.text(path);
        const bare = said?.value.replace(/(\d)\s*(px|pt)\b/gi, '$1').replace(/;/g, ',');
        if (meta && said && bare && /px|pt/i.test(said.value)) m.d.edit(path, [valueFor(text, said, bare)]);
        else if (!meta && usual) {
          const head = elementsNamed(all, 'head')[0];
          if (head)
            m.d.edit(path, [
              {
                from: head.inner.to,
                to: head.inner.to,
                with: `<meta name="viewport" content="${escapeXml(usual[0])}"/>\n`,
              },
            ]);
        }
      }
    },
  },
};
