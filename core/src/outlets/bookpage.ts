/**
 * A page about a book for its readers: every shop, the cover, the description, and the opening pages to read. One file of
 * HTML that stands by itself: no script, nothing that is fetched from elsewhere, and nothing that counts who reads it.
 */
import type { Mark, Node } from 'prosemirror-model';
import { escapeXml as escaped } from '../base';
import { sectionsIn, type Book, type Section } from '../book';
import { authorsLine, bareIsbn, descriptionHtml, plainDescription, type BookRecord } from '../record';
import type { ShopLink } from './shoplinks';

/** Words of the opening after which the paragraph that is begun is the last. */
const OPENING = 700;

export interface BookPageOptions {
  shops: readonly ShopLink[];
  /** Address of the cover's JPEG beside the page, and its pixels; null for none. */
  cover: { address: string; width: number; height: number } | null;
  /** Id of the edition whose opening can be read; null for none. */
  edition: string | null;
}

const TAGS: Readonly<Record<string, string>> = { emphasis: 'em', strong: 'strong', super: 'sup', sub: 'sub' };

function inlineHtml(node: Node): string {
  let html = '';
  node.forEach((child) => {
    if (child.isText) {
      const tags = child.marks.flatMap((m: Mark) => TAGS[m.type.name] ?? []);
      html += tags.reduce((inner, tag) => `<${tag}>${inner}</${tag}>`, escaped(child.text ?? ''));
    } else if (child.type.name === 'lineBreak') html += '<br>';
  });
  return html;
}
/** A block of text as HTML; '' for what an opening does without, such as pictures and tables. */
function blockHtml(node: Node): string {
  switch (node.type.name) {
    case 'paragraph':
      return node.content.size > 0 ? `<p>${inlineHtml(node)}</p>` : '';
    case 'quotation': {
      const inner = node.children.map(blockHtml).join('');
      return inner ? `<blockquote>${inner}</blockquote>` : '';
    }
    case 'verse':
      return node.children
        .filter((s) => s.type.name === 'stanza')
        .map((s) => `<p>${s.children.map(inlineHtml).join('<br>')}</p>`)
        .join('');
    case 'break':
      return '<hr>';
    default:
      return '';
  }
}
const wordsIn = (html: string): number =>
  html
    .replace(/<[^>]*>/g, ' ')
    .split(/\s+/)
    .filter(Boolean).length;

/** The first section of the body that has words of its own. */
const openingOf = (book: Book, edition: string): Section | undefined =>
  sectionsIn(book, edition).find(
    (s) => s.matter === 'body' && s.kind !== 'part' && s.content.textContent.trim() !== '',
  );

function openingHtml(book: Book, edition: string): string {
  const section = openingOf(book, edition);
  if (!section) return '';
  const blocks: string[] = [];
  let words = 0;
  for (const node of section.content.children) {
    const html = blockHtml(node);
    if (html === '') continue;
    blocks.push(html);
    words += wordsIn(html);
    if (words >= OPENING) break;
  }
  if (blocks.length === 0) return '';
  const head = section.title ? `<h3>${escaped(section.title)}</h3>` : '';
  return `<section class="opening"><h2>The opening</h2>${head}${blocks.join('\n')}</section>`;
}

function shopsHtml(shops: readonly ShopLink[]): string {
  if (shops.length === 0) return '';
  const items = shops.map(
    ({ shop, address, edition }) =>
      `<li><a href="${escaped(address)}" rel="noopener">${escaped(shop)}</a>${edition ? ` <span>${escaped(edition)}</span>` : ''}</li>`,
  );
  return `<section class="shops"><h2>Where to find it</h2><ul>${items.join('')}</ul></section>`;
}

function particulars(book: Book): string {
  const { record, editions } = book;
  const rows: [string, string][] = [
    ['Series', [record.series, record.volume].filter(Boolean).join(', ')],
    ['Published by', record.imprint || record.publisher],
    ['Day of publication', record.published],
    ...editions
      .filter((e) => e.isbn !== '' && e.form !== 'sample')
      .map((e): [string, string] => [e.name, `ISBN ${e.isbn || bareIsbn(e.isbn)}`]),
  ];
  const shown = rows.filter(([, value]) => value !== '');
  return shown.length === 0
    ? ''
    : `<dl>${shown.map(([name, value]) => `<dt>${escaped(name)}</dt><dd>${escaped(value)}</dd>`).join('')}</dl>`;
}

const STYLE = `:root{color-scheme:light dark}
body{margin:0 auto;max-width:44rem;padding:2rem 1.25rem 4rem;font:1.0625rem/1.55 Georgia,"Times New Roman",serif;color:#20242a;background:#fffdf8}
h1{font-size:2.2rem;line-height:1.15;margin:0}h2{font-size:1.05rem;margin:2.2rem 0 .5rem;border-top:1px solid #d6cfbf;padding-top:.9rem}h3{font-size:1.3rem;margin:.6rem 0}
.sub{font-size:1.2rem;margin:.3rem 0 0}.by{margin:.6rem 0 1.4rem;color:#585d63}
.cover{float:right;width:38%;max-width:15rem;height:auto;margin:0 0 1rem 1.5rem}
ul{list-style:none;padding:0;margin:0}li{padding:.45rem 0;border-bottom:1px solid #d6cfbf}li span,dt{color:#585d63}
a{color:#1c5a52}dl{display:grid;grid-template-columns:max-content 1fr;gap:.2rem 1.2rem;clear:both;margin-top:2.2rem;font-size:.95rem}dd{margin:0}
.opening p{margin:0;text-indent:1.4em;hyphens:auto}.opening h3+p,.opening hr+p,.opening h2+p{text-indent:0}hr{border:0;height:1.4em}
.shops,.opening{clear:both}
@media (prefers-color-scheme:dark){body{color:#ece6da;background:#1d1b18}a{color:#7fbfb2}.by,li span,dt{color:#b3aca0}h2,li{border-color:#3c3832}}
@media (max-width:30rem){.cover{float:none;display:block;width:70%;margin:0 auto 1.2rem}}`;

/** What engines and messengers show of the page. */
const heads = (record: BookRecord, cover: BookPageOptions['cover']): string =>
  [
    [
      'description',
      record.shortDescription || plainDescription(record.description).split('\n')[0]?.slice(0, 300) || '',
    ],
    ['author', authorsLine(record)],
  ]
    .filter(([, content]) => content !== '')
    .map(([name, content]) => `<meta name="${name}" content="${escaped(content ?? '')}">`)
    .concat(cover ? [`<meta property="og:image" content="${escaped(cover.address)}">`] : [])
    .join('\n');

export function bookPage(book: Book, { shops, cover, edition }: BookPageOptions): string {
  const { record } = book;
  const title = record.title || 'Untitled';
  const author = authorsLine(record);
  return [
    '<!doctype html>',
    `<html lang="${escaped(record.language || 'en')}">`,
    '<head>',
    '<meta charset="utf-8">',
    '<meta name="viewport" content="width=device-width, initial-scale=1">',
    `<title>${escaped(author ? `${title}, by ${author}` : title)}</title>`,
    heads(record, cover),
    `<style>${STYLE}</style>`,
    '</head>',
    '<body>',
    cover
      ? `<img class="cover" src="${escaped(cover.address)}" width="${cover.width}" height="${cover.height}" alt="The cover of ${escaped(title)}">`
      : '',
    `<h1>${escaped(title)}</h1>`,
    record.subtitle ? `<p class="sub">${escaped(record.subtitle)}</p>` : '',
    author ? `<p class="by">by ${escaped(author)}</p>` : '',
    descriptionHtml(record.description),
    shopsHtml(shops),
    edition ? openingHtml(book, edition) : '',
    particulars(book),
    '</body>',
    '</html>',
    '',
  ]
    .filter((line, i, all) => line !== '' || i === all.length - 1)
    .join('\n');
}

/** A short address as it is typed: letters, figures and hyphens. */
export const isPageName = (name: string): boolean => /^[a-z0-9](?:[a-z0-9-]{0,58}[a-z0-9])?$/.test(name);
