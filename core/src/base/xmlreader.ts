/**
 * Reads XML and goes on after every fault, so that all faults of a file are told at once, each where it begins: an element
 * that is never closed where it opens, a quotation mark that is missing at the attribute that lacks it. The constraints are
 * those of XML 1.0 (fifth edition) and Namespaces in XML 1.0. No external entity is ever fetched.
 */
import { characterEntities } from 'character-entities';
import { readDoctype, type Doctype } from './doctype';
import { lineStarts, placeAt } from './places';
import { forbiddenIn, nameAt, referenceAt, spaceAt } from './xmlnames';
import { readStartTag, type StartTag } from './xmltag';
import type { XmlElement, XmlFault, XmlFaultKind } from './xmltree';

export interface XmlReading {
  /** The first element; null where there is none. With faults it is what could be made of the text. */
  root: XmlElement | null;
  /** In the order of the text. */
  faults: XmlFault[];
  /** What the XML declaration says, '' for what it leaves out; null where there is none. */
  declared: { version: string; encoding: string } | null;
  doctype: Doctype | null;
}

const PREDEFINED: Record<string, string> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" };
const NAMESPACES: Record<string, string> = {
  xml: 'http://www.w3.org/XML/1998/namespace',
  xmlns: 'http://www.w3.org/2000/xmlns/',
};

/** Levels that elements may be nested; no document that somebody wrote has a tenth of them. */
export const DEEPEST_XML = 2_000;
/** Faults after which a text is not read on. */
const MOST_FAULTS = 1_000;

interface Open {
  element: XmlElement;
  /** As written, with its prefix. */
  name: string;
  /** Namespaces by prefix. */
  scope: Record<string, string>;
}

class TooMuch extends Error {}

/** Never throws. */
export function readXml(source: string): XmlReading {
  return new Reader(source).read();
}

class Reader {
  private at = 0;
  private root: XmlElement | null = null;
  private readonly open: Open[] = [];
  private readonly faults: Pick<XmlFault, 'kind' | 'at' | 'message' | 'about' | 'end'>[] = [];
  /** End tags that closed nothing, which may turn out to cross an element that is still open. */
  private strays: { name: string; at: number; fault: Reader['faults'][number] }[] = [];
  private declared: XmlReading['declared'] = null;
  private doctype: Doctype | null = null;
  private entities: Record<string, string> = PREDEFINED;
  private readonly starts: readonly number[];
  private line = 0;
  private outside = false;
  /** Whether something without an end took all the rest. */
  private swallowed = false;

  constructor(private readonly text: string) {
    this.starts = lineStarts(text);
  }

  read(): XmlReading {
    try {
      this.characters();
      this.prolog();
      while (this.at < this.text.length) this.next();
      this.end();
    } catch (e) {
      if (!(e instanceof TooMuch)) throw e;
    }
    const faults = this.faults
      .sort((a, b) => a.at - b.at)
      .map((f) => ({ ...f, ...placeAt(this.starts, f.at) }));
    return { root: this.root, faults, declared: this.declared, doctype: this.doctype };
  }

  private fault(kind: XmlFaultKind, at: number, message: string): Reader['faults'][number] {
    const fault: Reader['faults'][number] = { kind, at, message };
    this.faults.push(fault);
    if (this.faults.length >= MOST_FAULTS) throw new TooMuch();
    return fault;
  }
  /** Characters that no XML holds (§2.2). A run of them is one fault. */
  private characters(): void {
    let before = -2;
    for (const m of forbiddenIn(this.text)) {
      if (m.index !== before + 1)
        this.fault(
          'character',
          m.index,
          `the character U+${m[0].charCodeAt(0).toString(16).toUpperCase().padStart(4, '0')} isn’t allowed`,
        );
      before = m.index;
    }
  }

  private prolog(): void {
    if (this.text.startsWith('\ufeff')) this.at = 1;
    const late = /^[ \t\r\n]+<\?xml[ \t\r\n]/.exec(this.text.slice(this.at, this.at + 2_000));
    if (late) {
      this.fault('declaration', this.at, 'there is white space before the XML declaration');
      this.at += late[0].length - 6;
    }
    const found = /^<\?xml[ \t\r\n]([^]*?)\?>/.exec(this.text.slice(this.at, this.at + 2_000));
    if (!found) return;
    const said =
      /^[ \t\r\n]*version[ \t\r\n]*=[ \t\r\n]*(?:"(1\.[0-9]+)"|'(1\.[0-9]+)')(?:[ \t\r\n]+encoding[ \t\r\n]*=[ \t\r\n]*(?:"([A-Za-z][\w.-]*)"|'([A-Za-z][\w.-]*)'))?(?:[ \t\r\n]+standalone[ \t\r\n]*=[ \t\r\n]*(?:"(?:yes|no)"|'(?:yes|no)'))?[ \t\r\n]*$/.exec(
        found[1] ?? '',
      );
    if (said) this.declared = { version: said[1] ?? said[2] ?? '', encoding: said[3] ?? said[4] ?? '' };
    else {
      this.fault(
        'declaration',
        this.at,
        'the XML declaration isn’t of the form <?xml version="1.0" encoding="utf-8"?>',
      );
      this.declared = { version: '', encoding: '' };
    }
    this.at += found[0].length;
  }

  /** What comes next: text up to a mark, or what the mark begins. */
  private next(): void {
    const { text } = this;
    const mark = text.indexOf('<', this.at);
    if (mark !== this.at) {
      this.put(this.at, mark < 0 ? text.length : mark);
      this.at = mark < 0 ? text.length : mark;
      return;
    }
    const after = text[mark + 1] ?? '';
    if (after === '/') this.endTag();
    else if (after === '!') this.markup();
    else if (after === '?') this.instruction();
    else if (nameAt(this.text, mark + 1)) this.startTag();
    else {
      this.fault('less-than', mark, '“<” must be written as &lt;');
      this.add('<');
      this.at = mark + 1;
    }
  }
  private add(text: string): void {
    if (text) this.open.at(-1)?.element.children.push(text);
  }
  private put(from: number, to: number): void {
    const { text } = this;
    if (this.open.length === 0) {
      const content = /[^ \t\r\n]/.exec(text.slice(from, to));
      if (content && !this.outside) {
        this.fault(
          this.root ? 'after-root' : 'before-root',
          from + content.index,
          this.root
            ? 'there is text after the end of the document'
            : 'there is text before the first element',
        );
        this.outside = true;
      }
      return;
    }
    // Searched within the stretch alone: a text of many short ones would be gone through again for each.
    const end = text.slice(from, to).indexOf(']]>');
    if (end >= 0) this.fault('cdata', from + end, '“]]>” must be written as ]]&gt;');
    this.add(this.resolved(from, to));
  }
  /** Text with its references resolved (§4.1) and its line ends one character (§2.11). */
  private resolved(from: number, to: number): string {
    const stretch = this.text.slice(from, to);
    if (!stretch.includes('&')) return unified(stretch);
    let out = '';
    let at = from;
    for (let i = this.text.indexOf('&', from); i >= 0 && i < to; i = from + stretch.indexOf('&', at - from)) {
      if (i < at) break;
      out += this.text.slice(at, i);
      const m = referenceAt(this.text, i);
      if (!m || i + m[0].length > to) {
        const name = nameAt(this.text, i + 1);
        this.fault(
          'ampersand',
          i,
          name && /^[ \t\r\n<"']?$/.test(this.text[i + 1 + name.length] ?? '') && name in characterEntities
            ? `“&${name}” lacks its semicolon`
            : '“&” must be written as &amp;',
        );
        out += '&';
        at = i + 1;
        continue;
      }
      out += this.character(m, i);
      at = i + m[0].length;
    }
    out += this.text.slice(at, to);
    return unified(out);
  }
  private character([whole, hex, decimal, name = '']: RegExpExecArray, at: number): string {
    if (name) {
      const known = Object.hasOwn(this.entities, name) ? this.entities[name] : undefined;
      if (known !== undefined) return known;
      this.fault('entity', at, `the entity &${name}; isn’t declared`);
      return (Object.hasOwn(characterEntities, name) ? characterEntities[name] : undefined) ?? whole;
    }
    const code = hex === undefined ? Number(decimal) : parseInt(hex, 16);
    const is = code <= 0x10ffff ? String.fromCodePoint(code) : '\0';
    if ([...forbiddenIn(is)].length === 0) return is;
    this.fault('character', at, `${whole} stands for a character that isn’t allowed`);
    return '';
  }

  private markup(): void {
    const { text, at } = this;
    if (text.startsWith('<!--', at)) {
      const end = text.indexOf('-->', at + 4);
      if (end < 0) {
        this.fault('comment', at, 'a comment is opened here and never closed');
        return this.swallow();
      }
      const double = text.indexOf('--', at + 4);
      if (double < end || text[end - 1] === '-') {
        if (double < end) this.fault('comment', double, 'two hyphens stand within a comment');
      }
      this.at = end + 3;
    } else if (text.startsWith('<![CDATA[', at)) {
      const end = text.indexOf(']]>', at);
      if (end < 0) {
        this.fault('cdata', at, 'a CDATA section is opened here and never closed');
        this.swallowed = true;
      }
      if (this.open.length === 0) this.fault('before-root', at, 'a CDATA section is outside the document');
      const to = end < 0 ? text.length : end;
      this.add(text.slice(at + 9, to).replace(/\r\n?/g, '\n'));
      this.at = end < 0 ? text.length : end + 3;
    } else if (/^<!DOCTYPE/i.test(text.slice(at, at + 9))) this.readDoctype();
    else {
      this.fault('less-than', at, '“<!” begins neither a comment nor a CDATA section');
      const end = text.indexOf('>', at);
      this.at = end < 0 ? text.length : end + 1;
    }
  }
  private readDoctype(): void {
    const { at } = this;
    const found = readDoctype(this.text, at);
    this.at = found.to;
    if (found.fault) this.fault('doctype', at, found.fault);
    else if (this.root) this.fault('doctype', at, 'the document type is declared after the first element');
    else if (this.doctype) this.fault('doctype', at, 'the document type is declared twice');
    if (this.doctype || this.root) return;
    this.doctype = found.doctype;
    const named = /-\/\/W3C\/\/DTD XHTML 1\./.test(found.doctype.publicId) ? characterEntities : {};
    this.entities = { ...named, ...found.doctype.entities, ...PREDEFINED };
  }
  private instruction(): void {
    const { text, at } = this;
    const end = text.indexOf('?>', at);
    const name = nameAt(this.text, at + 2);
    if (end < 0) {
      this.fault('instruction', at, 'a processing instruction is opened here and never closed');
      return this.swallow();
    }
    if (name.toLowerCase() === 'xml')
      this.fault('declaration', at, 'the XML declaration isn’t at the beginning of the file');
    else if (!name || !/^[ \t\r\n?]/.test(text.slice(at + 2 + name.length, at + 3 + name.length)))
      this.fault('instruction', at, 'a processing instruction has no proper name');
    this.at = end + 2;
  }
  private swallow(): void {
    this.swallowed = true;
    this.at = this.text.length;
  }

  private startTag(): void {
    const tag = readStartTag(
      this.text,
      this.at,
      (kind, at, message) => void this.fault(kind, at, message),
      (from, to) => this.resolved(from, to),
    );
    const from = this.at;
    this.at = tag.to;
    this.begin(tag, from);
  }

  private begin({ name, attributes: written, empty }: StartTag, from: number): void {
    const above = this.open.at(-1);
    let scope = above?.scope ?? NAMESPACES;
    for (const [key, { value }] of written)
      if (key === 'xmlns' || key.startsWith('xmlns:')) {
        if (scope === (above?.scope ?? NAMESPACES)) scope = { ...scope };
        scope[key === 'xmlns' ? '' : key.slice(6)] = value;
      }
    const colon = name.indexOf(':');
    const prefix = colon < 0 ? '' : name.slice(0, colon);
    const ns = scope[prefix];
    if (prefix && !ns) this.undeclared(prefix, from);
    const attrs: Record<string, string> = {};
    const expanded = new Set<string>();
    for (const [key, { value, at }] of written) {
      attrs[key] = value;
      const cut = key.indexOf(':');
      if (cut < 0) continue;
      const its = scope[key.slice(0, cut)];
      if (!its) this.undeclared(key.slice(0, cut), at);
      const full = `${its ?? ''} ${key.slice(cut + 1)}`;
      if (its && expanded.has(full))
        this.fault('attribute-twice', at, `the attribute “${key}” is given twice`);
      expanded.add(full);
    }
    while (this.line + 1 < this.starts.length && (this.starts[this.line + 1] ?? 0) <= from) this.line++;
    const element: XmlElement = {
      name: colon < 0 ? name : name.slice(colon + 1),
      ns: ns ?? '',
      attrs,
      children: [],
      at: from,
      line: this.line + 1,
      column: from - (this.starts[this.line] ?? 0) + 1,
    };
    if (above) above.element.children.push(element);
    else if (this.root) this.fault('after-root', from, `“${name}” comes after the end of the document`);
    this.root ??= element;
    if (empty) return;
    this.open.push({ element, name, scope });
    if (this.open.length > DEEPEST_XML) {
      this.fault('depth', from, 'elements are nested thousands of levels deep');
      // Whoever goes through such a tree level by level runs out of room.
      this.root = null;
      throw new TooMuch();
    }
  }

  private undeclared(prefix: string, at: number): void {
    this.fault('prefix', at, `the prefix “${prefix}” isn’t declared`).about = prefix;
  }

  private endTag(): void {
    const { text, at, open } = this;
    const name = nameAt(this.text, at + 2);
    const end = spaceAt(this.text, at + 2 + name.length);
    if (!name || text[end] !== '>') {
      this.fault('tag', at, name ? `the end tag of “${name}” has no “>”` : '“</” begins no end tag');
      const next = text.slice(at + 2).search(/[<>]/);
      this.at = next < 0 ? text.length : at + 2 + next + (text[at + 2 + next] === '>' ? 1 : 0);
      if (!name) return;
    } else this.at = end + 1;
    const top = open.at(-1);
    if (top?.name === name) return void open.pop();
    let up = open.length - 1;
    while (up >= 0 && open[up]?.name !== name) up--;
    if (up < 0 || (top && this.nextEnd() === top.name)) {
      const fault = this.fault('stray-end', at, `“</${name}>” closes nothing`);
      this.strays.push({ name, at, fault });
      return;
    }
    for (const left of open.splice(up + 1).reverse()) this.unclosed(left, at);
    open.pop();
  }
  /** Name of the end tag that comes next. */
  private nextEnd(): string {
    const next = this.text.indexOf('</', this.at);
    return next < 0 ? '' : nameAt(this.text, next + 2);
  }
  private unclosed({ name, element }: Open, before: number): void {
    const crossing = this.strays.findIndex((s) => s.name === name && s.at > element.at && s.at < before);
    if (crossing < 0) {
      const fault = this.fault('unclosed', element.at, `“${name}” is opened here and never closed`);
      fault.end = { at: before, text: `</${name}>` };
      return;
    }
    const [stray] = this.strays.splice(crossing, 1);
    this.faults.splice(this.faults.indexOf(stray!.fault), 1);
    this.fault('crossed', element.at, `“${name}” is closed while another element within it is open`);
  }

  private end(): void {
    if (this.open.length > 0) {
      if (this.swallowed) return;
      const [inner, ...around] = [...this.open].reverse();
      const more =
        around.length === 0
          ? ''
          : around.length === 1
            ? ' and the one around it'
            : ` and the ${around.length} around it`;
      const fault = this.fault(
        'cut-short',
        inner!.element.at,
        `the file ends before “${inner!.name}”${more} is closed`,
      );
      const text = [...this.open]
        .reverse()
        .map((o) => `</${o.name}>`)
        .join('');
      fault.end = { at: this.text.length, text };
    } else if (!this.root) this.fault('no-root', 0, 'there is no element');
  }
}

/** Line ends as one character each (§2.11). */
const unified = (text: string): string => (text.includes('\r') ? text.replace(/\r\n?/g, '\n') : text);
