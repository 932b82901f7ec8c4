/**
 * What the .docx library leaves out, read from the XML beside it (ECMA-376 part 1, §17): outline levels, page breaks
 * before paragraphs, languages, and what styles say of size, weight and alignment.
 *
 * To know which paragraph of the library's is which in the XML, every `w:p` of which there is something to say is given a
 * bookmark with its number before the library reads the file; the library hands bookmarks through. What neither reads
 * is left out: the library makes a node of everything there.
 */
import { SaxesParser, type SaxesTagNS } from 'saxes';
import { DEEPEST_XML, primaryLanguage } from '../../base';
import { math, type IndexSee, type MathNode } from '../../book';
import { indexEntry, isFormulaField, linkOf } from './docx-fields';
import { DEEPEST_OMML, formulaOf } from './omml';

export const MARK = 'pagina-paragraph-';
/** Bookmarks between which text is of a language of its own: the tag behind it, none where the book's begins again. */
export const LANGUAGE = 'pagina-language-';
/** Bookmarks that stand where the file has an entry for the index; the entry's text by its number. */
export const ENTRY = 'pagina-entry-';
/** Bookmarks between which text belongs to an entry for the index: its number behind "from-" and "to-". */
export const RANGE = 'pagina-range-';
/** Bookmarks that stand where the file has a formula. */
export const FORMULA = 'pagina-formula-';
const W = 'http://schemas.openxmlformats.org/wordprocessingml/2006/main';
/** Formulas have a namespace of their own, and another one in strict files (§22.1, annex A). */
const MATHS = new Set([
  'http://schemas.openxmlformats.org/officeDocument/2006/math',
  'http://purl.oclc.org/ooxml/officeDocument/math',
]);
const W_STRICT = 'http://purl.oclc.org/ooxml/wordprocessingml/main';

export interface ParagraphFacts {
  outline: number | null;
  breakBefore: boolean | null;
  /** A page or section break inside or at the end of the paragraph before. */
  sectionEnd: boolean;
  language: string;
  /** A text box is anchored in it. */
  box: boolean;
  /** The list that it belongs to (§17.9.18); '' for none of its own. */
  list: string;
}

/** Empty elements that say how text looks in ways no book keeps, and where words were checked or pages once ended. */
const UNREAD = new Set(
  'bCs bidi color contextualSpacing iCs keepLines keepNext kern lang lastRenderedPageBreak noProof position proofErr shd snapToGrid spacing suppressAutoHyphens szCs widowControl'.split(
    ' ',
  ),
);
/** Attributes that tell when something was last written. */
const UNREAD_ATTRIBUTE = / [\w.]+:(?:rsid\w*|paraId|textId) *= *(?:"[^"]*"|'[^']*')/g;

/**
 * The document's XML without what nobody reads, a numbered bookmark in every paragraph of which `facts` say something,
 * and the facts by those numbers.
 */
export function markParagraphs(
  xml: string,
  language = '',
): {
  xml: string;
  facts: ParagraphFacts[];
  /** Formulas, by the numbers of their bookmarks; null for one that holds nothing. */
  formulas: (MathNode | null)[];
  /** What the text has that no book keeps, and changes that are tracked: how often. */
  seen: Record<'colours' | 'highlights' | 'changes' | 'fieldFormulas', number>;
  /** Terms of the index, by the numbers of their bookmarks. */
  entries: string[];
  /** Entries of the index that lead to others. */
  see: IndexSee[];
  fault: string | null;
} {
  const parser = new SaxesParser({ xmlns: true, position: true });
  const facts: ParagraphFacts[] = [];
  /** Places between which something else stands: from, to, the text. */
  const edits: { from: number; to: number; text: string }[] = [];
  const open: { facts: ParagraphFacts; mark: (typeof edits)[number]; bookmark: string; prefix: string }[] =
    [];
  let inProperties = 0;
  let fault: string | null = null;
  /** The outermost formula that is open: where it begins, how many edits there were before it, its open elements. */
  let formula: { from: number; edits: number; open: MathNode[] } | null = null;
  const formulas: (MathNode | null)[] = [];
  /** Fields that are open, with their instructions (§17.16.18). */
  const fields: { code: string; over: boolean }[] = [];
  const entries: string[] = [];
  const see: IndexSee[] = [];
  /** The file's own bookmarks: by id while they are open, and by name once they have an end in running text. */
  const opened = new Map<string, { name: string; from: number }>();
  const bookmarks = new Map<string, { from: number; to: number }>();
  let paragraphEnd = 0;
  /** Entries that go on as far as a bookmark does, and where they stand should there be none of that name. */
  const ranged: { range: string; number: number; of: string; at: number }[] = [];
  /** Notes what an XE field says: an entry at a place of the text, or one that leads to another. */
  const indexed = (code: string, prefix: string, at: number): void => {
    const entry = indexEntry(code);
    if (entry === null) return;
    if (entry.see) return void see.push({ term: entry.term, to: entry.see });
    const of = prefix ? `${prefix}:` : '';
    const number = entries.push(entry.term) - 1;
    if (entry.range) return void ranged.push({ range: entry.range, number, of, at });
    const text = `<${of}bookmarkStart ${of}name="${ENTRY}${number}" ${of}id="8${number}"/>`;
    edits.push({ from: at, to: at, text });
  };
  const seen = { colours: 0, highlights: 0, changes: 0, fieldFormulas: 0 };
  const main = primaryLanguage(language);
  /** The run that is open: where it begins, and the language that it names. */
  let run: { from: number; prefix: string; language: string } | null = null;
  let instructing = false;
  let instructed = 0;
  let simple: { target: string; prefix: string } | null = null;
  const value = (tag: SaxesTagNS, name = 'val'): string | undefined =>
    Object.values(tag.attributes).find((a) => a.local === name)?.value;
  parser.on('error', (e) => {
    fault ??= e.message;
  });
  parser.on('text', (t) => {
    if (formula?.open.at(-1)?.name === 't') formula.open.at(-1)?.children.push(t);
    const field = fields.at(-1);
    if (instructing && field && !field.over) field.code += t;
  });
  let depth = 0;
  parser.on('opentag', (tag) => {
    if (++depth > DEEPEST_XML) throw new Error('elements are nested thousands of levels deep');
    // Of what stands around formulas of a line to themselves the library would read nothing.
    if (MATHS.has(tag.uri) && tag.local === 'oMathPara')
      edits.push({ from: tagStart(parser.position), to: parser.position, text: '' });
    if (MATHS.has(tag.uri) && (formula || tag.local === 'oMath')) {
      const node = math(tag.local);
      for (const a of Object.values(tag.attributes)) node.attrs[a.local] = a.value;
      if (!formula) formula = { from: tagStart(parser.position), edits: edits.length, open: [] };
      if (formula.open.length < DEEPEST_OMML) formula.open.at(-1)?.children.push(node);
      formula.open.push(node);
    }
    if (tag.uri !== W && tag.uri !== W_STRICT) return;
    const to = parser.position;
    const now = open.at(-1)?.facts;
    switch (tag.local) {
      case 'p': {
        const own: ParagraphFacts = {
          outline: null,
          breakBefore: null,
          sectionEnd: false,
          language: '',
          box: false,
          list: '',
        };
        const number = facts.push(own) - 1;
        lean(to);
        const mark = { from: to, to, text: '' };
        if (!tag.isSelfClosing) edits.push(mark);
        const prefix = tag.prefix ? `${tag.prefix}:` : '';
        open.push({
          facts: own,
          mark,
          prefix,
          bookmark: `<${prefix}bookmarkStart ${prefix}name="${MARK}${number}" ${prefix}id="9${number}"/>`,
        });
        return;
      }
      case 'r':
        run = { from: tagStart(to), prefix: tag.prefix ? `${tag.prefix}:` : '', language: '' };
        lean(to);
        return;
      case 'tr':
        lean(to);
        return;
      case 'ins':
      case 'del':
      case 'moveTo':
        if (!tag.isSelfClosing) seen.changes++;
        return;
      case 'color':
        if (run && !/^(?:auto|0{6})$/i.test(value(tag) ?? 'auto')) seen.colours++;
        break;
      case 'tblHeader':
        // The library takes a head that is switched off for one.
        if (/^(?:0|false|off)$/.test(value(tag) ?? '')) edits.push({ from: tagStart(to), to, text: '' });
        return;
      case 'highlight':
        if (run && (value(tag) ?? 'none') !== 'none') seen.highlights++;
        break;
      case 'bookmarkStart':
        if (open.length > 0) opened.set(value(tag, 'id') ?? '', { name: value(tag, 'name') ?? '', from: to });
        return;
      case 'bookmarkEnd': {
        const begun = opened.get(value(tag, 'id') ?? '');
        const end = open.length > 0 ? tagStart(to) : paragraphEnd;
        if (begun)
          bookmarks.set(begun.name.toLowerCase(), { from: begun.from, to: Math.max(begun.from, end) });
        return;
      }
      case 'fldSimple': {
        const code = value(tag, 'instr') ?? '';
        const to_ = linkOf(code);
        // An entry of the index stands before the field: what is in it is no text.
        if (!to_) indexed(code, tag.prefix, tagStart(to));
        if (!to_ || tag.isSelfClosing) return;
        simple = { target: to_, prefix: tag.prefix ? `${tag.prefix}:` : '' };
        edits.push({
          from: tagStart(to),
          to,
          text: `<${simple.prefix}hyperlink ${simple.prefix}anchor="${to_}">`,
        });
        return;
      }
      case 'pPr':
        inProperties++;
        return;
      case 'numId':
        if (now && inProperties) now.list = value(tag) ?? '';
        return;
      case 'txbxContent':
        if (now) now.box = true;
        return;
      case 'instrText':
        instructing = true;
        instructed = to;
        return;
      case 'fldChar': {
        const type = Object.values(tag.attributes).find((a) => a.local === 'fldCharType')?.value;
        const field = fields.at(-1);
        if (type === 'begin') fields.push({ code: '', over: false });
        else if (type === 'separate' && field) field.over = true;
        else if (type === 'end') {
          if (isFormulaField(field?.code ?? '')) seen.fieldFormulas++;
          if (tag.isSelfClosing) indexed(fields.pop()?.code ?? '', tag.prefix, to);
          else fields.pop();
        }
        return;
      }
      case 'outlineLvl':
        if (now && inProperties) now.outline = Number(value(tag) ?? 9) >= 9 ? 0 : Number(value(tag)) + 1;
        return;
      case 'pageBreakBefore':
        if (now && inProperties) now.breakBefore = !['0', 'false', 'off'].includes(value(tag) ?? '1');
        return;
      case 'sectPr':
        if (now && inProperties) now.sectionEnd = true;
        return;
      case 'lang':
        if (now && !inProperties) now.language ||= value(tag) ?? '';
        if (run && !inProperties) run.language = value(tag) ?? '';
    }
    if (tag.isSelfClosing && UNREAD.has(tag.local)) edits.push({ from: tagStart(to), to, text: '' });
  });
  const tagStart = (end: number): number => xml.lastIndexOf('<', end - 1);
  /** The tag that ends here without the attributes that nobody reads. */
  function lean(to: number): void {
    const from = tagStart(to);
    if (to - from < 12) return;
    const tag = xml.slice(from, to);
    const text = tag.replace(UNREAD_ATTRIBUTE, '');
    if (text !== tag) edits.push({ from, to, text });
  }
  parser.on('closetag', (tag) => {
    depth--;
    if (!formula && MATHS.has(tag.uri) && tag.local === 'oMathPara' && !tag.isSelfClosing)
      edits.push({ from: tagStart(parser.position), to: parser.position, text: '' });
    if (formula && MATHS.has(tag.uri)) {
      const closed = formula.open.pop();
      if (closed && formula.open.length === 0) {
        // The library knows no formulas.
        const { from } = formula;
        edits.length = formula.edits;
        const of = open.at(-1)?.prefix ?? 'w:';
        const number = formulas.push(formulaOf(closed)) - 1;
        const text = `<${of}bookmarkStart ${of}name="${FORMULA}${number}" ${of}id="7${number}"/>`;
        edits.push({ from, to: parser.position, text });
        formula = null;
      }
      return;
    }
    if (tag.uri !== W && tag.uri !== W_STRICT) return;
    if (tag.local === 'pPr') inProperties--;
    if (tag.local === 'instrText') {
      instructing = false;
      // A reference to a place is a link to it, which the library knows in another field (§17.16.5.25).
      const field = fields.at(-1);
      const target = field && !field.over ? linkOf(field.code) : null;
      const end = tagStart(parser.position);
      if (target) edits.push({ from: instructed, to: end, text: ` HYPERLINK \\l "${target}" ` });
    }
    if (tag.local === 'fldSimple' && simple) {
      edits.push({
        from: tagStart(parser.position),
        to: parser.position,
        text: `</${simple.prefix}hyperlink>`,
      });
      simple = null;
    }
    if (tag.local === 'r' && run) {
      const { from, prefix, language: own } = run;
      const mark = (name: string): string =>
        `<${prefix}bookmarkStart ${prefix}name="${LANGUAGE}${name}" ${prefix}id="7${from}"/>`;
      if (own && main && primaryLanguage(own) !== main && /^[\w-]{2,20}$/.test(own)) {
        edits.push({ from, to: from, text: mark(own) });
        edits.push({ from: parser.position, to: parser.position, text: mark('') });
      }
      run = null;
    }
    if (tag.local !== 'p') return;
    paragraphEnd = tagStart(parser.position);
    const p = open.pop();
    if (!p) return;
    const { outline, breakBefore, sectionEnd, language, box, list } = p.facts;
    if (outline !== null || breakBefore !== null || sectionEnd || language || box || list)
      p.mark.text = p.bookmark;
  });
  try {
    parser.write(xml).close();
  } catch (e) {
    fault ??= (e as Error).message;
  }
  for (const { range, number, of, at } of ranged) {
    const found = bookmarks.get(range.toLowerCase());
    const mark = (where: number, name: string): void => {
      const text = `<${of}bookmarkStart ${of}name="${name}" ${of}id="8${number}"/>`;
      edits.push({ from: where, to: where, text });
    };
    if (found) {
      mark(found.from, `${RANGE}from-${number}`);
      mark(found.to, `${RANGE}to-${number}`);
    } else mark(at, `${ENTRY}${number}`);
  }
  const parts: string[] = [];
  let from = 0;
  // Where a run begins, what goes before it is known only at its end.
  edits.sort((a, b) => a.from - b.from || a.to - b.to);
  for (const e of edits) {
    if (e.from === e.to && e.text === '') continue;
    parts.push(xml.slice(from, e.from), e.text);
    from = e.to;
  }
  parts.push(xml.slice(from));
  return { xml: parts.join(''), facts, formulas, seen, entries, see, fault };
}
