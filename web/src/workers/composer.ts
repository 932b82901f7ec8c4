/** Composes the book and draws its pages, off the page's own thread, by the same engine that makes the files. */
import { isPictured, shownBy, type Book } from '@pagina/core/book';
import { pagesFacts } from '@pagina/core/check';
import {
  compose,
  ComposeCache,
  DisplayIndex,
  displayList,
  drawnPage,
  LAST,
  pageOffsets,
  readableLines,
  textLines as linesOfText,
  type Composition,
  type Only,
  type TypeSource,
} from '@pagina/core/compose';
import { FALLBACKS, MONOSPACE, rowsOf } from '@pagina/core/design';
import { impressionOfPages } from '@pagina/core/proof';
import { familyOf, startHarfBuzz, type Face, type FaceFile, type FamilyFiles } from '@pagina/core/type';
import { addressOf } from './addresses';
import { coverShown } from './cover';
import { drawPage } from './draw';
import { Received } from './received';
import { foundOnPages } from './search';
import type {
  Composed,
  DrawAsked,
  FromWorker,
  Look,
  PlaceInPrint,
  ToChecker,
  ToWorker,
  Which,
} from './messages';

const post = (m: FromWorker, transfer: Transferable[] = []): void => self.postMessage(m, { transfer });
const bytes = async (path: string): Promise<Uint8Array> => {
  const r = await fetch(path);
  if (!r.ok) throw new Error(`${path} cannot be fetched`);
  return new Uint8Array(await r.arrayBuffer());
};

/** Faces by name. A family's files are all fetched before it is used, so that its faces can be opened at once. */
const faces = new Map<string, Promise<FaceFile>>();
function face(name: string): Promise<FaceFile> {
  let file = faces.get(name);
  if (!file) {
    file = bytes(`/type/${name.replaceAll(' ', '-')}.ttf`).then((b) => ({ name, bytes: b }));
    faces.set(name, file);
    // A failure is not kept: the next composition asks again.
    file.catch(() => faces.delete(name));
  }
  return file;
}
async function family(name: string): Promise<FamilyFiles> {
  const wanted: string[] = [];
  familyOf(
    name,
    (n) => {
      wanted.push(n);
      return { name: n, bytes: new Uint8Array(0) };
    },
    FALLBACKS,
    MONOSPACE,
  );
  const ready = new Map((await Promise.all(wanted.map(face))).map((f) => [f.name, f]));
  return familyOf(name, (n) => ready.get(n) as FaceFile, FALLBACKS, MONOSPACE);
}

let source: Promise<TypeSource> | null = null;
const open = async (): Promise<TypeSource> => ({
  harfbuzz: await startHarfBuzz(await bytes('/type/harfbuzz.wasm')),
  family,
});

const cache = new ComposeCache();
interface PagesSet {
  composition: Composition;
  generation: number;
}
/** What pages are drawn from. A specimen has blank pages where it was not set. */
const sets = new Map<Which, PagesSet>();
/** Pages of each section when the edition was last set, for specimens. */
const extents = new Map<string, ReadonlyMap<string, number>>();
let pictures = new Map<string, string>();
/** The book whose pages were set last. */
let setFrom: Book | null = null;
let generation = 0;
let wanted: { book: Book; edition: string } | null = null;
let look: Look | null = null;
/** Counted up by everything that makes work under way useless. */
let asked = 0;
let busy = false;
const received = new Received();
/** Hears of every book, and of its pages. */
let checker: MessagePort | null = null;
const tellChecker = (m: ToChecker): void => checker?.postMessage(m);

async function work(): Promise<void> {
  if (busy) return;
  busy = true;
  let done = 0;
  while (done !== asked && wanted) {
    done = asked;
    await composeAll(wanted.book, wanted.edition, done);
  }
  busy = false;
}

/** How long the worker may work without looking whether something newer was asked, in milliseconds. */
const BREATH = 12;
function breathing(turn: number): () => Promise<boolean> {
  let last = performance.now();
  return async () => {
    if (performance.now() - last < BREATH) return true;
    await new Promise<void>((go) => {
      const { port1, port2 } = new MessageChannel();
      port1.onmessage = () => go();
      port2.postMessage(null);
    });
    last = performance.now();
    return turn === asked;
  };
}

/** What is looked at first, then the whole book, then the design beside it. */
async function composeAll(book: Book, edition: string, turn: number): Promise<void> {
  pictures = new Map(book.pictures.flatMap((p) => (p.sha256 ? [[p.id, addressOf(p)]] : [])));
  const other = look?.beside ? besideOf(book, edition, look.beside) : null;
  const reckoned = { own: extentOf(edition), beside: other && extentOf(other.edition) };
  if (look) {
    await specimen('own', book, edition, look.sections, turn);
    if (other) await specimen('beside', other.book, other.edition, look.sections, turn);
  }
  const whole = await set(book, edition, turn);
  if (!whole) return;
  if ('message' in whole) {
    tellChecker({ type: 'pages', facts: null });
    return post({ type: 'refused', which: 'book', message: whole.message });
  }
  tellChecker({ type: 'pages', facts: pagesFacts(whole.composition, book) });
  setFrom = book;
  sets.set('book', { composition: whole.composition, generation: ++generation });
  post({ type: 'composed', composed: told(whole, book), generation });
  // The specimen's folios were reckoned from the pages that its sections had before.
  if (look && !sameExtent(reckoned.own, extentOf(edition)))
    await specimen('own', book, edition, look.sections, turn);
  if (!other) return;
  const second = await set(other.book, other.edition, turn);
  if (second && !('message' in second)) post({ type: 'beside', composed: told(second, other.book) });
  if (look && second && reckoned.beside && !sameExtent(reckoned.beside, extentOf(other.edition)))
    await specimen('beside', other.book, other.edition, look.sections, turn);
}

/** Pages that each section of an edition has, as far as is known; a design beside it has about as many. */
const extentOf = (edition: string): ReadonlyMap<string, number> =>
  extents.get(edition) ?? extents.get(edition.replace(/\/beside$/, '')) ?? new Map<string, number>();
const sameExtent = (a: ReadonlyMap<string, number>, b: ReadonlyMap<string, number>): boolean =>
  a.size === b.size && [...a].every(([section, pages]) => b.get(section) === pages);

/** The book with a second edition that is carried as the first is, in another design. */
function besideOf(
  book: Book,
  edition: string,
  design: NonNullable<Look['beside']>,
): { book: Book; edition: string } {
  const id = `${edition}/beside`;
  const own = book.editions.find((e) => e.id === edition);
  return {
    edition: id,
    book: {
      ...book,
      editions: own ? [...book.editions, { ...own, ...design, id }] : book.editions,
      sections: book.sections.map((s) =>
        s.leftOut.includes(edition) ? { ...s, leftOut: [...s.leftOut, id] } : s,
      ),
    },
  };
}

type Made = { composition: Composition; milliseconds: number } | { message: string };

/** Null when something newer was asked meanwhile. */
async function set(book: Book, edition: string, turn: number, only?: Only): Promise<Made | null> {
  if (turn !== asked) return null;
  const started = performance.now();
  const composed = await compose(book, edition, await (source ??= open()), {
    cache,
    only,
    breathe: breathing(turn),
  }).catch((e: unknown) => ({
    ok: false as const,
    refusal: { code: 'compose/failed', message: `The pages couldn’t be set: ${(e as Error).message}.` },
  }));
  if (!composed.ok)
    return composed.refusal.code === 'compose/stopped' ? null : { message: composed.refusal.message };
  const composition = composed.value;
  if (!only) extents.set(edition, pagesOfSections(composition));
  return { composition, milliseconds: performance.now() - started };
}

async function specimen(
  which: 'own' | 'beside',
  book: Book,
  edition: string,
  sections: readonly string[],
  turn: number,
): Promise<void> {
  const made = await set(book, edition, turn, { sections: new Set(sections), pages: extentOf(edition) });
  if (!made) return;
  if ('message' in made) return post({ type: 'refused', which, message: made.message });
  sets.set(which, { composition: made.composition, generation: ++generation });
  post({ type: 'specimen', which, specimen: told(made, book), generation });
}

function pagesOfSections(c: Composition): Map<string, number> {
  const counts = new Map<string, number>();
  for (const p of c.pages) if (!p.blank) counts.set(p.section, (counts.get(p.section) ?? 0) + 1);
  return counts;
}

/** Characters on a line that is full: not a paragraph's last. */
function charactersALine(c: Composition): number {
  let lines = 0;
  let characters = 0;
  for (const page of c.pages)
    for (const line of linesOfText(page.body)) {
      if (line.flags & LAST) continue;
      lines++;
      for (const w of line.words) characters += w === null ? 1 : (c.words.texts[w] ?? '').length;
    }
  return lines > 0 ? Math.round(characters / lines) : 0;
}

/** Pages that are laid out one by one, by their ids: one may have no words by which it could be found. */
function placesOfPages(c: Composition, { sections }: Pick<Book, 'sections'>): [string, PlaceInPrint][] {
  return sections.flatMap((s) => {
    const start = isPictured(s.content) ? c.pages[c.starts.get(s.id) ?? -1] : undefined;
    if (!start) return [];
    return pageOffsets(s.content, start.side).map(({ id, from }): [string, PlaceInPrint] => {
      const page = c.pages[start.index + from];
      return [id, [start.index + from, page?.label ?? '', 1]];
    });
  });
}

function told(
  { composition: c, milliseconds }: { composition: Composition; milliseconds: number },
  book: Pick<Book, 'sections'>,
): Composed {
  const { interior: i } = c;
  const places: Record<string, PlaceInPrint> = Object.fromEntries(placesOfPages(c, book));
  const ends: Record<string, string> = {};
  for (const page of c.pages)
    for (const { block, y } of linesOfText(page.body)) {
      const known = places[block];
      if (known) {
        if (known[1] !== page.label) ends[block] = page.label;
        continue;
      }
      const line = Math.max(1, Math.round((y - i.margins.top) / i.text.leading + 0.24));
      places[block] = [page.index, page.label, line];
    }
  return {
    edition: c.edition,
    pages: c.pages.map(({ index, side, label, section, blank, opens }) => ({
      index,
      side,
      label,
      section,
      blank,
      opens,
    })),
    width: i.trim.width / 1000,
    height: i.trim.height / 1000,
    rows: rowsOf(i),
    geometry: {
      inside: i.margins.inside / 1000,
      outside: i.margins.outside / 1000,
      top: i.margins.top / 1000,
      bottom: i.margins.bottom / 1000,
      leading: i.text.leading / 1000,
    },
    places,
    ends,
    report: c.report,
    characters: charactersALine(c),
    marks: [...c.marks],
    milliseconds: Math.round(milliseconds),
  };
}

self.onmessage = ({ data }: MessageEvent<ToWorker>): void => {
  if (data.type === 'find') {
    const whole = sets.get('book')?.composition;
    return post({ type: 'found', id: data.id, places: whole ? foundOnPages(whole, data.words) : [] });
  }
  if (data.type === 'impression') {
    const whole = sets.get('book')?.composition;
    const impression = whole && setFrom ? impressionOfPages(whole, setFrom) : null;
    return post({ type: 'impression', id: data.id, impression });
  }
  if (data.type === 'checker') {
    checker = data.port;
    return;
  }
  if (data.type === 'cover') {
    void (source ??= open())
      .then((s) => coverShown(data, s, cache))
      .catch((e: unknown) => ({ message: `The cover couldn’t be drawn: ${(e as Error).message}.` }))
      .then((cover) => post({ type: 'cover', id: data.id, cover }));
    return;
  }
  if (data.type !== 'draw') {
    // Taken in at once, also when a newer book comes before this one is set: the next may leave out what this one brings.
    if (data.type === 'book') {
      tellChecker({ type: 'book', book: data.book });
      wanted = { book: received.take(data.book), edition: data.edition };
    } else if (data.type === 'look') look = data.look;
    else if (wanted) {
      const { book, edition } = wanted;
      const tried = data.edition;
      wanted = {
        edition,
        book: { ...book, editions: book.editions.map((e) => (e.id === tried.id ? tried : e)) },
      };
    }
    asked++;
    void work();
    return;
  }
  // Every page asked for is answered, whatever comes of it: the next waits for that.
  draw(data).catch(() => post({ type: 'not-drawn', id: data.id }));
};

async function draw({ id, of, page: number, width, readable, generation: asked }: DrawAsked): Promise<void> {
  const from = sets.get(of);
  const page = from?.composition.pages[number];
  if (!from || !page || asked !== from.generation) return post({ type: 'not-drawn', id });
  const { words } = from.composition;
  const index = new DisplayIndex();
  const list = displayList(drawnPage(from.composition, page), words, index);
  const drawn = { faces: index.faces.map((n) => words.faces[n] as Face), pictures: index.pictures };
  const inColour = wanted !== null && shownBy(wanted.book, wanted.edition)?.inks === 'colour';
  const picture = await drawPage(list, drawn, pictures, width, inColour);
  post({ type: 'drawn', id, picture, lines: readable ? readableLines(list) : [] }, [picture]);
}
