/** XML as a small tree that remembers where each element is, and what is wrong with a text. */

export interface XmlElement {
  /** Local name, without prefix. */
  name: string;
  /** Namespace URI, '' when none. */
  ns: string;
  /** Attributes by qualified name as written. */
  attrs: Record<string, string>;
  children: XmlNode[];
  /** Where its start tag begins: an offset in the text, and line and column, both counted from 1. */
  at: number;
  line: number;
  column: number;
}
export type XmlNode = XmlElement | string;

/** What is wrong with a text, by the constraint of XML 1.0 that it breaks. */
export type XmlFaultKind =
  | 'unclosed'
  | 'crossed'
  | 'stray-end'
  | 'cut-short'
  | 'tag'
  | 'less-than'
  | 'ampersand'
  | 'entity'
  | 'attribute-value'
  | 'attribute-quotes'
  | 'attribute-gap'
  | 'attribute-twice'
  | 'comment'
  | 'cdata'
  | 'character'
  | 'declaration'
  | 'doctype'
  | 'instruction'
  | 'prefix'
  | 'before-root'
  | 'after-root'
  | 'no-root'
  | 'depth';

export interface XmlFault {
  kind: XmlFaultKind;
  /** The rest of a sentence, such as “‘p’ is opened here and never closed”. */
  message: string;
  /** Where the fault begins: an offset in the text, and line and column, both counted from 1. */
  at: number;
  line: number;
  column: number;
  /** The prefix that isn’t declared. */
  about?: string;
  /** End tags that the text lacks, and where they belong. */
  end?: { at: number; text: string };
}
