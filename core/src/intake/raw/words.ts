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
    /^(table of )?contents$|^table des matières$|^sommaire$|^inhalt(sverzeichnis)?$|^índice$|^indice$|^inhoud(sopgave)?$/i,
  ],
  ['dedication', /^dedication$|^dédicace$|^widmung$|^dedicatoria$|^dedica$/i],
  ['epigraph', /^epigraph$/i],
  ['copyright-page', /^copyright( page)?$|^impressum$/i],
  ['foreword', /^foreword$|^avant-propos$|^vorwort$|^prólogo del editor$/i],
  ['preface', /^preface$|^préface$|^prefacio$|^prefazione$/i],
  ['introduction', /^introduction$|^einleitung$|^introducción$|^introduzione$|^inleiding$/i],
  ['prologue', /^prologue?$|^prolog$|^prólogo$|^prologo$|^proloog$/i],
  ['epilogue', /^epilogue?$|^épilogue$|^epilog$|^epílogo$|^epilogo$|^epiloog$/i],
  ['interlude', /^interlude$|^intermezzo$/i],
  ['afterword', /^afterword$|^postface$|^nachwort$|^epílogo del autor$|^nawoord$/i],
  [
    'acknowledgements',
    /^acknowledge?ments?$|^thanks$|^remerciements$|^danksagung(en)?$|^dank$|^agradecimientos$|^ringraziamenti$|^dankwoord$/i,
  ],
  [
    'about-author',
    /^about the authors?$|^the author$|^à propos de l.auteur$|^über (den autor|die autorin)$|^sobre (el autor|la autora)$|^l.autore$|^l.autrice$|^over de auteur$/i,
  ],
  ['also-by', /^also by\b.*$|^by the same author$|^other books by\b.*$|^du même auteur$/i],
  ['notes', /^(end)?notes$|^anmerkungen$|^notas$/i],
  ['glossary', /^glossary$|^glossaire$|^glossar$|^glosario$|^glossario$/i],
  ['bibliography', /^bibliography$|^references$|^bibliographie$|^bibliografía$|^bibliografia$/i],
  ['index', /^index$|^register$/i],
  ['colophon', /^colophon$/i],
];

export function kindByWords(text: string): SectionKind | null {
  const t = text.trim().replace(/[.:]$/, '');
  for (const [kind, words] of KIND_WORDS) if (words.test(t)) return kind;
  return null;
}

/** No break is longer, however far its signs stand apart. */
const BREAK_CHARS = 400;

/** Rows of signs that stand for a break in the text: "* * *", "#", "~", a fleuron. A single dash or bullet isn’t one. */
export function isBreakText(text: string): boolean {
  if (text.length > BREAK_CHARS) return false;
  const signs = text.replace(/\s/g, '');
  if (signs === '' || signs.length > 9) return false;
  if (!/^[*#~\u00b7\u2022\u25e6\u2042\u2731\u273b\u2766\u2767=_\u2013\u2014-]+$/.test(signs)) return false;
  return signs.length > 1 || !/[=_\u2022\u2013\u2014-]/.test(signs);
}

export const COPYRIGHT_WORDS =
  /\u00a9|copyright|all rights reserved|\bISBN\b|tous droits réservés|alle rechte vorbehalten|todos los derechos/i;
