/** The words by which a text points to its own places, as they stand within a sentence. Written from memory of the languages. */
import { byLanguage, numberLabel } from './language';

/** What a word can point to. */
export type Pointed = 'page' | 'pages' | 'figure' | 'table' | 'note';

const WORDS: Record<string, Record<Pointed, string>> = {
  en: { page: 'page', pages: 'pages', figure: 'figure', table: 'table', note: 'note' },
  fr: { page: 'page', pages: 'pages', figure: 'figure', table: 'tableau', note: 'note' },
  de: { page: 'Seite', pages: 'Seiten', figure: 'Abbildung', table: 'Tabelle', note: 'Anmerkung' },
  es: { page: 'página', pages: 'páginas', figure: 'figura', table: 'tabla', note: 'nota' },
  it: { page: 'pagina', pages: 'pagine', figure: 'figura', table: 'tabella', note: 'nota' },
  pt: { page: 'página', pages: 'páginas', figure: 'figura', table: 'tabela', note: 'nota' },
  nl: { page: 'pagina', pages: 'pagina’s', figure: 'figuur', table: 'tabel', note: 'noot' },
};

/** "page", "Seite", "tableau"; English where we have no words. */
export const pointerWord = (to: Pointed, language: string): string =>
  (byLanguage(WORDS, language) ?? (WORDS.en as Record<Pointed, string>))[to];

/** "chapter" within an English sentence, "Kapitel" within a German one, which writes its nouns with capitals. */
export function sectionWord(kind: 'chapter' | 'part', language: string): string {
  const label = numberLabel(kind, language);
  return nounsInCapitals(language) ? label : label.toLowerCase();
}
export const nounsInCapitals = (language: string): boolean => /^de\b/i.test(language);

/** Words with a capital at their head, as at a sentence's beginning or in a caption. */
export const capitalised = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);

/** "see" and "see also" of an index. Written from memory of the languages. */
const SEE: Record<string, [see: string, also: string]> = {
  en: ['see', 'see also'],
  fr: ['voir', 'voir aussi'],
  de: ['siehe', 'siehe auch'],
  es: ['véase', 'véase también'],
  it: ['vedi', 'vedi anche'],
  pt: ['ver', 'ver também'],
  nl: ['zie', 'zie ook'],
};
export const seeWord = (also: boolean, language: string): string =>
  (byLanguage(SEE, language) ?? (SEE.en as [string, string]))[also ? 1 : 0];

/** A name as it stands within a sentence: "Paperback" loses its capital, "PDF" and "US edition" keep theirs. */
export const inSentence = (name: string): string =>
  /^\p{Lu}(?:\p{Ll}|\s|$)/u.test(name) ? name.charAt(0).toLowerCase() + name.slice(1) : name;
