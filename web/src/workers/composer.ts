/** Composes the book and draws its pages, off the page's own thread, by the same engine that makes the files. */
import { contentFromJson, type Book, type Section } from '@pagina/core/book';
import {
  compose,
  ComposeCache,
  DisplayIndex,
  displayList,
  drawnPage,
  textLines as linesOfText,
  type Composition,
  type TypeSource,
} from '@pagina/core/compose';
import { rowsOf } from '@pagina/core/design';
import { startHarfBuzz, type Face, type FaceFile } from '@pagina/core/type';
import { drawPage, textLines } from './draw';
import type { BookSent, Composed, FromWorker, PlaceInPrint, ToWorker } from './messages';

const post = (m: FromWorker, transfer: Transferable[] = []): void => self.postMessage(m, { transfer });
const bytes = async (path: string): Promise<Uint8Array> => {
  const r = await fetch(path);
  if (!r.ok) throw new Error(`${path} cannot be fetched`);
  return new Uint8Array(await r.arrayBuffer());
};

let source: Promise<TypeSource> | null = null;
async function open(): Promise<TypeSource> {
  const face = async (name: string, file: string): Promise<FaceFile> => ({
    name,
    bytes: await bytes(`/type/${file}`),
  });
  const [wasm, regular, italic, bold, boldItalic, fallback, monospace] = await Promise.all([
    bytes('/type/harfbuzz.wasm'),
    face('EB Garamond', 'EBGaramond_400Regular.ttf'),
    face('EB Garamond Italic', 'EBGaramond_400Regular_Italic.ttf'),
    face('EB Garamond Bold', 'EBGaramond_700Bold.ttf'),
    face('EB Garamond Bold Italic', 'EBGaramond_700Bold_Italic.ttf'),
    face('Gentium Book Plus', 'GentiumBookPlus_400Regular.ttf'),
    face('Source Code Pro', 'SourceCodePro_400Regular.ttf'),
  ]);
  return {
    harfbuzz: await startHarfBuzz(wasm),
    family: { name: 'EB Garamond', regular, italic, bold, boldItalic, fallback: [fallback], monospace },
  };
}

const cache = new ComposeCache();
let composition: Composition | null = null;
let pictures = new Map<string, string>();
let generation = 0;
let wanted: { book: Book; edition: string } | null = null;
let busy = false;
/** Texts of the sections by id: what is not sent again keeps its identity, and so its pages. */
let texts = new Map<string, Section['content']>();

function received({ sections, ...meta }: BookSent): Book {
  const before = texts;
  texts = new Map();
  const whole = sections.map((s) => {
    const content = s.content === null ? before.get(s.id) : contentFromJson(s.content);
    if (!content) throw new Error(`the text of a section was not sent`);
    texts.set(s.id, content);
    return { ...s, content };
  });
  return { ...meta, sections: whole };
}

async function work(): Promise<void> {
  if (busy) return;
  busy = true;
  while (wanted) {
    const now = wanted;
    wanted = null;
    try {
      await composeNow(now);
    } catch (e) {
      post({ type: 'refused', message: `The pages could not be set: ${(e as Error).message}.` });
    }
  }
  busy = false;
}

async function composeNow({ book, edition }: { book: Book; edition: string }): Promise<void> {
  const started = performance.now();
  const composed = await compose(book, edition, await (source ??= open()), { cache });
  if (!composed.ok) return post({ type: 'refused', message: composed.refusal.message });
  const c = composed.value;
  composition = c;
  pictures = new Map(
    book.pictures.flatMap((p) =>
      p.sha256
        ? [
            [
              p.id,
              `/api/files/${p.sha256}?type=${p.type.split('/')[1] === 'jpeg' ? 'jpg' : p.type.split('/')[1]}`,
            ],
          ]
        : [],
    ),
  );
  generation++;
  post({ type: 'composed', composed: told(c, performance.now() - started), generation });
}

function told(c: Composition, milliseconds: number): Composed {
  const { interior: i } = c;
  const places: Record<string, PlaceInPrint> = {};
  for (const page of c.pages)
    for (const { block, y } of linesOfText(page.body))
      places[block] ??= [
        page.index,
        page.label,
        Math.max(1, Math.round((y - i.margins.top) / i.text.leading + 0.24)),
      ];
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
    width: i.page.width / 1000,
    height: i.page.height / 1000,
    rows: rowsOf(i),
    geometry: {
      inside: i.margins.inside / 1000,
      outside: i.margins.outside / 1000,
      top: i.margins.top / 1000,
      bottom: i.margins.bottom / 1000,
      leading: i.text.leading / 1000,
    },
    places,
    report: c.report,
    marks: [...c.marks],
    missing: c.missing.map((m) => ({ char: m.char, ...m.place })),
    milliseconds: Math.round(milliseconds),
  };
}

self.onmessage = ({ data }: MessageEvent<ToWorker>): void => {
  if (data.type === 'book') {
    // Taken in at once, also when a newer book comes before this one is set: the next may leave out what this one brings.
    wanted = { book: received(data.book), edition: data.edition };
    void work();
    return;
  }
  const page = composition?.pages[data.page];
  if (!composition || !page || data.generation !== generation)
    return post({ type: 'not-drawn', id: data.id });
  const index = new DisplayIndex();
  const list = displayList(drawnPage(composition, page), composition.words, index);
  const drawn = {
    faces: index.faces.map((n) => composition?.words.faces[n] as Face),
    pictures: index.pictures,
  };
  drawPage(list, drawn, pictures, data.width, data.ink).then(
    (picture) => post({ type: 'drawn', id: data.id, picture, lines: textLines(list) }, [picture]),
    () => post({ type: 'not-drawn', id: data.id }),
  );
};
