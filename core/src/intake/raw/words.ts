/** Words by which parts of a book are known. From memory of the languages; English is the fullest. */
import { numberValue } from '../../base';
import type { SectionKind } from '../../book';

/** A number that stands alone: "7", "VII", "Seven". Single letters that are words ("I") count only as numerals. */
export function bareNumber(text: string): number | null {
  const t = text.trim().replace(/[.:]$/, '');
  return t.length > 0 && t.length <= 24 ? numberValue(t) : null;
}

/** "1. The Boat", "IV — The Boat". */
export function numberThenTitle(text: string): { number: number; title: string } | null {
  const m = /^(\d{1,3}|[IVXLC]{1,7})\s*[.:\u2013\u2014-]\s+(\S.*)$/.exec(text.trim());
  const number = m ? numberValue(m[1] as string) : null;
  return m && number !== null ? { number, title: m[2] as string } : null;
}

const KIND_WORDS: [SectionKind, RegExp][] = [
  [
    'contents',
    /^(?:table of )?contents$|^table des matières$|^sommaire$|^inhalt(?:sverzeichnis)?$|^índice$|^indice$|^inhoud(?:sopgave)?$/i,
  ],
  ['dedication', /^dedication$|^dédicace$|^widmung$|^dedicatoria$|^dedica$/i],
  ['epigraph', /^epigraph$/i],
  ['copyright-page', /^copyright(?: page)?$|^impressum$/i],
  ['foreword', /^foreword$|^avant-propos$|^geleitwort$|^presentación$|^presentazione$|^prólogo del editor$/i],
  [
    'preface',
    /^prefac(?:e|io)$|^préface$|^prefazione$|^vorwort$|^vorbemerkung(?:en)?$|^voorwoord$|^(?:the )?(?:author|editor|translator|publisher)(?:.s)? (?:note|preface)$|^an? note (?:on|about|to|from|for)\b.*$|^note (?:on|to) the \p{L}+$|^to the reader$|^note de l.auteur$|^nota (?:del autor|de la autora|dell.autore)$/iu,
  ],
  [
    'introduction',
    /^(?:general )?introduction$|^einleitung$|^einführung$|^introducción$|^introduzione$|^inleiding$|^introdução$/i,
  ],
  ['prologue', /^prologue?$|^prolog$|^prólogo$|^prologo$|^proloog$/i],
  ['epilogue', /^epilogue?$|^épilogue$|^epilog$|^epílogo$|^epilogo$|^epiloog$/i],
  ['interlude', /^interlude$|^intermezzo$|^zwischenspiel$|^interludio$/i],
  [
    'afterword',
    /^afterword$|^postface$|^postscript$|^nachwort$|^posfacio$|^postfazione$|^epílogo del autor$|^nawoord$|^historical note$/i,
  ],
  [
    'acknowledgements',
    /^acknowledge?ments?$|^thanks$|^with thanks$|^remerciements$|^danksagung(?:en)?$|^dank$|^agradecimientos$|^agradecimentos$|^ringraziamenti$|^dankwoord$/i,
  ],
  [
    'about-author',
    /^about the authors?$|^the author$|^à propos de l.auteur$|^über (?:den autor|die autorin|den verfasser)$|^sobre (?:el autor|la autora|o autor|a autora)$|^l.autore$|^l.autrice$|^over de auteur$/i,
  ],
  [
    'also-by',
    /^also by\b.*$|^by the same author$|^other (?:books|titles|works) by\b.*$|^books by\b.*$|^du même auteur$/i,
  ],
  ['contributors', /^(?:notes on )?(?:the )?contributors$|^list of contributors$/i],
  [
    'abbreviations',
    /^(?:list of )?abbreviations$|^abkürzungen$|^abkürzungsverzeichnis$|^abréviations$|^abreviaturas$|^abbreviazioni$|^afkortingen$/i,
  ],
  ['chronology', /^chronology$|^time ?line$|^zeittafel$|^chronologie$|^cronología$|^cronologia$/i],
  ['notes', /^(?:end ?|foot ?)?notes$|^anmerkungen$|^notas$|^noten$/i],
  ['glossary', /^glossary(?: of terms)?$|^glossaire$|^glossar$|^glosario$|^glossario$|^woordenlijst$/i],
  [
    'bibliography',
    /^(?:select(?:ed)? )?bibliography$|^(?:list of )?references$|^works cited$|^further reading$|^sources$|^bibliographie$|^literatur(?:verzeichnis)?$|^quellen$|^bibliografía$|^bibliografia$|^literatuur$/i,
  ],
  [
    'index',
    /^(?:general )?index$|^(?:sach|personen)?register$|^índice (?:analítico|onomástico)$|^indice analitico$/i,
  ],
  ['colophon', /^colophon$/i],
  [
    'extract',
    /^an? (?:extract|excerpt) from\b.*$|^(?:extract|excerpt) from\b.*$|^(?:a )?(?:sneak )?preview of\b.*$/i,
  ],
];

/** "Appendix", "Appendix A", "Anhang 2: Die Karten". */
const APPENDIX =
  /^(?:appendix|appendices|anhang|annexe|apéndice|anexo|appendice|bijlage)(?:$|\s+(?:[a-z]|\d{1,2}|[ivx]{1,5})(?:$|[\s.:\u2013\u2014-].*$)|\s*[.:\u2013\u2014-]\s*\S.*$)/i;
/** Words that may be followed by a title of their own: "Prologue: The Storm". */
const TITLED =
  /^(prologue|epilogue|interlude|introduction|foreword|preface|afterword|prolog|epilog|prólogo|prologo|epílogo|epilogo|épilogue|einleitung|vorwort|nachwort|zwischenspiel|intermezzo)\s*[:\u2013\u2014-]\s*\S/i;

export function kindByWords(text: string): SectionKind | null {
  const t = text.trim().replace(/[.:]$/, '');
  if (t.length > 120) return null;
  for (const [kind, words] of KIND_WORDS) if (words.test(t)) return kind;
  if (APPENDIX.test(t)) return 'appendix';
  const head = TITLED.exec(t)?.[1];
  return head ? kindByWords(head) : null;
}

/** No break is longer, however far its signs stand apart. */
const BREAK_CHARS = 400;

/** What begins so is no row of signs, which spares nearly every paragraph the rest. */
const BEGINS_A_WORD = /^[A-NP-WYZa-np-wyz][A-Za-z]/;
/** Letters that are set as signs: "oOo", "-o0o-", "x x x". */
const LETTERED = /^-*(?:o0?o|xxx)-*$/i;

/** Rows of signs that stand for a break in the text: "* * *", "#", "~", a fleuron. A single dash or bullet isn’t one. */
export function isBreakText(text: string): boolean {
  if (text.length > BREAK_CHARS || BEGINS_A_WORD.test(text)) return false;
  const signs = text.replace(/\s/g, '');
  if (signs === '' || signs.length > 60) return false;
  if (LETTERED.test(signs)) return true;
  // Signs of any sort but those that end sentences or hold words.
  if (!/^[\p{S}\p{Po}\p{Pd}\p{Pc}]+$/u.test(signs) || /[.,:;!?%&@'"\u2026\u00bf\u00a1/\\]/u.test(signs))
    return false;
  if (signs.length > 9 && new Set(signs).size > 1) return false;
  return signs.length > 1 || !/[=_\u2022\u2013\u2014+-]/.test(signs);
}

export const COPYRIGHT_WORDS =
  /\u00a9|copyright|all rights reserved|\bISBN\b|tous droits réservés|alle rechte vorbehalten|todos los derechos/i;

/** "Figure 2.1", "Table 3": captions, not subheads. */
export const isCaptionText = (text: string): boolean =>
  /^(fig(ure|\.)?|table|tab\.|abb(ildung|\.)?|tabelle|tableau|illustration|plate|photo|map|karte|figura|tabla|tabella|grafik|graph|chart|diagram|ill\.)\s*(\d+(\.\d+)*|[A-Z]\.\d+|[IVXLC]+)\b/i.test(
    text,
  );

/** "Table 3.1": the caption of a table. */
export const isTableCaption = (text: string): boolean =>
  /^(?:table|tab\.|tabelle|tableau|tabla|tabella|tabel|tabela)\s*(?:[A-Z]?\.?\d+(?:[.-]\d+)*|[IVXLC]+)\b(?!\s+\p{Ll}+s\b)/iu.test(
    text,
  );
