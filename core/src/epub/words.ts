/** Words that a reading program shows of an ebook, in the language of the book; from memory of the languages. */
import { byLanguage } from '../base';

export interface NavigationWords {
  cover: string;
  /** Before the title, as the cover's alternative text. */
  coverOf: string;
  contents: string;
  landmarks: string;
  pages: string;
  start: string;
}
const words = (
  cover: string,
  coverOf: string,
  contents: string,
  landmarks: string,
  pages: string,
  start: string,
): NavigationWords => ({ cover, coverOf, contents, landmarks, pages, start });

const ENGLISH = words('Cover', 'Cover of', 'Contents', 'Landmarks', 'Pages', 'Start of the text');
const WORDS: Record<string, NavigationWords> = {
  en: ENGLISH,
  fr: words('Couverture', 'Couverture de', 'Table des matières', 'Repères', 'Pages', 'Début du texte'),
  de: words('Umschlag', 'Umschlag von', 'Inhalt', 'Wegmarken', 'Seiten', 'Beginn des Textes'),
  es: words('Cubierta', 'Cubierta de', 'Índice', 'Referencias', 'Páginas', 'Comienzo del texto'),
  it: words('Copertina', 'Copertina di', 'Indice', 'Riferimenti', 'Pagine', 'Inizio del testo'),
  pt: words('Capa', 'Capa de', 'Sumário', 'Referências', 'Páginas', 'Início do texto'),
  nl: words('Omslag', 'Omslag van', 'Inhoud', 'Oriëntatiepunten', 'Pagina’s', 'Begin van de tekst'),
  sv: words('Omslag', 'Omslag till', 'Innehåll', 'Landmärken', 'Sidor', 'Textens början'),
  da: words('Omslag', 'Omslag til', 'Indhold', 'Pejlemærker', 'Sider', 'Tekstens begyndelse'),
  nb: words('Omslag', 'Omslag til', 'Innhold', 'Landemerker', 'Sider', 'Tekstens begynnelse'),
  no: words('Omslag', 'Omslag til', 'Innhold', 'Landemerker', 'Sider', 'Tekstens begynnelse'),
  fi: words('Kansi', 'Kansi:', 'Sisällys', 'Maamerkit', 'Sivut', 'Tekstin alku'),
  pl: words('Okładka', 'Okładka:', 'Spis treści', 'Punkty orientacyjne', 'Strony', 'Początek tekstu'),
  cs: words('Obálka', 'Obálka:', 'Obsah', 'Orientační body', 'Strany', 'Začátek textu'),
  hu: words('Borító', 'Borító:', 'Tartalom', 'Tájékozódási pontok', 'Oldalak', 'A szöveg kezdete'),
  ro: words('Copertă', 'Coperta:', 'Cuprins', 'Repere', 'Pagini', 'Începutul textului'),
  tr: words('Kapak', 'Kapak:', 'İçindekiler', 'Yer imleri', 'Sayfalar', 'Metnin başı'),
  el: words('Εξώφυλλο', 'Εξώφυλλο:', 'Περιεχόμενα', 'Ορόσημα', 'Σελίδες', 'Αρχή του κειμένου'),
  ru: words('Обложка', 'Обложка:', 'Содержание', 'Ориентиры', 'Страницы', 'Начало текста'),
  uk: words('Обкладинка', 'Обкладинка:', 'Зміст', 'Орієнтири', 'Сторінки', 'Початок тексту'),
};

export const navigationWords = (language: string): NavigationWords => byLanguage(WORDS, language) ?? ENGLISH;
