/** For every rule of the book the least that breaks it, and what stands next to that and doesn't. */
import type { Mark, Node } from 'prosemirror-model';
import { schema, type Book, type Section, type SectionKind } from '../../src/book';
import { book, prose, section } from '../fixtures/books';

export interface BookCase {
  rule: string;
  bad: Book[];
  good: Book[];
}

const t = (text: string, ...marks: Mark[]): Node => schema.text(text, marks);
let ids = 0;
const p = (...content: (string | Node)[]): Node =>
  schema.node(
    'paragraph',
    { id: `b${++ids}` },
    content.filter((c) => c !== '').map((c) => (typeof c === 'string' ? t(c) : c)),
  );
const doc = (...blocks: (Node | string)[]): Node =>
  schema.node(
    'doc',
    null,
    blocks.map((b) => (typeof b === 'string' ? p(b) : b)),
  );
const sub = (level: number, text: string): Node =>
  schema.node('subhead', { id: `b${++ids}`, level }, text ? [t(text)] : []);
const fig = (attrs: Record<string, unknown>, caption = ''): Node =>
  schema.node(
    'figure',
    { id: `b${++ids}`, picture: 'pic', alt: 'Posts in the mud', ...attrs },
    caption ? [t(caption)] : [],
  );
const link = (target: string, kind = 'web'): Mark => schema.mark('link', { kind, target });
const note = (ref: string): Node => schema.node('note', { ref });
const noteBody = (id: string, text: string): Node => schema.node('noteBody', { id }, [p(text)]);

const FRAME = [section('t', 'title-page', []), section('c', 'copyright-page', [])];
const chapter = (id: string, ...blocks: (Node | string)[]): Section =>
  section(id, 'chapter', [], {
    title: `Chapter head ${id}`,
    ...(blocks.length > 0 ? { content: doc(...blocks) } : {}),
  });
const PICTURE = { id: 'pic', name: 'posts.jpg', type: 'image/jpeg' as const, width: 2400, height: 1600 };
const whole = (sections: Section[], more: Partial<Book> = {}): Book =>
  book([...FRAME, ...sections], { pictures: [PICTURE], ...more });
/** A book whose one chapter has these blocks. */
const of = (...blocks: (Node | string)[]): Book => whole([chapter('one', ...blocks)]);
const texts = (...paragraphs: string[]): Book[] => paragraphs.map((x) => of(x));
const kinds = (...of_: SectionKind[]): Book =>
  book(
    of_.map((k) =>
      section(k, k, k === 'chapter' || k === 'dedication' || k === 'preface' ? [prose(20)] : ['Words.'], {
        title: k,
      }),
    ),
  );
const record = (fields: Partial<Book['record']>, sections = [chapter('one', prose(20))]): Book => {
  const b = whole(sections);
  return { ...b, record: { ...b.record, ...fields } };
};
const many = (n: number, text: (i: number) => string): string[] =>
  Array.from({ length: n }, (_, i) => text(i));
const numbered = (...numbers: (number | null)[]): Book =>
  whole(numbers.map((number, i) => ({ ...chapter(`n${i}`, prose(20)), number })));
const lengths = (...words: number[]): Book => whole(words.map((n, i) => chapter(`l${i}`, prose(n, i + 1))));
const page = (kind: 'title-page' | 'copyright-page', ...lines: string[]): Book =>
  book([
    section('t', 'title-page', kind === 'title-page' ? lines : []),
    section('c', 'copyright-page', kind === 'copyright-page' ? lines : []),
    chapter('one', prose(20)),
  ]);
const isbns = (...numbers: string[]): Book => {
  const b = of(prose(20));
  return { ...b, editions: b.editions.map((e, i) => ({ ...e, isbn: numbers[i] ?? '' })) };
};
const FRENCH =
  'Il y avait dans la maison une grande table où les enfants se tenaient tous les soirs avec leur mère.';
const GERMAN =
  'Die Kinder saßen am Abend um den Tisch und hörten, wie der Wind über das Dach ging und nicht ruhen wollte.';
const lang = (tag: string): Mark => schema.mark('language', { tag });

export const BOOK_CASES: readonly BookCase[] = [
  { rule: 'record/no-title', bad: [record({ title: ' ' })], good: [of(prose(20))] },
  { rule: 'record/no-author', bad: [record({ contributors: [] })], good: [of(prose(20))] },
  {
    rule: 'record/year',
    bad: [record({ year: '26' })],
    good: [record({ year: '' }), record({ year: '2026' })],
  },
  // Made by hand after the ISBN Users' Manual: the check digit of 978316148410 is 0.
  {
    rule: 'record/keyword-astray',
    bad: [record({ keywords: ['submarines'] }), record({ keywords: ['the and of', 'xylophones of Peru'] })],
    good: [
      record({ keywords: ['tidal lighthouses'], description: 'A lighthouse.' }),
      record({ keywords: ['estuaries'], description: 'On the estuary of a river.' }),
      record({ keywords: ['café'], subtitle: 'Of CAFES and ferries' }),
      record({ keywords: ['war'], shortDescription: 'After the war.' }),
    ],
  },
  {
    rule: 'record/volume',
    bad: [
      record({ series: 'Estuary', volume: 'Book 2' }),
      record({ series: 'Estuary', volume: 'II' }),
      record({ volume: '2' }),
    ],
    good: [record({ series: 'Estuary', volume: '0.5' }), record({ series: 'Estuary' })],
  },
  {
    rule: 'record/published',
    bad: [record({ year: '2026', published: '2025-12-31' })],
    good: [
      record({ year: '2026', published: '2026-01-01' }),
      record({ year: '2026', published: '2027-01-01' }),
      record({ year: '', published: '2025-12-31' }),
    ],
  },
  {
    rule: 'record/ages',
    bad: [record({ ages: { from: 12, to: 8 } })],
    good: [record({ ages: { from: 8, to: 8 } }), record({ ages: { from: null, to: 8 } })],
  },
  {
    rule: 'record/adult-and-children',
    bad: [
      record({ adult: true, audience: 'children' }),
      record({ adult: true, ages: { from: 12, to: null } }),
    ],
    good: [record({ adult: true, ages: { from: 18, to: null } }), record({ audience: 'children' })],
  },
  {
    rule: 'record/subject-code',
    bad: [record({ subjects: ['FV', 'fiction'] })],
    good: [record({ subjects: ['FV', 'YFC', 'NHTB'] })],
  },
  {
    rule: 'record/invalid-isbn',
    bad: [isbns('9783161484101'), isbns('12345')],
    good: [isbns('978-3-16-148410-0')],
  },
  {
    rule: 'record/same-isbn',
    bad: [isbns('9783161484100', '978-3-16-148410-0')],
    good: [isbns('9783161484100'), isbns('', '')],
  },
  {
    rule: 'record/language',
    bad: [whole([chapter('one', ...many(6, () => FRENCH))])],
    good: [record({ language: 'fr' }, [chapter('one', ...many(6, () => FRENCH))]), of(prose(200))],
  },
  {
    rule: 'agree/title-page',
    bad: [page('title-page', 'The Cause-way', 'Ines Calloway')],
    good: [page('title-page', 'THE CAUSEWAY', 'by Ines Calloway'), page('title-page')],
  },
  {
    rule: 'agree/title-page-author',
    bad: [page('title-page', 'The Causeway', 'I. Calloway')],
    good: [page('title-page', 'The Causeway', 'a novel by Ines  Calloway')],
  },
  {
    rule: 'agree/title-page-subtitle',
    bad: [
      {
        ...page('title-page', 'The Causeway', 'Ines Calloway'),
        record: record({ subtitle: 'A Winter' }).record,
      },
    ],
    good: [
      {
        ...page('title-page', 'The Causeway', 'A WINTER', 'Ines Calloway'),
        record: record({ subtitle: 'A Winter' }).record,
      },
      page('title-page', 'The Causeway', 'Ines Calloway'),
    ],
  },
  {
    rule: 'agree/copyright-isbn',
    bad: [{ ...page('copyright-page', 'ISBN 978-3-16-148411-7'), editions: isbns('9783161484100').editions }],
    good: [
      {
        ...page('copyright-page', '© Ines Calloway, 2026. ISBN 978 3 16 148410 0'),
        editions: isbns('9783161484100').editions,
      },
    ],
  },
  {
    rule: 'agree/copyright-own-isbn',
    bad: [
      {
        ...page('copyright-page', 'ISBN 978-3-16-148410-0'),
        editions: isbns('9783161484100', '9789295055124').editions,
      },
    ],
    good: [
      {
        ...page('copyright-page', 'ISBN 978-3-16-148410-0 (print), 978-92-95055-12-4 (ebook)'),
        editions: isbns('9783161484100', '9789295055124').editions,
      },
    ],
  },
  {
    rule: 'agree/copyright-year',
    bad: [page('copyright-page', '© 2024 Ines Calloway')],
    good: [
      page('copyright-page', '© 2024, 2026 Ines Calloway'),
      page('copyright-page', 'By Ines Calloway. 978-3-16-148410-0'),
    ],
  },
  {
    rule: 'agree/edition-statement',
    bad: [
      page('copyright-page', '© 2026 Ines Calloway', 'Second edition, revised'),
      page('copyright-page', '© 2026 Ines Calloway', '2., überarbeitete Auflage 2026'),
      page('copyright-page', '© 2026 Ines Calloway', 'This is the 3rd enlarged and corrected edition.'),
      {
        ...page('copyright-page', '© 2026 Ines Calloway', 'Second edition'),
        record: record({ editionStatement: 'Third edition' }).record,
      },
      {
        ...page('copyright-page', '© 2026 Ines Calloway'),
        record: record({ editionStatement: 'Third edition' }).record,
      },
    ],
    good: [
      page('copyright-page', '© 2026 Ines Calloway', 'First edition'),
      page('copyright-page', '© 2026 Ines Calloway', '1. Auflage'),
      page('copyright-page', '© 2026 Ines Calloway', 'Edition design by Tidewrack. Paperback edition.'),
      {
        ...page('copyright-page', '© 2026 Ines Calloway', 'SECOND EDITION, 2026'),
        record: record({ editionStatement: 'Second edition' }).record,
      },
      { ...page('copyright-page'), record: record({ editionStatement: 'Second edition' }).record },
    ],
  },
  {
    rule: 'agree/copyright-holder',
    bad: [page('copyright-page', '© 2026 Somebody Else')],
    good: [page('copyright-page', '© 2026 INES CALLOWAY')],
  },
  {
    rule: 'order/no-title-page',
    bad: [kinds('copyright-page', 'chapter')],
    good: [kinds('title-page', 'copyright-page', 'chapter')],
  },
  {
    rule: 'order/no-copyright-page',
    bad: [kinds('title-page', 'chapter')],
    good: [kinds('title-page', 'copyright-page', 'chapter')],
  },
  {
    rule: 'order/out-of-order',
    bad: [
      kinds('copyright-page', 'title-page', 'chapter'),
      kinds('title-page', 'preface', 'dedication', 'chapter'),
      kinds('chapter', 'index', 'glossary'),
    ],
    good: [
      kinds(
        'half-title',
        'title-page',
        'copyright-page',
        'dedication',
        'contents',
        'preface',
        'chapter',
        'about-author',
        'glossary',
        'also-by',
        'index',
      ),
    ],
  },
  {
    rule: 'order/empty-section',
    bad: [whole([chapter('one', prose(9)), chapter('two')])],
    good: [whole([chapter('one', prose(9)), section('toc', 'contents', [])])],
  },
  {
    rule: 'order/empty-part',
    bad: [whole([section('p', 'part', [], { title: 'Water' }), chapter('one', prose(9))])],
    good: [
      whole([section('p', 'part', [], { title: 'Water' }), { ...chapter('one', prose(9)), parent: 'p' }]),
    ],
  },
  {
    rule: 'order/untitled-chapter',
    bad: [whole([{ ...chapter('one', prose(9)), title: '', numbered: false }])],
    good: [whole([{ ...chapter('one', prose(9)), title: '' }])],
  },
  {
    rule: 'order/doubled-number',
    bad: [whole([{ ...chapter('one', prose(9)), title: 'Chapter 3: The Boat' }])],
    good: [whole([{ ...chapter('one', prose(9)), title: 'Chapter 3: The Boat', numbered: false }])],
  },
  {
    rule: 'order/number-twice',
    bad: [
      numbered(1, 2, 2),
      whole([
        { ...chapter('one', prose(9)), title: 'Chapter 1', numbered: false },
        { ...chapter('two', prose(9)), title: 'Chapter One', numbered: false },
      ]),
    ],
    good: [numbered(null, null, 5)],
  },
  {
    rule: 'order/number-missing',
    bad: [numbered(1, 2, 4)],
    good: [numbered(1, 2, 3), numbered(null, null), numbered(3, null, 1)],
  },
  {
    rule: 'order/doubled-title',
    bad: [
      whole([
        { ...chapter('one', prose(9)), title: 'Home' },
        { ...chapter('two', prose(9)), title: 'home ' },
      ]),
    ],
    good: [
      whole([
        { ...chapter('one', prose(9)), title: '' },
        { ...chapter('two', prose(9)), title: '' },
      ]),
    ],
  },
  {
    rule: 'order/chapter-length',
    bad: [lengths(600, 600, 600, 600, 600, 600, 60), lengths(600, 600, 600, 600, 600, 600, 6000)],
    good: [
      lengths(600, 600, 600, 600, 600, 600, 300),
      lengths(600, 60),
      lengths(60, 60, 60, 60, 60, 60, 600),
    ],
  },
  {
    rule: 'heading/skipped-level',
    bad: [of('A.', sub(2, 'Two'), 'B.'), of(sub(1, 'One'), 'A.', sub(3, 'Three'), 'B.')],
    good: [of(sub(1, 'One'), 'A.', sub(2, 'Two'), 'B.', sub(1, 'One again'), 'C.')],
  },
  { rule: 'heading/empty', bad: [of(sub(1, ''), 'A.')], good: [of(sub(1, 'One'), 'A.')] },
  {
    rule: 'heading/nothing-below',
    bad: [of('A.', sub(1, 'One')), of(sub(1, 'One'), sub(1, 'Two'), 'B.')],
    good: [of(sub(1, 'One'), sub(2, 'Two'), 'B.')],
  },
  {
    rule: 'wording/repeated-word',
    bad: texts(
      'He went to the the gate.',
      'The the gate was shut.',
      'It was a\u00a0a long way.',
      'She said and and left.',
    ),
    good: [
      ...texts(
        'He had had enough.',
        'Duran Duran came.',
        'Very very slowly.',
        'the-the',
        'The theatre.',
        'A a line.',
        'the thethe',
      ),
      of(
        schema.node('verse', { id: 'v' }, [
          schema.node('stanza', { id: 's' }, [
            schema.node('verseLine', { id: 'l' }, [t('row row row your boat')]),
          ]),
        ]),
      ),
    ],
  },
  {
    rule: 'wording/no-capital',
    bad: [
      ...texts('It was late. he left.', 'The gate shut. and then nothing.'),
      of('The gate shut.', 'he waited.'),
    ],
    good: [
      ...texts(
        'Mr. smith, e.g. this, etc. and so on.',
        '“Late.” he said',
        'At 3 p.m. he left.',
        'Moved from EE.UU. a year ago.',
        'So (Anm. d. Ü.: dort).',
        'Wait … what? no! yes.',
      ),
      of('A list:', 'one thing'),
      of(p(t('iPhone')), 'eBay sold it.'),
    ],
  },
  {
    rule: 'wording/unclosed-quotation',
    bad: [...texts('“Come in, she said.', 'Come in,” she said.'), of('“And then', 'he left.')],
    good: [
      ...texts('“Come in,” she said. “Sit down.”', 'A board of 5’10”.'),
      of('“It was long ago.', '“And then he left.”'),
    ],
  },
  {
    rule: 'wording/doubled-sign',
    bad: texts('He came,, and went.', 'It was late..', 'Late,. he said.', 'So;, yes'),
    good: texts(
      'He waited …',
      'Wait...',
      'At etc., and so.',
      'In EE.UU., and (Anm. d. Ü.: dort).',
      'Costs .50, or 1,000.',
      'What?!',
    ),
  },
  {
    rule: 'wording/placeholder',
    bad: texts('The road TK was wet.', '[insert map]', 'See page XXXX.', 'What ???'),
    good: texts('Pope John XXIII.', 'tk, tk, said the hen', 'What??'),
  },
  {
    rule: 'wording/mixed-quotation-marks',
    bad: [
      of(...many(12, (i) => `“Yes ${i},” he said.`), '‘No,’ she said.'),
      of(...many(12, (i) => `‘Yes ${i},’ he said.`), '“No,” she said.', '«No», said the other.'),
    ],
    good: [of(...many(12, (i) => `“Yes ${i},” he said.`), '‘Tis late.'), of('“Yes.”', '‘No.’')],
  },
  {
    rule: 'wording/mixed-dashes',
    bad: [of(...many(12, (i) => `He came${i}—and went.`), 'He came – and went.')],
    good: [
      of(...many(12, (i) => `He came${i}—and went.`), 'From 1914–1918, well-known.'),
      of(...many(12, (i) => `He came${i} - and went.`), 'He came – and went.'),
    ],
  },
  {
    rule: 'wording/stray-space',
    bad: [...texts('He  came.', 'He came .', 'He\tcame.'), of('One.', '', 'Two.')],
    good: texts('He came. Then he went.'),
  },
  {
    rule: 'wording/typewriter-signs',
    bad: texts('He said "yes".', 'It’s late -- said he.', "It's late."),
    good: texts('“It’s late”—said he.'),
  },
  {
    rule: 'wording/hyphenated-and-not',
    bad: [of('The teacup fell. A tea-cup broke. Another tea-cup.')],
    good: [of('They re-sign and resign. A co-op and a coop.'), of('A tea-cup and a teaspoon.')],
  },
  {
    rule: 'wording/two-spellings',
    bad: [
      of('The colour and the color.'),
      of('They realise and realized it.'),
      of('A grey cat, a gray dog.'),
    ],
    good: [of('The colour of honour. They advise and surprise. The size of a prize.')],
  },
  {
    rule: 'wording/name-spelling',
    bad: [of(...many(12, () => 'Then Katharine came.'), 'But Katherine left.')],
    good: [
      of(...many(12, () => 'Then Russia came.'), 'A Russian left.'),
      of(...many(12, () => 'Then Story came.'), 'But Storm left.'),
      record({ language: 'de' }, [
        chapter('one', ...many(12, () => 'Dann kam das Pakete.'), 'Ein Paket blieb.'),
      ]),
      of(...many(12, () => 'Then Katharine came.'), 'Both Katharine and Katherine left.'),
      of(...many(12, () => 'So the Court rose.'), 'A Count left; the count did.'),
    ],
  },
  {
    rule: 'note/without-call',
    bad: [of('A.', noteBody('n', 'Lost.'))],
    good: [of(p('A', note('n'), '.'), noteBody('n', 'Found.'))],
  },
  {
    rule: 'note/without-text',
    bad: [of(p('A', note('n'), '.')), of(p('A', note('n')), noteBody('n', ''))],
    good: [of(p('A.', note('n')), noteBody('n', 'Found.'))],
  },
  {
    rule: 'note/typed-call',
    bad: [of(p('It was late.', t('12', schema.mark('super')), ' He left.')), of('It was late.[3] He left.')],
    good: [of(p('10 m', t('2', schema.mark('super')))), of('He said [sic] so.')],
  },
  {
    rule: 'note/call-before-sign',
    bad: [of(p('It was late', note('n'), '. He left.'), noteBody('n', 'Found.'))],
    good: [
      of(
        p('It was late.', note('n'), ' He left', note('m'), '—gone.'),
        noteBody('n', 'Found.'),
        noteBody('m', 'Too.'),
      ),
    ],
  },
  {
    rule: 'reference/dead-place',
    bad: [
      of(p(t('there', link('nowhere', 'place')))),
      of(p(schema.node('reference', { target: 'one#gone', words: 'page 3' }))),
    ],
    good: [of(p(t('there', link('one', 'place'))))],
  },
  {
    rule: 'reference/no-such-place',
    bad: [
      of('See chapter 31.'),
      of('As chapter XXX says.'),
      of('see chapter nine'),
      of('Figure 7 shows it.', fig({}, 'Figure 1. Posts')),
    ],
    good: [
      of('See chapter 1.'),
      of('Genesis chapter 31, and chapter 31 of the Koran.'),
      of('Figure 7 shows it.'),
      of('Halloran, chapter 6'),
      of('In chapter one.'),
    ],
  },
  {
    rule: 'reference/captions-out-of-order',
    bad: [
      of(fig({}, 'Figure 2. Posts'), fig({}, 'Figure 1. Mud')),
      of(fig({}, 'Fig. 1.2: Posts'), fig({}, 'Fig. 1.2: Mud')),
    ],
    good: [
      of(fig({}, 'Figure 1. Posts'), fig({}, 'Figure 2. Mud')),
      of(fig({}, 'Figure 1.9. Posts'), fig({}, 'Figure 1.10. Mud')),
    ],
  },
  {
    rule: 'reference/dead-address',
    bad: [
      'http://localhost:8080/x',
      'file:///C:/book.html',
      'http://example.com/shop',
      'https://nowhere',
      'mailto:me',
    ].map((a) => of(p(t('there', link(a))))),
    good: ['https://shingle-street.press/x?y=1#z', 'mailto:me@shingle-street.press'].map((a) =>
      of(p(t('there', link(a)))),
    ),
  },
  {
    rule: 'figure/no-alt',
    bad: [of('A.', fig({ alt: ' ' }))],
    good: [of('A.', fig({ alt: '', decorative: true }))],
  },
  {
    rule: 'figure/useless-alt',
    bad: ['image1', 'Picture 3', 'IMG_2041.JPG', 'a photo', '12', 'untitled']
      .map((alt) => of('A.', fig({ alt })))
      .concat(of(fig({ alt: 'Posts' }, 'Posts'))),
    good: ['A photo of the quay', 'Figure of a man', 'Bilder am Meer'].map((alt) => of('A.', fig({ alt }))),
  },
  { rule: 'figure/missing-file', bad: [of('A.', fig({ picture: 'gone' }))], good: [of('A.', fig({}))] },
  {
    rule: 'language/not-marked',
    bad: [of(prose(30), FRENCH), of(GERMAN)],
    good: [
      of(p(t(FRENCH, lang('fr')))),
      of('Il y avait une fois, he said, and smiled at the children of the house.'),
    ],
  },
  {
    rule: 'language/marked-wrongly',
    bad: [of(p(t(GERMAN, lang('fr'))))],
    good: [of(p(t(GERMAN, lang('de-AT'))))],
  },
];
