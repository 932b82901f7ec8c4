import { byLanguage } from '../base';

/**
 * What a section is decides where it starts, whether it is numbered, in the contents, under a running head, and
 * what it says of itself in an ebook (EPUB Structural Semantics 1.1; DPUB-ARIA 1.1). Starts and numbering are common practice.
 */
export type Matter = 'front' | 'body' | 'back';

export interface KindRule {
  label: string;
  matter: Matter;
  starts: 'recto' | 'any';
  /** Counted among chapters or parts. */
  numbered: boolean;
  inContents: boolean;
  runningHead: boolean;
  /** Shows a folio on its first page (at the foot) and on those after. */
  folio: boolean;
  /** Its paragraphs are entries, each with a hanging indent: only the first line stands at the margin (common practice). */
  hanging: boolean;
  /** How its first page is laid out. */
  opening: 'heading' | 'page' | 'none';
  epubType: string;
  role: string;
  /** The default heading where the author gave none; '' for none. */
  heading: string;
}

const rule = (
  label: string,
  matter: Matter,
  epubType: string,
  role: string,
  more: Partial<Omit<KindRule, 'label' | 'matter' | 'epubType' | 'role'>> = {},
): KindRule => ({
  label,
  matter,
  epubType,
  role,
  starts: 'recto',
  numbered: false,
  inContents: true,
  runningHead: true,
  folio: true,
  hanging: false,
  opening: 'heading',
  heading: '',
  ...more,
});

const quiet = { inContents: false, runningHead: false, folio: false } as const;
const apart = { opening: 'none', ...quiet } as const;

export const KINDS = {
  'half-title': rule('Half title', 'front', 'halftitlepage', '', { ...apart, opening: 'page' }),
  'title-page': rule('Title page', 'front', 'titlepage', '', { ...apart, opening: 'page' }),
  'copyright-page': rule('Copyright page', 'front', 'copyright-page', '', { ...apart, starts: 'any' }),
  dedication: rule('Dedication', 'front', 'dedication', 'doc-dedication', apart),
  epigraph: rule('Epigraph', 'front', 'epigraph', 'doc-epigraph', apart),
  contents: rule('Contents', 'front', 'toc', 'doc-toc', {
    ...quiet,
    folio: true,
    runningHead: true,
    heading: 'Contents',
  }),
  'list-of-figures': rule('List of figures', 'front', 'loi', '', { heading: 'Figures' }),
  'list-of-tables': rule('List of tables', 'front', 'lot', '', { heading: 'Tables' }),
  foreword: rule('Foreword', 'front', 'foreword', 'doc-foreword', { heading: 'Foreword' }),
  preface: rule('Preface', 'front', 'preface', 'doc-preface', { heading: 'Preface' }),
  introduction: rule('Introduction', 'front', 'introduction', 'doc-introduction', {
    heading: 'Introduction',
  }),
  abbreviations: rule('Abbreviations', 'front', 'frontmatter', '', {
    heading: 'Abbreviations',
    hanging: true,
  }),
  prologue: rule('Prologue', 'body', 'prologue', 'doc-prologue', { heading: 'Prologue' }),
  part: rule('Part', 'body', 'part', 'doc-part', {
    numbered: true,
    opening: 'page',
    runningHead: false,
    folio: false,
  }),
  chapter: rule('Chapter', 'body', 'chapter', 'doc-chapter', { numbered: true }),
  interlude: rule('Interlude', 'body', 'chapter', 'doc-chapter', {}),
  epilogue: rule('Epilogue', 'body', 'epilogue', 'doc-epilogue', { heading: 'Epilogue' }),
  afterword: rule('Afterword', 'back', 'afterword', 'doc-afterword', { heading: 'Afterword' }),
  acknowledgements: rule('Acknowledgements', 'back', 'acknowledgments', 'doc-acknowledgments', {
    heading: 'Acknowledgements',
  }),
  'about-author': rule('About the author', 'back', 'backmatter', '', { heading: 'About the Author' }),
  'also-by': rule('Also by', 'back', 'backmatter', '', { heading: 'Also by the Author', inContents: false }),
  appendix: rule('Appendix', 'back', 'appendix', 'doc-appendix', { heading: 'Appendix', numbered: true }),
  chronology: rule('Chronology', 'back', 'backmatter', '', { heading: 'Chronology' }),
  contributors: rule('Contributors', 'back', 'contributors', '', { heading: 'Contributors' }),
  notes: rule('Notes', 'back', 'endnotes', 'doc-endnotes', { heading: 'Notes' }),
  glossary: rule('Glossary', 'back', 'glossary', 'doc-glossary', { heading: 'Glossary', hanging: true }),
  bibliography: rule('Bibliography', 'back', 'bibliography', 'doc-bibliography', {
    heading: 'Bibliography',
    hanging: true,
  }),
  index: rule('Index', 'back', 'index', 'doc-index', { heading: 'Index' }),
  colophon: rule('Colophon', 'back', 'colophon', 'doc-colophon', { inContents: false, heading: 'Colophon' }),
  extract: rule('Extract from another book', 'back', 'backmatter', '', {}),
  'picture-pages': rule('Picture pages', 'body', 'bodymatter', '', {
    ...apart,
    inContents: true,
    starts: 'any',
  }),
  plain: rule('Plain page', 'body', 'bodymatter', '', { ...apart, starts: 'any' }),
} as const satisfies Record<string, KindRule>;

export type SectionKind = keyof typeof KINDS;
export const SECTION_KINDS = Object.keys(KINDS) as SectionKind[];
export const kindRule = (kind: SectionKind): KindRule => KINDS[kind];

/** Usual headings in other languages than English, from memory of them. */
const HEADINGS: Record<string, Partial<Record<SectionKind, string>>> = {
  fr: {
    contents: 'Table des matières',
    'list-of-figures': 'Table des illustrations',
    'list-of-tables': 'Liste des tableaux',
    foreword: 'Avant-propos',
    preface: 'Préface',
    introduction: 'Introduction',
    abbreviations: 'Abréviations',
    prologue: 'Prologue',
    epilogue: 'Épilogue',
    afterword: 'Postface',
    acknowledgements: 'Remerciements',
    'about-author': 'L’auteur',
    'also-by': 'Du même auteur',
    appendix: 'Annexe',
    chronology: 'Chronologie',
    contributors: 'Les auteurs',
    notes: 'Notes',
    glossary: 'Glossaire',
    bibliography: 'Bibliographie',
    index: 'Index',
    colophon: 'Achevé d’imprimer',
  },
  de: {
    contents: 'Inhalt',
    'list-of-figures': 'Abbildungen',
    'list-of-tables': 'Tabellen',
    foreword: 'Geleitwort',
    preface: 'Vorwort',
    introduction: 'Einleitung',
    abbreviations: 'Abkürzungen',
    prologue: 'Prolog',
    epilogue: 'Epilog',
    afterword: 'Nachwort',
    acknowledgements: 'Danksagung',
    'about-author': 'Über die Autorin, den Autor',
    'also-by': 'Weitere Bücher',
    appendix: 'Anhang',
    chronology: 'Zeittafel',
    contributors: 'Die Beiträger',
    notes: 'Anmerkungen',
    glossary: 'Glossar',
    bibliography: 'Literatur',
    index: 'Register',
    colophon: 'Impressum',
  },
  es: {
    contents: 'Índice',
    'list-of-figures': 'Índice de ilustraciones',
    'list-of-tables': 'Índice de tablas',
    foreword: 'Presentación',
    preface: 'Prefacio',
    introduction: 'Introducción',
    abbreviations: 'Abreviaturas',
    prologue: 'Prólogo',
    epilogue: 'Epílogo',
    afterword: 'Posfacio',
    acknowledgements: 'Agradecimientos',
    'about-author': 'Sobre el autor',
    'also-by': 'Del mismo autor',
    appendix: 'Apéndice',
    chronology: 'Cronología',
    contributors: 'Colaboradores',
    notes: 'Notas',
    glossary: 'Glosario',
    bibliography: 'Bibliografía',
    index: 'Índice analítico',
    colophon: 'Colofón',
  },
  it: {
    contents: 'Indice',
    'list-of-figures': 'Indice delle figure',
    'list-of-tables': 'Indice delle tabelle',
    foreword: 'Presentazione',
    preface: 'Prefazione',
    introduction: 'Introduzione',
    abbreviations: 'Abbreviazioni',
    prologue: 'Prologo',
    epilogue: 'Epilogo',
    afterword: 'Postfazione',
    acknowledgements: 'Ringraziamenti',
    'about-author': 'L’autore',
    'also-by': 'Dello stesso autore',
    appendix: 'Appendice',
    chronology: 'Cronologia',
    contributors: 'Gli autori',
    notes: 'Note',
    glossary: 'Glossario',
    bibliography: 'Bibliografia',
    index: 'Indice analitico',
    colophon: 'Colophon',
  },
};

/** The heading a kind bears where the author gave none, in the language of the book; '' for none. */
export const headingWord = (kind: SectionKind, language: string): string =>
  byLanguage(HEADINGS, language)?.[kind] ?? kindRule(kind).heading;

/** Kinds whose first paragraph opens: a drop capital, opening words in small capitals. */
const OPENING: ReadonlySet<SectionKind> = new Set(['chapter', 'prologue', 'epilogue', 'interlude']);
export const opensText = (kind: SectionKind): boolean => OPENING.has(kind);
