/**
 * The front: a picture, and the record's words where the picture does not carry them. Title and author are as large as they
 * stand well; the title's lines are about as long as one another.
 */
import type { Mp } from '../base';
import { frontOf, type Picture } from '../book';
import type { Passage } from '../compose';
import type { Box } from '../pdf';
import { marginOf } from './geometry';
import { filling, type Pen } from './pen';

export interface FrontWords {
  title: string;
  subtitle: string;
  author: string;
}

/** Shares of the front's width: the largest and the least title. */
const TITLE = { most: 0.19, least: 0.055 };
const LINES = 4;
/** The picture's share of the height above a plate. */
const PLATE = 0.62;

interface SetTitle {
  line: Passage | null;
  title: Passage | null;
  subtitle: Passage | null;
  author: Passage | null;
  sizes: { line: Mp; title: Mp; subtitle: Mp; author: Mp };
  /** Of line, title and subtitle, from the top of the first letters to the last baseline. */
  depth: Mp;
}

/** Sets a front's words in a measure; the title no deeper than `room`. */
function setTitle(pen: Pen, words: FrontWords, width: Mp, measure: Mp, room: Mp): SetTitle {
  const { plan } = pen;
  const letters = {
    display: true,
    capitals: plan.letters === 'capitals',
    smallCaps: plan.letters === 'small-capitals',
  };
  const tracked = plan.letters !== 'as-written';
  const at = (size: Mp): Passage =>
    pen.set([words.title], {
      manner: { size, ...letters, tracking: tracked ? Math.round(size * 0.04) : 0, lining: true },
      measure,
      leading: Math.round(size * 1.04),
      align: 'centre',
      balance: true,
    });
  let size = plan.titleSize ?? Math.round((width * TITLE.most) / 500) * 500;
  let title = words.title ? at(size) : null;
  const least = Math.round(width * TITLE.least);
  // Tried from the largest down: a title is a few words.
  while (
    title &&
    plan.titleSize === null &&
    size > least &&
    (title.broken || title.lines > LINES || title.depth > room)
  ) {
    size -= 1_000;
    title = at(size);
  }
  const small = Math.max(9_000, Math.min(Math.round(width * 0.036), Math.round(size * 0.5)));
  const sizes = {
    line: Math.round(small * 0.86),
    title: size,
    subtitle: small,
    author: Math.round(small * 1.06),
  };
  const line = plan.line.trim()
    ? pen.set([plan.line.trim()], {
        manner: { size: sizes.line, italic: true },
        measure,
        leading: Math.round(sizes.line * 1.3),
        align: 'centre',
        balance: true,
      })
    : null;
  const subtitle =
    plan.subtitle && words.subtitle
      ? pen.set([words.subtitle], {
          manner: { size: sizes.subtitle, italic: true },
          measure,
          leading: Math.round(sizes.subtitle * 1.3),
          align: 'centre',
          balance: true,
        })
      : null;
  const author =
    plan.author && words.author
      ? pen.set([words.author], {
          manner: {
            size: sizes.author,
            display: true,
            capitals: true,
            tracking: Math.round(sizes.author * 0.12),
          },
          measure,
          leading: Math.round(sizes.author * 1.35),
          align: 'centre',
          balance: true,
        })
      : null;
  const depth =
    (line ? pen.capital(sizes.line) + line.depth + gap(size) : 0) +
    (title ? pen.capital(size) + title.depth : 0) +
    (subtitle ? gap(size) + pen.capital(sizes.subtitle) + subtitle.depth : 0);
  return { line, title, subtitle, author, sizes, depth };
}

/** Between the title and the lines above and below it. */
const gap = (title: Mp): Mp => Math.round(title * 0.42);

/** Lays line, title and subtitle down from `top`; answers where they end. */
function layTitle(pen: Pen, t: SetTitle, box: Box, top: Mp): Mp {
  const { ink } = pen.plan;
  let y = top;
  if (t.line) {
    y += pen.capital(t.sizes.line);
    pen.words(t.line, box.x, y, ink);
    y += t.line.depth + gap(t.sizes.title);
  }
  const from = y;
  if (t.title) {
    y += pen.capital(t.sizes.title);
    pen.words(t.title, box.x, y, ink);
    y += t.title.depth;
  }
  if (t.subtitle) {
    y += gap(t.sizes.title) + pen.capital(t.sizes.subtitle);
    pen.words(t.subtitle, box.x, y, ink);
    y += t.subtitle.depth;
  }
  pen.part('title', { x: box.x, y: from, width: box.width, height: Math.max(1, y - from) });
  return y;
}

/** Lays the author down with the last baseline at `foot`. */
function layAuthor(pen: Pen, t: SetTitle, box: Box, foot: Mp): void {
  if (!t.author) return;
  const y = foot - t.author.depth;
  const cap = pen.capital(t.sizes.author);
  pen.words(t.author, box.x, y, pen.plan.ink);
  pen.part('author', { x: box.x, y: y - cap, width: box.width, height: cap + t.author.depth });
}

const rule = (pen: Pen, box: Box, y: Mp, share: number): void => {
  const width = Math.round(box.width * share);
  pen.fill({ x: box.x + ((box.width - width) >> 1), y, width, height: 750 }, pen.plan.accent);
};

/**
 * Draws the front; answers whether its words have room. `box` is the front as cut, `bleeding` with what is cut off of it;
 * the ground is drawn already.
 */
export function drawFront(
  pen: Pen,
  words: FrontWords,
  picture: Picture | null,
  box: Box,
  bleeding: Box,
): boolean {
  const { plan } = pen;
  const front = frontOf(plan.front, picture);
  pen.part('front', box);
  const margin = marginOf(box.width);
  const inner: Box = {
    x: box.x + margin,
    y: box.y + margin,
    width: box.width - 2 * margin,
    height: box.height - 2 * margin,
  };
  const foot = inner.y + inner.height;
  if (front === 'bare' && picture) {
    pen.picture(picture.id, filling(picture, bleeding, plan.focus), bleeding);
    return true;
  }
  const set = setTitle(pen, words, box.width, inner.width, Math.round(box.height * 0.34));
  const authorDepth = set.author ? pen.capital(set.sizes.author) + set.author.depth : 0;
  /** Words that end at `end` keep off the author below them, and none is broken. */
  const keeps = (end: Mp, below: Mp): boolean =>
    end + Math.round(margin * 0.4) <= below &&
    ![set.title, set.subtitle, set.author, set.line].some((w) => w?.broken);
  if (front === 'plate' && picture) {
    const deep = Math.max(Math.round(box.height * (1 - PLATE)), set.depth + Math.round(margin * 3));
    const clip = { ...bleeding, height: box.y + box.height - deep - bleeding.y };
    pen.picture(picture.id, filling(picture, clip, plan.focus), clip);
    const head = clip.y + clip.height;
    pen.fill({ ...clip, y: head, height: 1_500 }, plan.accent);
    const room = foot - authorDepth - head;
    const top = head + Math.max(Math.round(margin * 0.8), (room - set.depth) >> 1);
    const end = layTitle(pen, set, inner, top);
    layAuthor(pen, set, inner, foot);
    return clip.height > 0 && keeps(end, foot - authorDepth);
  }
  if (front === 'window' && picture) {
    const end = layTitle(pen, set, inner, inner.y);
    const around = Math.round(margin * 0.8);
    const window = {
      x: inner.x,
      y: end + around,
      width: inner.width,
      height: foot - authorDepth - around - (end + around),
    };
    if (window.height > 0) {
      pen.picture(picture.id, filling(picture, window, plan.focus), window);
      pen.frame(window, plan.accent, 1_000);
    }
    layAuthor(pen, set, inner, foot);
    return window.height > margin && keeps(end, foot - authorDepth);
  }
  if (front === 'band' && picture) {
    pen.picture(picture.id, filling(picture, bleeding, plan.focus), bleeding);
    const pad = Math.round(margin * 0.75);
    const author = set.author ? authorDepth + pad : 0;
    const band = {
      x: bleeding.x,
      y: 0,
      width: bleeding.width,
      height: set.depth + author + 2 * pad,
    };
    band.y = Math.min(box.y + Math.round(box.height * 0.58), box.y + box.height - band.height - margin);
    pen.fill(band, plan.ground);
    for (const y of [band.y, band.y + band.height - 1_500])
      pen.fill({ ...band, y, height: 1_500 }, plan.accent);
    const end = layTitle(pen, set, inner, band.y + pad);
    layAuthor(pen, set, inner, end + author);
    return band.y >= inner.y && keeps(end, foot);
  }
  if (picture) pen.picture(picture.id, filling(picture, bleeding, plan.focus), bleeding);
  else {
    // Words alone want an edge: two fine lines, as on a title page of old.
    const edge = Math.round(margin * 0.5);
    const frame = {
      x: box.x + edge,
      y: box.y + edge,
      width: box.width - 2 * edge,
      height: box.height - 2 * edge,
    };
    pen.frame(frame, plan.accent, 1_500);
    const fine = 3_500;
    pen.frame(
      {
        x: frame.x + fine,
        y: frame.y + fine,
        width: frame.width - 2 * fine,
        height: frame.height - 2 * fine,
      },
      plan.accent,
      500,
    );
  }
  const end = layTitle(pen, set, inner, box.y + Math.round(box.height * (picture ? 0.11 : 0.2)));
  if (!picture) rule(pen, inner, end + Math.round(margin * 0.9), 0.18);
  const last = foot - (picture ? 0 : Math.round(margin * 0.6));
  layAuthor(pen, set, inner, last);
  return keeps(end, last - authorDepth);
}
