/** Mends of the manifest and the spine. */
import { mediaTypeOf } from '../../base';
import {
  addItem,
  addItemref,
  attributeEdit,
  attributeOf,
  bytesOf,
  freshId,
  packageSource,
  setProperties,
  valueOf,
  withIndent,
  type Draft,
  type Located,
} from '../../emend';
import { reference, resolve } from '../../package';
import { NCX, XHTML } from '../epub/subject';
import { atElements, isElement, valueFor, withoutAttribute, type Mend } from './mend';
import { removed } from './places';

/** What a path may be called by. */
const ENDINGS: Record<string, string> = {
  css: 'text/css', xhtml: XHTML, html: XHTML, htm: XHTML, ncx: NCX, js: 'text/javascript', smil: 'application/smil+xml', svg: 'image/svg+xml',
  jpg: 'image/jpeg', jpeg: 'image/jpeg', png: 'image/png', gif: 'image/gif', webp: 'image/webp', otf: 'font/otf', ttf: 'font/ttf', woff: 'font/woff',
  woff2: 'font/woff2', mp3: 'audio/mpeg', m4a: 'audio/mp4', mp4: 'video/mp4', txt: 'text/plain', xml: 'application/xml', pls: 'application/pls+xml',
}; // prettier-ignore

function typeOf(d: Draft, path: string): string | null {
  const ending = ENDINGS[path.split('.').at(-1)?.toLowerCase() ?? ''] ?? null;
  let bytes: Uint8Array | null = null;
  try {
    bytes = bytesOf(d.now, path);
  } catch {
    // Damaged: its name is all there is.
  }
  const is = bytes && bytes.length > 0 ? mediaTypeOf(bytes) : null;
  return is ?? ending;
}

export const MANIFEST_MENDS: Record<string, Mend> = {
  'item-id': {
    label: 'Give every item an id',
    apply({ d }) {
      const { path } = d.package;
      for (;;) {
        const s = packageSource(d);
        const item = (s.manifest?.children ?? []).find((e) => isElement(e, 'item') && !valueOf(e, 'id'));
        if (!item) return;
        d.edit(
          path,
          attributeEdit(
            s.text,
            item,
            'id',
            freshId(s, (valueOf(item, 'href') ?? '').split('/').at(-1) ?? 'part'),
          ),
        );
      }
    },
  },
  'item-gone': {
    label: 'Remove items of missing files',
    apply(m) {
      const { d, s } = m;
      const lines = new Set(m.findings.map((f) => f.line));
      const ids = new Set(s.manifest.filter((i) => lines.has(i.line)).map((i) => i.id));
      removed(m);
      const now = packageSource(d);
      // An id that another item still has stays in the spine.
      const left = new Set((now.manifest?.children ?? []).map((e) => valueOf(e, 'id')));
      d.edit(
        now.path,
        now.itemrefs
          .filter((r) => ids.has(valueOf(r, 'idref') ?? '') && !left.has(valueOf(r, 'idref')))
          .map((r) => ({ ...withIndent(now.text, r), with: '' })),
      );
    },
  },
  'item-twice': {
    label: 'Keep one item for each file',
    apply({ d }) {
      const { path } = d.package;
      const s = packageSource(d);
      const first = new Map<string, Located>();
      const leads = new Map<string, string>();
      const second = (s.manifest?.children ?? []).filter((e) => {
        const to = isElement(e, 'item') ? resolve(path, valueOf(e, 'href') ?? '')?.path : undefined;
        if (to === undefined || to === '') return false;
        const before = first.get(to);
        if (before) leads.set(valueOf(e, 'id') ?? '', valueOf(before, 'id') ?? '');
        else first.set(to, e);
        return before !== undefined;
      });
      const spined = new Set(s.itemrefs.map((r) => valueOf(r, 'idref')));
      d.edit(path, [
        ...second.map((e) => ({ ...withIndent(s.text, e), with: '' })),
        ...s.itemrefs.flatMap((r) => {
          const to = leads.get(valueOf(r, 'idref') ?? '');
          if (to === undefined) return [];
          return spined.has(to)
            ? [{ ...withIndent(s.text, r), with: '' }]
            : attributeEdit(s.text, r, 'idref', to);
        }),
      ]);
    },
  },
  'item-fragment': {
    label: 'Remove fragments from item addresses',
    apply: atElements((e, text) => {
      const a = attributeOf(e, 'href');
      return a ? [valueFor(text, a, a.value.split('#')[0] ?? '')] : [];
    }),
  },
  'media-type': {
    label: 'Correct media types',
    apply: atElements((e, text, { d }) => {
      const path = resolve(d.package.path, valueOf(e, 'href') ?? '')?.path ?? '';
      const type = d.now.parts.has(path) ? typeOf(d, path) : null;
      return type ? attributeEdit(text, e, 'media-type', type) : [];
    }),
  },
  'list-file': {
    label: 'List files in the manifest',
    apply({ d, s, findings }) {
      for (const path of new Set(findings.flatMap((f) => f.about ?? []))) {
        const type = s.items.has(path) ? null : typeOf(d, path);
        const wanted =
          path
            .split('/')
            .at(-1)
            ?.replace(/\.[^.]*$/, '') ?? 'part';
        if (type) addItem(d, { href: reference(d.package.path, { path }), type, wanted });
      }
    },
  },
  properties: {
    label: 'Correct the properties of documents',
    apply({ d, findings }) {
      for (const { rule, about } of findings) {
        const [, property = '', how = ''] = /^manifest\/(.+)-(untold|untrue)$/.exec(rule) ?? [];
        if (about !== undefined && property) setProperties(d, about, { [property]: how === 'untold' });
      }
    },
  },
  'unknown-property': {
    label: 'Remove unknown properties',
    apply: atElements((e, text, m) => {
      const a = attributeOf(e, 'properties');
      const odd = new Set(m.findings.map((f) => f.about));
      const kept = (a?.value ?? '').split(/\s+/).filter((t) => t && !odd.has(t));
      if (!a) return [];
      return kept.length > 0 ? [valueFor(text, a, kept.join(' '))] : [withoutAttribute(text, a)];
    }),
  },
  spine: {
    label: 'Add documents to the spine',
    apply({ d, s, findings }) {
      const inSpine = new Set(s.spine.map((r) => r.idref));
      const empty = findings.some((f) => f.rule === 'spine/empty');
      const missing = new Set(findings.map((f) => f.about));
      const wanted = s.manifest.filter(
        (i) =>
          i.type === XHTML &&
          i.id &&
          !inSpine.has(i.id) &&
          (empty ? !i.properties.includes('nav') : missing.has(i.path)),
      );
      for (const i of wanted) {
        // Behind the document that comes before it in the manifest.
        const before = s.manifest
          .slice(0, s.manifest.indexOf(i))
          .filter((x) => inSpine.has(x.id))
          .at(-1);
        addItemref(d, i.id, before?.id);
        inSpine.add(i.id);
      }
    },
  },
  'spine-gone': { label: 'Remove dead lines of the spine', apply: removed },
  linear: {
    label: 'Make documents part of the reading order',
    apply({ d, findings }) {
      const s = packageSource(d);
      const all = findings.some((f) => f.rule === 'spine/nothing-in-line');
      d.edit(
        s.path,
        s.itemrefs.flatMap((r) => {
          const a = attributeOf(r, 'linear');
          if (!a || (!all && /^(yes|no)$/.test(a.value))) return [];
          return [valueFor(s.text, a, !all && /^(false|0|off)$/i.test(a.value) ? 'no' : 'yes')];
        }),
      );
    },
  },
};
