/** Checks the book and its set pages, off the page's own thread. The composing worker tells it of both. */
import type { Finding } from '@pagina/core/base';
import type { Book } from '@pagina/core/book';
import { checkBook, checkPages, inOrder, type PagesFacts } from '@pagina/core/check';
import type { ToChecker } from './messages';
import { Received } from './received';

/** How long typing must rest before the book is checked again, and how long the first pages are waited for, in milliseconds. */
const REST = 300;
const FIRST = 8_000;

const received = new Received();
let book: Book | null = null;
let pages: PagesFacts | null = null;
let timer: ReturnType<typeof setTimeout> | undefined;
let last = '';

function check(): void {
  if (!book) return;
  let found: Finding[];
  try {
    found = inOrder(book, [...checkBook(book), ...(pages ? checkPages(book, pages) : [])]);
  } catch (e) {
    // One rule that fails on one book must not silence the others for good.
    console.error(e);
    return;
  }
  // Most pauses in typing change no finding.
  const now = JSON.stringify(found);
  if (now === last) return;
  last = now;
  postMessage(found);
}
function soon(wait: number): void {
  clearTimeout(timer);
  timer = setTimeout(check, wait);
}

function hear({ data }: MessageEvent<ToChecker>): void {
  if (data.type === 'book') {
    book = received.take(data.book);
    // The pages of a book that was just opened come first: setting them takes both of a small machine's threads.
    soon(pages || last ? REST : FIRST);
  } else {
    pages = data.facts;
    soon(last ? REST : 0);
  }
}

addEventListener('message', ({ data }: MessageEvent<MessagePort>) => {
  data.onmessage = hear;
});
