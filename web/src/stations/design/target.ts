/** What a line on a page belongs to: the setting it points to, and its name. */
import type { Node } from 'prosemirror-model';
import { opensText, type Book } from '@pagina/core/book';
import { PART_NAMES, type Part } from '@pagina/core/design';
import type { TextLine } from '@pagina/core/compose';

const LINE_NAMES: Record<string, string> = {
  'opening.number': 'Chapter number',
  'opening.title': 'Chapter title',
  'opening.subtitle': 'Chapter subtitle',
  'opening.ornament': 'Ornament of the opening',
  'opening.words': 'Opening words',
  'partPage.number': 'Part number',
  'partPage.title': 'Part title',
  'partPage.subtitle': 'Part subtitle',
  'partPage.ornament': 'Ornament of the part page',
  'titlePage.title': 'Title',
  'titlePage.subtitle': 'Subtitle',
  'titlePage.author': 'Author',
  'titlePage.imprint': 'Imprint',
  'titlePage.ornament': 'Ornament of the title page',
  'breaks.sign': 'Break',
  'heads.line': 'Running head',
  'heads.folio': 'Folio',
  'contents.first': 'Contents, first level',
  'contents.second': 'Contents, second level',
  'contents.third': 'Contents, third level',
  'contents.leader': 'Leaders of the contents',
  'subheads.first': 'Subhead, first level',
  'subheads.second': 'Subhead, second level',
  'subheads.third': 'Subhead, third level',
};
export const nameOf = (target: string): string =>
  LINE_NAMES[target] ?? PART_NAMES[target.split('.')[0] as Part] ?? '';

const BY_TYPE: Record<string, string> = {
  quotation: 'quotation',
  attribution: 'quotation',
  verse: 'verse',
  figure: 'pictures',
  noteBody: 'notes',
};
const SUBHEADS = ['subheads.first', 'subheads.second', 'subheads.third'];

/** Settings by block id, for all blocks of some sections. */
export function targetsOf(book: Book, sections: ReadonlySet<string>): Map<string, string> {
  const targets = new Map<string, string>();
  const walk = (n: Node, target: string): void => {
    n.forEach((child) => {
      const { name } = child.type;
      const own = name === 'subhead' ? SUBHEADS[Number(child.attrs.level) - 1] : BY_TYPE[name];
      const at = own ?? target;
      if (typeof child.attrs.id === 'string') targets.set(child.attrs.id, at);
      if (!child.isTextblock) walk(child, at);
    });
  };
  for (const s of book.sections) {
    if (!sections.has(s.id)) continue;
    walk(s.content, 'text');
    const first = s.content.firstChild;
    if (opensText(s.kind) && first?.type.name === 'paragraph')
      targets.set(first.attrs.id as string, 'opening.words');
  }
  return targets;
}

export const targetOf = (line: TextLine, targets: ReadonlyMap<string, string>): string =>
  line.part || (targets.get(line.block) ?? '');
