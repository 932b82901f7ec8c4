/** The ebook's style sheet. Size, face and colour are the reader's: only proportions and positions are set here. */
export const STYLE = `@charset "utf-8";
body { margin: 0; padding: 0; hyphens: auto; -webkit-hyphens: auto; }
p { margin: 0; text-indent: 1.3em; text-align: justify; orphans: 2; widows: 2; }
p.first, p.attribution, p.line, li p, td p, th p, aside p, figcaption p { text-indent: 0; }
h1, h2, h3, h4 { font-weight: normal; text-align: center; line-height: 1.2; hyphens: none; -webkit-hyphens: none; break-after: avoid; }
h1 { margin: 3em 0 2em; font-size: 1.5em; }
h1 .number { display: block; font-size: 0.65em; letter-spacing: 0.1em; margin-bottom: 0.6em; font-variant-caps: small-caps; }
h1 .title { display: block; }
p.subtitle { margin: -1.4em 0 2em; text-align: center; text-indent: 0; font-style: italic; }
h2 { margin: 1.6em 0 0.8em; font-size: 1.1em; font-variant-caps: small-caps; }
h3 { margin: 1.4em 0 0.6em; font-size: 1em; font-style: italic; text-align: left; }
h4 { margin: 1.2em 0 0.5em; font-size: 1em; font-weight: bold; text-align: left; }
hr.ornament { border: 0; height: auto; margin: 1.2em 0; text-align: center; }
hr.ornament::before { content: "\\2766"; }
hr.blank { border: 0; height: 0; margin: 0.7em 0; }
blockquote, .letter { margin: 1em 1.3em; }
blockquote p:first-child, .letter p:first-child, .passage p { text-indent: 0; }
p.attribution { text-align: right; }
.passage { margin: 1em 0; }
.passage.centre p { text-align: center; }
.passage.right p { text-align: right; }
.passage.inset { margin: 1em 1.3em; }
.verse { margin: 1em 0 1em 2em; }
.stanza { margin: 0 0 1em; break-inside: avoid; }
.verse p.line { text-align: left; padding-left: 2em; text-indent: -2em; }
.verse p.in1 { margin-left: 1em; }
.verse p.in2 { margin-left: 2em; }
.verse p.in3 { margin-left: 3em; }
.verse p.in4 { margin-left: 4em; }
ul, ol { margin: 1em 0; padding-left: 1.8em; }
figure { margin: 1em 0; text-align: center; break-inside: avoid; }
figure img { max-width: 100%; height: auto; }
figure.own-page { break-before: page; break-after: page; }
figure.oval img { clip-path: ellipse(50% 50%); }
figure.arch img { border-radius: 50% 50% 0 0; }
figure.w10 img { width: 10%; } figure.w20 img { width: 20%; } figure.w30 img { width: 30%; }
figure.w40 img { width: 40%; } figure.w50 img { width: 50%; } figure.w60 img { width: 60%; }
figure.w70 img { width: 70%; } figure.w80 img { width: 80%; } figure.w90 img { width: 90%; }
figcaption { font-size: 0.9em; font-style: italic; text-align: center; margin-top: 0.5em; }
pre { margin: 1em 0; white-space: pre-wrap; text-align: left; }
table { margin: 1em 0; border-collapse: collapse; }
td, th { padding: 0.2em 0.8em 0.2em 0; text-align: left; vertical-align: top; }
aside { margin: 1em 0 0; font-size: 0.9em; }
a[role="doc-noteref"] { vertical-align: super; font-size: 0.7em; line-height: 0; text-decoration: none; }
.small-caps { font-variant-caps: small-caps; }
.page-break { break-after: page; }
.title-page, .half-title, .dedication, .part { text-align: center; }
.title-page p, .half-title p, .dedication p, .copyright p { text-indent: 0; text-align: center; }
.title-page .book-title { margin: 20% 0 0; font-size: 2em; line-height: 1.2; }
.title-page .book-subtitle { margin: 0.8em 0 0; font-size: 1.2em; font-style: italic; }
.title-page .author { margin: 3em 0 0; font-size: 1.2em; }
.title-page .imprint { margin: 6em 0 0; }
.half-title p { margin-top: 30%; }
.dedication p, .epigraph p { margin-top: 0.5em; font-style: italic; }
.dedication, .epigraph { margin-top: 25%; }
.part h1 { margin-top: 35%; }
.copyright p { text-align: left; margin: 0 0 1em; font-size: 0.9em; }
.cover { margin: 0; text-align: center; }
.cover img { max-width: 100%; max-height: 100vh; }
nav ol { list-style: none; padding-left: 1em; }
nav li { margin: 0.3em 0; }
`;
