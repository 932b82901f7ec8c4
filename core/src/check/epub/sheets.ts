/** Rules of style sheets as files, and of what they lead to (EPUB 3.3 §6.3.1, §3.6; CSS Fonts 4). */
import * as csstree from 'css-tree';
import { resolve } from '../../package';
import type { Breach, Rule } from '../rules';
import { encodingOf, isUtf8 } from './encoding';
import { elsewhere, otherCase } from './items';
import { addressesIn, each, of, place, type Address } from './style-rule';
import { at, isHtml, tokens, type EpubSheet, type EpubSubject } from './subject';

const eachAddress = (
  rule: Omit<Rule<EpubSubject>, 'look'>,
  look: (a: Address, sheet: EpubSheet, s: EpubSubject) => string | null | Breach,
): Rule<EpubSubject> => ({
  ...rule,
  *look(s): Iterable<Breach> {
    for (const sheet of s.sheets)
      for (const a of addressesIn(sheet)) {
        const message = look(a, sheet, s);
        if (typeof message === 'string') yield { message, ...of(sheet, a.node) };
        else if (message) yield { ...message, ...of(sheet, a.node) };
      }
  },
});

const isRemote = (v: string): boolean => /^\s*(https?:)?\/\//i.test(v);

const isOwn = (v: string): boolean => !/^\s*([a-z][\w+.-]*:|\/\/|#)/i.test(v) && v.trim() !== '';

export const SHEET_RULES: Rule<EpubSubject>[] = [
  {
    name: 'style/syntax',
    severity: 'caution',
    source: 'CSS Syntax 3 §2.2 (error handling)',
    why: 'Reading systems ignore the rule.',
    remedy: 'Correct it.',
    *look(s) {
      for (const sheet of s.sheets)
        for (const f of sheet.faults)
          yield {
            message: `The styles can’t be read here: ${f.message.toLowerCase().replace(/"/g, '”').replace(/\.$/, '')}.`,
            ...place(sheet, f.at),
          };
    },
  },
  {
    name: 'style/brackets',
    severity: 'blocker',
    source: 'CSS Syntax 3 §5.4.4: a block ends with }',
    why: 'Everything after it is lost.',
    remedy: 'Close the block.',
    *look(s) {
      for (const sheet of s.sheets) {
        if (sheet.inline) continue;
        const open: number[] = [];
        for (const m of sheet.css.matchAll(
          /\/\*[^]*?(?:\*\/|$)|"(?:\\[^]|[^"\\\n])*"?|'(?:\\[^]|[^'\\\n])*'?|[{}]/g,
        )) {
          if (m[0] === '{') open.push(m.index);
          else if (m[0] === '}' && open.pop() === undefined)
            yield { message: 'A block is closed that was never opened.', ...place(sheet, m.index) };
        }
        const first = open.at(-1);
        if (first !== undefined)
          yield { message: 'A block is opened here and never closed.', ...place(sheet, first) };
      }
    },
  },
  {
    name: 'style/comment',
    severity: 'blocker',
    source: 'CSS Syntax 3 §4.3.2: a comment ends with */',
    why: 'Everything after it is lost.',
    remedy: 'Close the comment.',
    *look(s) {
      for (const sheet of s.sheets) {
        const open = /\/\*(?![^]*?\*\/)/.exec(sheet.css);
        if (open)
          yield { message: 'A comment is opened here and never closed.', ...place(sheet, open.index) };
      }
    },
  },
  {
    name: 'style/encoding',
    severity: 'blocker',
    source: 'EPUB 3.3 §6.3.1.2: UTF-8 or UTF-16',
    why: 'Characters added by the styles come out wrong.',
    remedy: 'Save the file as UTF-8.',
    *look(s) {
      for (const sheet of s.sheets) {
        const bytes = sheet.offset === 0 && !sheet.inline ? s.part(sheet.path) : null;
        if (bytes && encodingOf(bytes) === 'utf-8' && !isUtf8(bytes))
          yield { message: 'The style sheet isn’t in UTF-8.', file: sheet.path, line: 1, column: 1 };
      }
    },
  },
  each(
    {
      name: 'style/charset',
      severity: 'blocker',
      source: 'EPUB 3.3 §6.3.1.2; CSS Syntax 3 §3.2: @charset',
      remedy: 'Write @charset "utf-8"; or leave it out.',
      mend: 'charset',
    },
    (n) => {
      if (n.type !== 'Atrule' || n.name.toLowerCase() !== 'charset') return null;
      const said = n.prelude ? csstree.generate(n.prelude).replace(/["']/g, '') : '';
      return /^utf-?(8|16)$/i.test(said) ? null : `The style sheet says it is in “${said}”.`;
    },
  ),
  each(
    {
      name: 'style/import-late',
      severity: 'caution',
      source: 'CSS Cascade 5 §2: @import comes before all other rules',
      why: 'Reading systems don’t load the sheet.',
      remedy: 'Put it first.',
    },
    (n) => {
      if (n.type !== 'StyleSheet') return null;
      let other = false;
      for (const c of n.children.toArray()) {
        if (c.type === 'Atrule' && c.name.toLowerCase() === 'import' && other)
          return 'An @import comes too late.';
        if (c.type === 'Rule' || (c.type === 'Atrule' && !/^(charset|import|layer)$/i.test(c.name)))
          other = true;
      }
      return null;
    },
  ),
  eachAddress(
    {
      name: 'style/dead-address',
      severity: 'blocker',
      source: 'EPUB 3.3 §3.2, §5.6.1: what style sheets use is in the container',
      why: 'The face or picture isn’t shown.',
      remedy: 'Correct the address, or remove the rule.',
      mend: 'dead-path',
    },
    (a, sheet, s) => {
      const to = isOwn(a.value) ? resolve(sheet.path, a.value.trim()) : null;
      return to && !s.names.has(to.path) && otherCase(s, to.path) === undefined
        ? {
            message: `“${a.value}” isn’t in the ebook.`,
            ...(elsewhere(s.names, to.path) === null ? { mend: false as const } : {}),
          }
        : null;
    },
  ),
  eachAddress(
    {
      name: 'style/other-case',
      severity: 'blocker',
      source: 'EPUB 3.3 §4.2.4: paths are compared letter by letter',
      why: 'Some devices find the file and others don’t.',
      remedy: 'Write the name as the file has it.',
      mend: 'case',
    },
    (a, sheet, s) => {
      const to = isOwn(a.value) ? resolve(sheet.path, a.value.trim()) : null;
      const other = to && !s.names.has(to.path) ? otherCase(s, to.path) : undefined;
      return other === undefined ? null : `“${a.value}” is called “${other}” in the ebook.`;
    },
  ),
  eachAddress(
    {
      name: 'style/unlisted',
      severity: 'blocker',
      source: 'EPUB 3.3 §5.6.1: what style sheets use is listed in the manifest',
      why: 'Reading systems may not load it.',
      remedy: 'List the file in the manifest.',
      mend: 'list-file',
    },
    (a, sheet, s) => {
      const to = isOwn(a.value) ? resolve(sheet.path, a.value.trim()) : null;
      return to && s.names.has(to.path) && !s.items.has(to.path)
        ? { message: `“${a.value}” isn’t listed in the manifest.`, about: to.path }
        : null;
    },
  ),
  eachAddress(
    {
      name: 'style/remote',
      severity: 'blocker',
      source: 'EPUB 3.3 §3.6: style sheets and pictures must not be remote',
      why: 'Readers without a connection see nothing, and shops refuse it.',
      remedy: 'Put the file into the ebook.',
    },
    (a) => (isRemote(a.value) && !a.face ? `“${a.value}” would be fetched from the web.` : null),
  ),
  eachAddress(
    {
      name: 'style/remote-face',
      severity: 'caution',
      source: 'EPUB 3.3 §3.6: fonts may be remote; common practice: shops ask for them in the file',
      why: 'Readers without a connection see another face.',
      remedy: 'Put the face into the ebook.',
    },
    (a) => (isRemote(a.value) && a.face ? `The face “${a.value}” would be fetched from the web.` : null),
  ),
  each(
    {
      name: 'face/no-source',
      severity: 'caution',
      source: 'CSS Fonts 4 §4.2, §4.3: font-face needs font-family and src',
      why: 'Reading systems ignore the rule.',
      remedy: 'Give its family and its file.',
    },
    (n) => {
      if (n.type !== 'Atrule' || n.name.toLowerCase() !== 'font-face') return null;
      const has = new Set<string>();
      for (const d of n.block?.children.toArray() ?? [])
        if (d.type === 'Declaration') has.add(d.property.toLowerCase());
      return has.has('src') && has.has('font-family')
        ? null
        : `A typeface is declared without its ${has.has('src') ? 'family' : 'file'}.`;
    },
  ),
  eachAddress(
    {
      name: 'face/kind',
      severity: 'blocker',
      source: 'EPUB 3.3 §3.2, §6.3.1: OpenType and WOFF fonts',
      why: 'Reading systems can’t read it.',
      remedy: 'Turn it into OpenType or WOFF.',
    },
    (a, sheet, s) => {
      const to = a.face && isOwn(a.value) ? resolve(sheet.path, a.value.trim()) : null;
      const item = to ? s.items.get(to.path) : undefined;
      return item && !/font|opentype|svg/.test(item.type)
        ? `The face “${a.value}” is listed as “${item.type}”.`
        : null;
    },
  ),
  {
    name: 'style/link-kind',
    severity: 'caution',
    source: 'EPUB 3.3 §6.1, §3.2: style sheets are text/css',
    why: 'Reading systems don’t load the sheet.',
    remedy: 'Link to a text/css sheet.',
    *look(s) {
      for (const d of s.documents)
        for (const r of d.references)
          if (
            isHtml(r.element) &&
            r.element.name === 'link' &&
            tokens(r.element.attrs.rel).includes('stylesheet')
          ) {
            const item = r.to ? s.items.get(r.to.path) : undefined;
            if (item && item.type !== 'text/css')
              yield {
                message: `The style sheet “${r.href}” is listed as “${item.type}”.`,
                ...at(d, r.element),
              };
          }
    },
  },
  {
    name: 'style/unused-sheet',
    severity: 'note',
    source: 'common practice',
    why: 'It makes the file larger.',
    remedy: 'Remove it, or link it to the pages that need it.',
    *look(s) {
      const used = new Set<string>();
      for (const d of s.documents) for (const r of d.references) if (r.to) used.add(r.to.path);
      for (const sheet of s.sheets)
        for (const a of addressesIn(sheet))
          if (a.imported) used.add(resolve(sheet.path, a.value)?.path ?? '');
      // A processing instruction links it too (XML Stylesheets 1.0).
      const instructed = s.documents.flatMap((d) =>
        [...d.text.matchAll(/<\?xml-stylesheet[^>]*href=["']([^"']+)/g)].map(
          (m) => resolve(d.path, m[1] ?? '')?.path,
        ),
      );
      for (const i of s.manifest)
        if (
          i.type === 'text/css' &&
          i.path &&
          s.names.has(i.path) &&
          !used.has(i.path) &&
          !instructed.includes(i.path)
        )
          yield { message: `No page uses the style sheet “${i.href}”.`, file: i.path };
    },
  },
  {
    name: 'style/alternate-unnamed',
    severity: 'caution',
    profiles: ['EPUB 3.3'],
    source: 'HTML §4.6.7.9: an alternate style sheet has a title',
    remedy: 'Give it a title.',
    *look(s) {
      for (const d of s.documents)
        for (const e of d.elements)
          if (
            isHtml(e) &&
            e.name === 'link' &&
            tokens(e.attrs.rel).includes('alternate') &&
            tokens(e.attrs.rel).includes('stylesheet') &&
            !e.attrs.title
          )
            yield { message: 'An alternate style sheet has no name.', ...at(d, e) };
    },
  },
];
