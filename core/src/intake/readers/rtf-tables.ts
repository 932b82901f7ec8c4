/** The tables at the head of a Rich Text file: its fonts and its paragraph styles. */
import type { RawParagraph } from '../raw';
import { CHARSETS, MONO, type Group } from './rtf-words';

interface Font {
  codepage: string;
  mono: boolean;
}
interface StyleFacts {
  name: string;
  outline: number;
  align: RawParagraph['align'];
  bold: boolean;
  italic: boolean;
}
/** Built-in names of heading styles, in the languages of word processors. */
const HEADING = /^(?:heading|überschrift|titre|título|titolo|kop)\s*(\d)/i;

export class RtfTables {
  private readonly fonts = new Map<number, Font>();
  private readonly styles = new Map<number, StyleFacts>();
  private fontAt = 0;
  private styleAt = 0;
  private styleName = '';

  font(number: number): Font | undefined {
    return this.fonts.get(number);
  }
  style(number: number): StyleFacts | undefined {
    return this.styles.get(number);
  }

  fontWord(word: string, param = 0): void {
    if (word === 'f') {
      this.fontAt = param;
      this.fonts.set(param, { codepage: '', mono: false });
    }
    const font = this.fonts.get(this.fontAt);
    if (word === 'fcharset' && font) font.codepage = CHARSETS[param] ?? '';
  }
  fontName(text: string): void {
    const font = this.fonts.get(this.fontAt);
    if (font && MONO.test(text)) font.mono = true;
  }

  beginStyle(number: number): void {
    this.styleAt = number;
  }
  styleText(text: string): void {
    this.styleName += text;
  }
  /** A group of the style sheet ends: its words are the style's looks, its text the name. */
  endStyle({ par, bold, italic }: Group): void {
    const name = this.styleName.replace(/;.*$/s, '').trim();
    this.styleName = '';
    if (name === '') return;
    const outline = par.outline || Number(HEADING.exec(name)?.[1] ?? 0);
    this.styles.set(this.styleAt, { name, outline, align: par.align || 'left', bold, italic });
    this.styleAt = 0;
  }
}
