/**
 * The ebook's style sheet, from the same design as the printed pages. Size, face and colour of the text are the reader's:
 * only proportions, positions and cuts are set here. What sinks on a printed page begins at the head of a screen, under a
 * line of white at most: a small screen that opens half empty looks like a fault.
 */
import { kindRule, SECTION_KINDS } from '../book';
import { FAMILIES, type Design, type LineStyle } from '../design';
import { faceHref, type EmbeddedFace } from './publication';

export interface StyleFiles {
  /** Picture that stands for a break, as the sheet refers to it; '' for none. */
  breakPicture: string;
  /** Whether it is drawn in its transparency alone. */
  breakIsMask: boolean;
  /** Faces that come with the file. */
  faces: readonly EmbeddedFace[];
}

export function styleSheet(design: Design, { breakPicture, breakIsMask, faces }: StyleFiles): string {
  return [
    FIXED,
    embedded(design, faces),
    text(design),
    headings(design),
    breaks(design, breakPicture, breakIsMask),
    displayed(design),
    pages(design),
    CLOSING,
    contents(design),
  ].join('');
}

/** Faces of the file, and what is set in them. Without any, the reader's own are read. */
function embedded({ text: t }: Design, faces: readonly EmbeddedFace[]): string {
  if (faces.length === 0) return '';
  const rule = (f: EmbeddedFace): string =>
    `@font-face { font-family: "${f.family}"; font-weight: ${f.weight}; font-style: ${f.italic ? 'italic' : 'normal'}; src: url("${faceHref(f)}"); }\n`;
  const has = (family: string): boolean => faces.some((f) => f.family === family);
  const set = (what: string, family: string): string =>
    has(family)
      ? `${what} { font-family: "${family}", ${FAMILIES.find((f) => f.name === family)?.serif === false ? 'sans-serif' : 'serif'}; }\n`
      : '';
  const display = t.display === t.family ? '' : set('h1, h2, h3, h4, p.subtitle', t.display);
  return `${faces.map(rule).join('')}${set('body', t.family)}${display}`;
}

const CSS_ALIGN = { left: 'left', centre: 'center', right: 'right' } as const;
/** A length in parts of the text's size, by two places. */
const ems = (n: number): string => `${Math.round(n * 100) / 100}em`;
/** A length of the design in parts of the text's size, so that it grows with the reader's own. */
const em = (mp: number, size: number): string => ems(mp / size);
/** Print's display sizes are too large for a small screen: beyond the text's size only this share counts. */
const SCREEN = 0.7;
const onScreen = (mp: number, size: number): string =>
  em(mp <= size ? mp : size + (mp - size) * SCREEN, size);

function letters({ cut, letters: kind, spacing }: Pick<LineStyle, 'cut' | 'letters' | 'spacing'>): string {
  const css = [
    `font-style: ${cut.includes('italic') ? 'italic' : 'normal'}`,
    `font-weight: ${cut.startsWith('bold') ? 'bold' : 'normal'}`,
  ];
  if (kind === 'small-capitals') css.push('font-variant-caps: small-caps');
  if (kind === 'capitals') css.push('text-transform: uppercase');
  if (spacing) css.push(`letter-spacing: ${spacing / 1000}em`);
  return css.join('; ');
}
const lineCss = (line: LineStyle, size: number): string =>
  `${letters(line)}; font-size: ${onScreen(line.size, size)}; text-align: ${CSS_ALIGN[line.align]};`;
/** A string as CSS content, its signs by their numbers. */
const content = (sign: string): string =>
  `"${[...sign].map((c) => (/[\w *]/.test(c) ? c : `\\${(c.codePointAt(0) as number).toString(16)} `)).join('')}"`;

function text({ text: t, opening: o }: Design): string {
  const spaced = t.paragraphs === 'space';
  const lead =
    o.words === 'drop-capital'
      ? `p.opens::first-letter { -webkit-initial-letter: ${o.dropLines}; initial-letter: ${o.dropLines}; }\n`
      : o.words === 'small-capitals'
        ? 'p.opens::first-line { font-variant-caps: small-caps; }\n'
        : '';
  return `p { margin: ${spaced ? '0 0 0.8em' : '0'}; text-indent: ${spaced ? '0' : em(t.indent, t.size)}; text-align: ${t.set === 'ragged' ? 'left' : 'justify'}; orphans: 2; widows: 2; }
p.first, p.attribution, p.line, li p, td p, th p, aside p, figcaption p { text-indent: 0; }
${t.hyphens ? '' : 'body { hyphens: manual; -webkit-hyphens: manual; }\n'}${lead}`;
}

function headings({ text: { size }, opening: o, subheads: s }: Design): string {
  const edge = (side: string): string => `border-${side}: 1px solid; padding-${side}: 0.4em; `;
  const above = o.rules === 'above' || o.rules === 'both' ? edge('top') : '';
  const below = o.rules === 'below' || o.rules === 'both' ? edge('bottom') : '';
  const at = { above: 'h1::before', between: 'h1 .number::after', below: 'h1::after' }[o.ornamentAt];
  const ornament = o.ornament
    ? `${at} { content: ${content(o.ornament)}; display: block; font-size: 1rem; letter-spacing: 0; margin: 0.4em 0; }\n`
    : '';
  const under = ems(0.6 + o.gap * 0.3);
  const over = above || (o.ornament && o.ornamentAt === 'above') ? '0.4em' : '0.8em';
  return `h1 { margin: ${over} 0 ${under}; font-size: 1em; text-align: ${CSS_ALIGN[o.title.align]}; ${above}${below}}
h1 .number { display: block; margin-bottom: ${em(0.6 * size, Math.max(size, o.number.size * SCREEN))}; ${lineCss(o.number, size)} }
h1 .title { display: block; ${lineCss(o.title, size)} }
p.subtitle { margin: -${ems(0.3 + o.gap * 0.3)} 0 ${under}; text-indent: 0; ${lineCss(o.subtitle, size)} }
${ornament}h2 { margin: 1.6em 0 0.8em; ${lineCss(s.first, size)} }
h3 { margin: 1.4em 0 0.6em; ${lineCss(s.second, size)} }
h4 { margin: 1.2em 0 0.5em; ${lineCss(s.third, size)} }
`;
}

/** A picture that is a mask takes the colour of the text, by day and by night. */
function breaks({ breaks: b }: Design, picture: string, isMask: boolean): string {
  const sign = picture
    ? `hr.ornament { border: 0; color: inherit; height: 1.6em; margin: 1.2em 0; background: url("${picture}") no-repeat center; background-size: contain; }
${isMask ? `@supports (mask-size: contain) { hr.ornament { background: currentColor; mask: url("${picture}") no-repeat center; mask-size: contain; } }\n` : ''}`
    : b.sign
      ? `hr.ornament { border: 0; color: inherit; height: auto; margin: 1.2em 0; text-align: center; }\nhr.ornament::before { content: ${content(b.sign)}; }\n`
      : 'hr.ornament { border: 0; height: 0; margin: 0.9em 0; }\n';
  const resume = b.resume === 'indent' ? 'hr + p.first { text-indent: 1.3em; }\n' : '';
  return `${sign}hr.blank { border: 0; height: 0; margin: 0.7em 0; }\n${resume}`;
}

function displayed({ text: { size }, quotation: q, verse: v, pictures: p }: Design): string {
  const inset = { both: '1em 1.3em', left: '1em 0 1em 1.3em', none: '1em 0' }[q.inset];
  return `blockquote { margin: ${inset}; font-style: ${q.cut === 'italic' ? 'italic' : 'normal'}; font-size: ${em(q.size, size)}; }
.verse { margin: 1em 0 1em ${em(v.inset, size)}; font-style: ${v.cut === 'italic' ? 'italic' : 'normal'}; }
figcaption { margin-top: 0.5em; ${lineCss(p.caption, size)} }
${p.frame ? 'figure img { border: 1px solid; }\n' : ''}`;
}

function pages({ text: { size }, titlePage: t, partPage: p, notes: n }: Design): string {
  return `.title-page .book-title { margin: 0; border: 0; padding: 0; line-height: 1.2; ${lineCss(t.title, size)} }
.title-page .book-title::before, .title-page .book-title::after { content: none; }
.title-page .book-subtitle { margin: 0.8em 0 0; ${lineCss(t.subtitle, size)} }
.title-page .author { margin: 3em 0 0; ${lineCss(t.author, size)} }
.title-page .other { margin: 0.8em 0 0; text-align: ${CSS_ALIGN[t.subtitle.align]}; font-style: italic; }
.title-page .imprint { margin: 6em 0 0; ${lineCss(t.imprint, size)} }
.title-page > :first-child { margin-top: 0.4em; }
.half-title p { margin-top: 0; ${lineCss(t.author, size)} }
.part h1 { text-align: ${CSS_ALIGN[p.title.align]}; border: 0; }
.part h1 .number { ${lineCss(p.number, size)} }
.part h1 .title { ${lineCss(p.title, size)} }
aside { margin: 1em 0 0; font-size: ${em(n.size, size)}; }
`;
}

const FIXED = `@charset "utf-8";
body { margin: 0; padding: 0; hyphens: auto; -webkit-hyphens: auto; overflow-wrap: break-word; }
h1, h2, h3, h4 { font-weight: normal; line-height: 1.2; text-wrap: balance; hyphens: none; -webkit-hyphens: none; break-after: avoid; }
`;
/** Paragraphs of sections whose entries hang. */
const HANGING = SECTION_KINDS.filter((k) => kindRule(k).hanging)
  .flatMap((k) => [`.${k} > p:not([class])`, `.${k} > p.first`])
  .join(', ');

const CLOSING = `.letter { margin: 1em 1.3em; }
blockquote p:first-child, .letter p:first-child, .passage p { text-indent: 0; }
p.attribution { text-align: right; }
.passage { margin: 1em 0; }
.passage.centre p { text-align: center; }
.passage.right p { text-align: right; }
.passage.inset { margin: 1em 1.3em; }
.stanza { margin: 0 0 1em; break-inside: avoid; }
.verse p.line { text-align: left; padding-left: 2em; text-indent: -2em; }
.verse p.in1 { margin-left: 1em; }
.verse p.in2 { margin-left: 2em; }
.verse p.in3 { margin-left: 3em; }
.verse p.in4 { margin-left: 4em; }
ul, ol { margin: 1em 0; padding-left: 1.8em; }
dl { margin: 1em 0; }
dt { text-indent: 0; break-after: avoid; }
dd { margin: 0 0 0.3em 1.6em; }
dd > p:first-child { text-indent: 0; }
li > ul, li > ol, dd > ul, dd > ol { margin: 0.3em 0; }
figure { margin: 1em 0; text-align: center; break-inside: avoid; }
figure img { box-sizing: border-box; max-width: 100%; height: auto; }
figure.own-page { break-before: page; break-after: page; }
figure.oval img { clip-path: ellipse(50% 50%); }
figure.arch img { border-radius: 50% 50% 0 0; }
figure.w10 img { width: 10%; } figure.w20 img { width: 20%; } figure.w30 img { width: 30%; }
figure.w40 img { width: 40%; } figure.w50 img { width: 50%; } figure.w60 img { width: 60%; }
figure.w70 img { width: 70%; } figure.w80 img { width: 80%; } figure.w90 img { width: 90%; }
figure.beside-left { float: left; margin: 0.3em 1em 0.3em 0; }
figure.beside-right { float: right; margin: 0.3em 0 0.3em 1em; }
.beside-left.w10, .beside-right.w10 { width: 10%; } .beside-left.w20, .beside-right.w20 { width: 20%; }
.beside-left.w30, .beside-right.w30 { width: 30%; } .beside-left.w40, .beside-right.w40 { width: 40%; }
.beside-left.w50, .beside-right.w50 { width: 50%; } .beside-left.w60, .beside-right.w60 { width: 60%; }
figure.beside-left img, figure.beside-right img { width: 100%; }
h1, h2, h3, h4, hr, table, blockquote { clear: both; }
pre { margin: 1em 0; white-space: pre-wrap; text-align: left; }
${HANGING} { text-indent: -1.5em; padding-left: 1.5em; text-align: left; }
table { margin: 1em 0; border-collapse: collapse; }
table { border-top: 1px solid; border-bottom: 1px solid; }
thead { border-bottom: 1px solid; }
caption, p.table-caption { text-align: left; text-indent: 0; font-style: italic; padding-bottom: 0.3em; }
td, th { padding: 0.2em 0.8em 0.2em 0; text-align: left; vertical-align: top; }
td.centre, th.centre { text-align: center; }
td.right, th.right { text-align: right; }
td img { max-width: 100%; height: auto; }
@media (max-width: 32em) { td, th { padding-right: 0.4em; overflow-wrap: anywhere; } }
a[role="doc-noteref"] { vertical-align: super; font-size: 0.7em; line-height: 0; text-decoration: none; }
.small-caps { font-variant-caps: small-caps; }
.page-break { break-after: page; }
.title-page p, .half-title p, .dedication p, .copyright p { text-indent: 0; }
.dedication p { text-align: center; }
.dedication p, .epigraph p { margin-top: 0.5em; font-style: italic; }
.copyright p { text-align: left; margin: 0 0 1em; font-size: 0.9em; }
.cover { margin: 0; text-align: center; }
.cover img { max-width: 100%; max-height: 100vh; }
ul.index { list-style: none; padding-left: 1em; }
nav ol { list-style: none; padding-left: 1em; }
nav li { margin: 0.3em 0; }
`;
/** The contents as the design has them: ranged, or on the middle of the measure. */
const contents = ({ contents: c }: Design): string =>
  c.set === 'centred' ? 'nav ol { padding-left: 0; text-align: center; }\n' : '';
