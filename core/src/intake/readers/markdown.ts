/** Markdown (CommonMark 0.31 with tables, strikethrough and footnotes) as a manuscript, by way of HTML. */
import { micromark } from 'micromark';
import { gfmFootnote, gfmFootnoteHtml } from 'micromark-extension-gfm-footnote';
import { gfmStrikethrough, gfmStrikethroughHtml } from 'micromark-extension-gfm-strikethrough';
import { gfmTable, gfmTableHtml } from 'micromark-extension-gfm-table';
import type { Outcome } from '../../base';
import { readHtml } from './html';
import type { RawManuscript } from '../raw';

/** Title, author and language from lines "title: …" between rows of dashes at the top, as many writers put them. */
const HEAD = /^---\r?\n([\s\S]*?)\r?\n---\r?\n/;

/** Errors: none. Raw HTML is shown as it is typed. */
export function readMarkdown(text: string): Outcome<RawManuscript> {
  const head = HEAD.exec(text);
  const body = head ? text.slice(head[0].length) : text;
  const html = micromark(body, {
    extensions: [gfmFootnote(), gfmStrikethrough(), gfmTable()],
    htmlExtensions: [gfmFootnoteHtml({ clobberPrefix: '' }), gfmStrikethroughHtml(), gfmTableHtml()],
  });
  const read = readHtml(struck(withoutNotesHeading(html)));
  if (!read.ok || !head) return read;
  const of = (key: string): string =>
    new RegExp(`^${key}:\\s*(.+)$`, 'im')
      .exec(head[1] as string)?.[1]
      ?.replace(/^["']|["']$/g, '')
      .trim() ?? '';
  const m = read.value;
  m.title = of('title') || m.title;
  m.author = of('author') || m.author;
  m.language = of('lang(?:uage)?') || m.language;
  return read;
}

/** Text struck through is text; `del` in a page is what an editor has deleted. */
const struck = (html: string): string => html.replace(/<(\/?)del>/g, '<$1s>');

/** The library heads its notes for screen readers; that is not the author's word. */
const withoutNotesHeading = (html: string): string =>
  html.replace(/<h2 id="footnote-label"[^>]*>.*?<\/h2>/, '');
