/**
 * The elements of HTML as a table: categories, content model and attributes of each (HTML, Living Standard, §3.2.5 and §4;
 * written from memory of the standard, and compared with another checker in make/test/html-models).
 *
 * Categories: F flow, P phrasing, S sectioning, H heading, M metadata, C script-supporting.
 */

export interface ElementModel {
  categories: string;
  content: ContentModel;
  /** Its own attributes, beside the global ones. */
  attributes: readonly string[];
}
/**
 * What an element holds. A list of names: those elements and no text. `transparent`: what the element around it may hold.
 * `text`: characters alone. `nothing`: no content at all.
 */
export type ContentModel =
  'flow' | 'phrasing' | 'transparent' | 'text' | 'nothing' | 'anything' | readonly string[];

const MEDIA = 'crossorigin preload autoplay loop muted controls src';
const ROWS = `
html | | =head body | manifest
head | | =title base link meta style script noscript template |
title | M | text |
base | M | nothing | href target
link | M | nothing | href crossorigin rel media integrity hreflang type referrerpolicy sizes imagesrcset imagesizes as blocking color disabled fetchpriority
meta | M | nothing | name http-equiv content charset property media
style | M | text | media blocking type
body | | flow |
article section nav aside | FS | flow |
h1 h2 h3 h4 h5 h6 | FH | phrasing |
hgroup | FH | =h1 h2 h3 h4 h5 h6 p script template |
header footer address search | F | flow |
p | F | phrasing |
pre | F | phrasing |
hr | F | nothing |
blockquote | F | flow | cite
ol | F | =li script template | reversed start type
ul menu | F | =li script template |
li | | flow | value
dl | F | =dt dd div script template |
dt dd | | flow |
figure | F | flow |
figcaption | | flow |
main | F | flow |
div | F | flow |
a | FP | transparent | href target download ping rel hreflang type referrerpolicy
em strong small s cite abbr code var samp kbd sub sup i b u mark bdi bdo span dfn | FP | phrasing |
q | FP | phrasing | cite
data | FP | phrasing | value
time | FP | phrasing | datetime
ruby | FP | phrasing |
rt rp rb rtc | | phrasing |
br wbr | FP | nothing |
ins del | FP | transparent | cite datetime
picture | FP | =source img script template |
source | | nothing | type media src srcset sizes width height
img | FP | nothing | alt src srcset sizes crossorigin usemap ismap width height referrerpolicy decoding loading fetchpriority
iframe | FP | nothing | src srcdoc name sandbox allow allowfullscreen width height referrerpolicy loading
embed | FP | nothing | src type width height
object | FP | transparent | data type name form width height typemustmatch
param | | nothing | name value
video | FP | transparent | ${MEDIA} poster playsinline width height
audio | FP | transparent | ${MEDIA}
track | | nothing | kind src srclang label default
map | FP | transparent | name
area | FP | nothing | alt coords shape href target download ping rel referrerpolicy
table | F | =caption colgroup thead tbody tfoot tr script template |
caption | | flow |
colgroup | | =col template | span
col | | nothing | span
tbody thead tfoot | | =tr script template |
tr | | =td th script template |
td | | flow | colspan rowspan headers
th | | flow | colspan rowspan headers scope abbr
form | F | flow | accept-charset action autocomplete enctype method name novalidate target rel
label | FP | phrasing | for
input | FP | nothing | accept alpha alt autocomplete checked colorspace dirname disabled form formaction formenctype formmethod formnovalidate formtarget height list max maxlength min minlength multiple name pattern placeholder popovertarget popovertargetaction readonly required size src step type value width
button | FP | phrasing | command commandfor disabled form formaction formenctype formmethod formnovalidate formtarget name popovertarget popovertargetaction type value
select | FP | =option optgroup hr button script template noscript div | autocomplete disabled form multiple name required size
datalist | FP | phrasing |
optgroup | | =option legend script template noscript div | disabled label
option | | text | disabled label selected value
textarea | FP | text | autocomplete cols dirname disabled form maxlength minlength name placeholder readonly required rows wrap
output | FP | phrasing | for form name
progress | FP | phrasing | value max
meter | FP | phrasing | value min max low high optimum
fieldset | F | flow | disabled form name
legend | | phrasing |
details | F | flow | open name
summary | | phrasing |
dialog | F | flow | open closedby
script | MFPC | text | src type nomodule async defer crossorigin integrity referrerpolicy blocking fetchpriority
noscript | MFP | anything |
template | MFPC | anything | shadowrootmode shadowrootdelegatesfocus shadowrootclonable shadowrootserializable
slot | FP | transparent | name
canvas | FP | transparent | width height
`;

function table(): Map<string, ElementModel> {
  const found = new Map<string, ElementModel>();
  for (const row of ROWS.trim().split('\n')) {
    const [names = '', categories = '', content = '', attributes = ''] = row.split('|').map((x) => x.trim());
    const model = content.startsWith('=') ? content.slice(1).split(' ') : (content as ContentModel);
    for (const name of names.split(' '))
      found.set(name, { categories, content: model, attributes: attributes.split(/\s+/).filter(Boolean) });
  }
  return found;
}
export const HTML_ELEMENTS: ReadonlyMap<string, ElementModel> = table();

/** Elements that HTML had once, and what is used in their place (HTML §16.2). */
export const OBSOLETE_ELEMENTS: Readonly<Record<string, string>> = {
  acronym: 'abbr', applet: 'object', basefont: 'a style', bgsound: 'audio', big: 'a style', blink: 'a style', center: 'a style',
  dir: 'ul', font: 'a style', frame: 'iframe', frameset: 'iframe', isindex: 'input', keygen: 'input', listing: 'pre', marquee: 'a style',
  menuitem: 'button', multicol: 'a style', nextid: 'nothing', nobr: 'a style', noembed: 'object', noframes: 'iframe', plaintext: 'pre',
  param: 'attributes of object', rb: 'text within ruby', rtc: 'nested ruby', spacer: 'a style', strike: 's or del', tt: 'code or kbd', xmp: 'pre', image: 'img',
}; // prettier-ignore

/** Attributes that every element may have (HTML §3.2.6; XML; EPUB 3.3 §6.1.3). */
export const GLOBAL_ATTRIBUTES: ReadonlySet<string> = new Set(
  `accesskey autocapitalize autocorrect autofocus class contenteditable dir draggable enterkeyhint hidden id inert inputmode is itemid
  itemprop itemref itemscope itemtype lang nonce part popover role slot spellcheck style tabindex title translate writingsuggestions
  about content datatype inlist prefix property rel resource rev typeof vocab
  xml:lang xml:space xml:base epub:type epub:prefix epub:trigger ssml:ph ssml:alphabet`.split(/\s+/),
);
/** Of these, those of RDFa, which mean something only beside a `property` or `typeof` (RDFa 1.1 Core). */
export const RDFA: ReadonlySet<string> = new Set(
  'about content datatype inlist prefix property resource rev typeof vocab'.split(' '),
);

/** Attributes that HTML had once, by element; `*` for all (HTML §16.2). */
export const OBSOLETE_ATTRIBUTES: Readonly<Record<string, string>> = {
  a: 'charset coords datafld datasrc methods name rev shape urn',
  body: 'alink background bgcolor bottommargin leftmargin link marginheight marginwidth rightmargin text topmargin vlink',
  br: 'clear',
  caption: 'align',
  col: 'align char charoff valign width',
  colgroup: 'align char charoff valign width',
  div: 'align',
  dl: 'compact',
  embed: 'align hspace name vspace',
  form: 'accept',
  h1: 'align', h2: 'align', h3: 'align', h4: 'align', h5: 'align', h6: 'align',
  head: 'profile',
  hr: 'align color noshade size width',
  html: 'version',
  iframe: 'align allowtransparency frameborder framespacing hspace longdesc marginheight marginwidth scrolling vspace',
  img: 'align border hspace longdesc lowsrc name vspace',
  input: 'align border hspace usemap vspace',
  legend: 'align',
  li: 'type',
  link: 'charset methods rev target urn',
  meta: 'scheme',
  object: 'align archive border classid code codebase codetype declare hspace standby usemap vspace',
  ol: 'compact',
  p: 'align',
  pre: 'width',
  script: 'charset event for language',
  table: 'align bgcolor border bordercolor cellpadding cellspacing frame height rules summary width',
  tbody: 'align char charoff valign', tfoot: 'align char charoff valign', thead: 'align char charoff valign',
  td: 'abbr align axis bgcolor char charoff height nowrap scope valign width',
  th: 'align axis bgcolor char charoff height nowrap valign width',
  tr: 'align bgcolor char charoff valign',
  ul: 'compact type',
}; // prettier-ignore

/** Attributes that are there or not, whatever their value (HTML §2.3.2). */
export const BOOLEAN_ATTRIBUTES: ReadonlySet<string> = new Set(
  'allowfullscreen async autofocus autoplay checked controls default defer disabled formnovalidate inert ismap itemscope loop multiple muted nomodule novalidate open playsinline readonly required reversed selected'.split(
    ' ',
  ),
);
/** Attributes of whole numbers, by element, and the least that they may be (HTML §2.3.4). */
export const WHOLE_NUMBERS: Readonly<Record<string, Readonly<Record<string, number>>>> = {
  td: { colspan: 1, rowspan: 0 },
  th: { colspan: 1, rowspan: 0 },
  col: { span: 1 },
  colgroup: { span: 1 },
  img: { width: 0, height: 0 },
  video: { width: 0, height: 0 },
  iframe: { width: 0, height: 0 },
  embed: { width: 0, height: 0 },
  object: { width: 0, height: 0 },
  canvas: { width: 0, height: 0 },
  source: { width: 0, height: 0 },
  ol: { start: -Infinity },
  li: { value: -Infinity },
  textarea: { cols: 1, rows: 1 },
};
/** Attributes of a few words, by element; `*` for all (HTML §3.2.6, §4). */
export const KEYWORDS: Readonly<Record<string, Readonly<Record<string, readonly string[]>>>> = {
  '*': {
    dir: ['ltr', 'rtl', 'auto'],
    translate: ['yes', 'no', ''],
    hidden: ['', 'hidden', 'until-found'],
    contenteditable: ['true', 'false', 'plaintext-only', ''],
    draggable: ['true', 'false'],
    spellcheck: ['true', 'false', ''],
    'xml:space': ['default', 'preserve'],
  },
  ol: { type: ['1', 'a', 'A', 'i', 'I'] },
  th: { scope: ['row', 'col', 'rowgroup', 'colgroup'] },
  button: { type: ['submit', 'reset', 'button'] },
  img: { loading: ['lazy', 'eager'], decoding: ['sync', 'async', 'auto'] },
  area: { shape: ['circle', 'default', 'poly', 'rect'] },
  track: { kind: ['subtitles', 'captions', 'descriptions', 'chapters', 'metadata'] },
  audio: { preload: ['none', 'metadata', 'auto', ''] },
  video: { preload: ['none', 'metadata', 'auto', ''] },
  bdo: { dir: ['ltr', 'rtl'] },
};
/** What an element can’t be without (HTML §4). Alternatives are divided by a stroke. */
export const REQUIRED_ATTRIBUTES: Readonly<Record<string, readonly string[]>> = {
  img: ['src'],
  bdo: ['dir'],
  data: ['value'],
  track: ['src'],
  map: ['name'],
  object: ['data|type'],
  optgroup: ['label'],
  embed: ['src'],
  link: ['href|imagesrcset', 'rel|itemprop|property'],
  meter: ['value'],
};

export const isInteractive = (name: string, attrs: Record<string, string>): boolean =>
  /^(button|details|embed|iframe|label|select|textarea)$/.test(name) ||
  (name === 'a' && attrs.href !== undefined) ||
  ((name === 'audio' || name === 'video') && attrs.controls !== undefined) ||
  (name === 'img' && attrs.usemap !== undefined) ||
  (name === 'input' && attrs.type?.toLowerCase() !== 'hidden');
