/** The demo’s picture book: its words, and how each page is laid out. Invented, as all the demo is. */
import type { Node } from 'prosemirror-model';
import {
  editionsSchema,
  freshSection,
  layoutOf,
  newBook,
  schema,
  type Book,
  type PageLayout,
  type PicturePageAttrs,
  type Section,
  type TextBoxAttrs,
} from '@pagina/core/book';
import { recordSchema } from '@pagina/core/record';

interface PageOf {
  picture?: string;
  alt?: string;
  layout: PageLayout;
  across?: boolean;
  words?: string;
  box?: Partial<TextBoxAttrs>;
  page?: Partial<PicturePageAttrs>;
}

const PALE = '#f4ebd7';
const NIGHT = '#1f2f45';
const light = { colour: PALE } as const;

const STORY: PageOf[] = [
  {
    picture: 'home',
    layout: 'over',
    alt: 'A red and cream lighthouse on a green headland. A girl in a yellow coat waves; a goat grazes.',
    words: 'Tamsin lived at the end of the land, where the road gave up and the sea began.',
    box: { frame: [90, 90, 520, 200], stand: 'head' },
  },
  {
    picture: 'steps',
    layout: 'over',
    across: true,
    alt: 'A long stair winds up inside the tower. An old man climbs it, and the girl behind him.',
    words:
      'Every evening Grandfather climbed one hundred and twelve steps to light the lamp.\nEvery evening Tamsin counted them.',
    box: { frame: [45, 120, 215, 640] },
  },
  {
    picture: 'kitchen',
    layout: 'below',
    alt: 'The girl at a kitchen table with a red kettle. Evening in the window.',
    words: '“Who is it for?” she asked.',
    box: { align: 'centre' },
  },
  {
    picture: 'window',
    layout: 'below',
    alt: 'The old man at a window. Beyond it a boat on the evening sea.',
    words: '“For whoever is out there,” said Grandfather. “And for whoever is waiting.”',
    box: { align: 'centre' },
  },
  {
    picture: 'fogcomes',
    layout: 'above',
    alt: 'Bands of fog come in over the sea and the lighthouse.',
    words: 'One evening the fog came in on soft feet.',
    box: { align: 'centre', stand: 'foot' },
  },
  {
    picture: 'bell',
    layout: 'above',
    alt: 'Nothing but fog, and in it a red collar with a yellow bell.',
    words: 'It ate the rocks. It ate the path. It ate the goat, all but the bell.',
    box: { align: 'centre', stand: 'foot' },
  },
  {
    picture: 'dark',
    layout: 'over',
    across: true,
    alt: 'A black night. The tower stands on its headland, and no light in it.',
    words: 'And the lamp was dark.',
    box: { ...light, frame: [60, 420, 360, 160], size: 280, stand: 'middle' },
  },
  {
    picture: 'bay',
    layout: 'over',
    alt: 'The old man in his boat, far out on the night sea.',
    words: 'Grandfather was across the bay, with a mended net and the Tuesday post.',
    box: { ...light, frame: [90, 90, 820, 200], stand: 'head' },
  },
  {
    layout: 'words',
    words: '“A hundred and twelve,” said Tamsin, and she took the matches.',
    box: { ...light, size: 260, align: 'centre', stand: 'middle' },
    page: { ground: NIGHT },
  },
  {
    picture: 'stair1',
    layout: 'beside',
    alt: 'The girl on dark stairs, a small flame in her hand.',
    words: 'One, two, three.\nThe dark smelt of oil and rope.',
    box: { stand: 'middle', ...light },
    page: { ground: NIGHT },
  },
  {
    picture: 'stair2',
    layout: 'beside',
    alt: 'The girl higher up, passing a small window full of fog.',
    words: 'Forty, forty-one.\nThe wind knocked, and she did not let it in.',
    box: { stand: 'middle', ...light },
    page: { ground: NIGHT },
  },
  {
    picture: 'legs',
    layout: 'below',
    alt: 'The girl stands still, arms at her sides.',
    words: 'At ninety, her legs said no.',
    box: { align: 'centre', frame: [90, 830, 820, 90] },
    page: { ground: PALE, frame: [150, 60, 700, 740], fit: 'whole' },
  },
  {
    picture: 'joke',
    layout: 'below',
    alt: 'The girl with one arm up, telling the air a joke.',
    words: 'At ninety-one, she told them a joke.',
    box: { align: 'centre', frame: [90, 830, 820, 90] },
    page: { ground: PALE, frame: [150, 60, 700, 740], fit: 'whole' },
  },
  {
    picture: 'lampcold',
    layout: 'over',
    across: true,
    alt: 'The great lamp, unlit, taller than the girl who reaches out to it. Stars behind the glass.',
    words: 'One hundred and twelve.\nThe lamp was taller than she was, and as cold as a spoon.',
    box: { ...light, frame: [60, 90, 380, 240] },
  },
  {
    picture: 'match',
    layout: 'over',
    alt: 'The girl holds up a burning match.',
    words: 'She turned the small brass key. She struck a match.',
    box: { ...light, frame: [90, 60, 820, 130], stand: 'head', align: 'centre' },
  },
  {
    picture: 'smoke',
    layout: 'over',
    alt: 'The match has gone out; smoke curls up from it.',
    words: 'It went out.\nShe struck another.',
    box: { ...light, frame: [90, 60, 560, 180], stand: 'head' },
  },
  {
    picture: 'oh',
    layout: 'over',
    across: true,
    alt: 'The lamp is lit. Rays of yellow fill the whole spread; the girl throws up her arms.',
    words: '“Oh!”',
    box: {
      frame: [60, 110, 260, 240],
      size: 720,
      bold: true,
      align: 'centre',
      colour: PALE,
      stand: 'middle',
    },
  },
  {
    picture: 'turns',
    layout: 'over',
    alt: 'A beam of light over the sea. A small red boat turns toward it.',
    words: 'Far out, a boat turned its nose.',
    box: { ...light, frame: [90, 810, 820, 110] },
  },
  {
    picture: 'laughed',
    layout: 'over',
    alt: 'Two boats under the beam, the old man standing in one.',
    words: 'Far out, somebody laughed.',
    box: { ...light, frame: [90, 90, 820, 100] },
  },
  {
    picture: 'beard',
    layout: 'below',
    alt: 'In the kitchen the old man looks down at the girl.',
    words: '“Who was it for?” asked Grandfather, with the fog still in his beard.',
    box: { align: 'centre' },
  },
  {
    picture: 'waiting',
    layout: 'below',
    alt: 'Morning. Grandfather and the girl by the lighthouse, its lamp still lit.',
    words: '“For whoever was out there,” said Tamsin. “And for me. I was waiting.”',
    box: { align: 'centre' },
  },
  {
    picture: 'home2',
    layout: 'over',
    alt: 'A white goat with a bell at its neck, on the headland in the morning.',
    words: 'And the goat came home.',
    box: { align: 'centre', frame: [90, 110, 820, 120] },
  },
];

const TITLE: PageOf = {
  picture: 'title',
  layout: 'over',
  alt: 'A lighthouse shines on a starry night. A small girl stands at its foot.',
  words: '',
};

function page(
  { picture = '', alt = '', layout, across = false, words = '', box, page: own }: PageOf,
  id: string,
): Node {
  const frames = layoutOf(layout, across);
  const paragraphs = words
    .split('\n')
    .map((text, i) =>
      schema.node('paragraph', { id: `${id}-p${i + 1}` }, text === '' ? [] : [schema.text(text)]),
    );
  const boxes =
    words === ''
      ? []
      : [
          schema.node(
            'textBox',
            { id: `${id}-b`, frame: frames.words, face: 'Vollkorn', size: 220, ...box },
            paragraphs,
          ),
        ];
  return schema.node('picturePage', { id, picture, alt, across, frame: frames.picture, ...own }, boxes);
}

function titlePage(): Node {
  const title = page(TITLE, 'title-1');
  const words = (id: string, text: string, attrs: Partial<TextBoxAttrs>): Node =>
    schema.node('textBox', { id, face: 'Vollkorn', align: 'centre', colour: PALE, ...attrs }, [
      schema.node('paragraph', { id: `${id}-p` }, [schema.text(text)]),
    ]);
  return title.copy(
    title.content
      .addToEnd(
        words('title-b1', 'Tamsin Minds the Light', { frame: [90, 60, 820, 110], size: 400, bold: true }),
      )
      .addToEnd(
        words('title-b2', 'Words and pictures by Ivy Coldharbour', { frame: [90, 180, 820, 60], size: 150 }),
      )
      .addToEnd(words('title-b3', 'Tidewrack Press', { frame: [90, 915, 820, 50], size: 120 })),
  );
}

/** Pictures that the book shows, by their names in `scenes`. */
export const picturesShown = [TITLE, ...STORY].flatMap((p) => p.picture ?? []);

/** The book without files: its pictures are known by their names. */
export function pictureBook(): Book {
  const sections: Section[] = [
    freshSection('title', 'title-page', { content: schema.node('doc', null, [titlePage()]) }),
    freshSection('copyright', 'copyright-page'),
    freshSection('story', 'picture-pages', {
      title: 'Tamsin Minds the Light',
      content: schema.node(
        'doc',
        null,
        STORY.map((p, i) => page(p, `page-${i + 1}`)),
      ),
    }),
  ];
  const record = recordSchema.parse({
    title: 'Tamsin Minds the Light',
    language: 'en-GB',
    contributors: [{ name: 'Ivy Coldharbour', role: 'author' }],
  });
  const editions = editionsSchema.parse([
    {
      id: 'paperback',
      form: 'print',
      name: 'Paperback',
      purpose: 'For readers who buy it on paper, and for laps.',
      trim: '8.5 × 8.5 in',
      inks: 'colour',
      paper: 'white-90',
    },
    {
      id: 'pages',
      form: 'fixed',
      name: 'Picture-page ebook',
      purpose: 'For tablets: every page as it is printed.',
      of: 'paperback',
    },
    { id: 'ebook', form: 'reflow', name: 'Ebook', purpose: 'For telephones and small readers.' },
  ]);
  return { ...newBook('tamsin', record, sections), editions };
}
