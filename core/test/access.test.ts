/**
 * What ebooks state of their accessibility, against what they hold: each rule with a good and a bad file. The vocabulary is
 * that of EPUB Accessibility 1.1 (W3C) and of schema.org; criteria are those of WCAG 2.2.
 */
import { describe, expect, it } from 'vitest';
import { strFromU8, unzipSync } from 'fflate';
import type { Node } from 'prosemirror-model';
import { makeEbook } from '@pagina/make';
import { schema, type Book } from '../src/book';
import { accessReport, checkEpub } from '../src/check';
import { book, everyBlock, prose, section, threeChapters } from './fixtures/books';
import { FOREIGN, foreignEpub } from './fixtures/foreign';
import { png } from './fixtures/manuscript';
import { faultsOf } from './fixtures/checked';

const rulesOf = (parts: Record<string, string | Uint8Array>): string[] => {
  const r = checkEpub(foreignEpub(parts));
  return r.ok ? r.value.map((f) => f.rule) : ['refused'];
};
const FIRST = 'OPS/Text/first chapter.xhtml';
const text = (path: string): string => FOREIGN[path] as string;
const withBody = (piece: string): Record<string, string | Uint8Array> => ({
  ...FOREIGN,
  [FIRST]: text(FIRST).replace('</section>', `${piece}</section>`),
});
const withMeta = (piece: string): Record<string, string | Uint8Array> => ({
  ...FOREIGN,
  'OPS/book.opf': text('OPS/book.opf').replace('</opf:metadata>', `${piece}</opf:metadata>`),
});

describe('rules of accessibility', () => {
  it.each([
    [
      'access/alt',
      '<p><img src="../Images/we%C3%AFr.png" alt=""/></p>',
      '<p><img src="../Images/we%C3%AFr.png" alt="" role="presentation"/></p>',
    ],
    [
      'access/table-head',
      '<table><tr><td>Year</td><td>Pans</td></tr><tr><td>1850</td><td>40</td></tr></table>',
      '<table><tr><th scope="col">Year</th><th scope="col">Pans</th></tr><tr><td>1850</td><td>40</td></tr></table>',
    ],
    [
      'access/table-head',
      '<table><tr><td>a</td><td>b</td></tr><tr><td>c</td><td>d</td></tr></table>',
      '<table><tr><td>a</td><td>b</td></tr></table>',
    ],
    ['access/heading-level', '<h4>Deep</h4>', '<h3>Next</h3>'],
    [
      'access/link-words',
      '<p>See <a href="second.xhtml"></a>.</p>',
      '<p>See <a href="second.xhtml"><img src="../Images/we%C3%AFr.png" alt="the mill"/></a>.</p>',
    ],
  ])('%s', (rule, bad, good) => {
    expect(rulesOf(withBody(bad))).toContain(rule);
    expect(rulesOf(withBody(good))).not.toContain(rule);
  });
  it('access/untrue-statement', () => {
    const states = (feature: string) =>
      withMeta(`<opf:meta property="schema:accessibilityFeature">${feature}</opf:meta>`);
    expect(rulesOf(states('MathML'))).toContain('access/untrue-statement');
    expect(rulesOf(states('pageNavigation'))).not.toContain('access/untrue-statement');
    const noPages = text('OPS/nav.xhtml').replace(/<nav epub:type="page-list"[\s\S]*?<\/nav>/, '');
    expect(rulesOf({ ...states('pageNavigation'), 'OPS/nav.xhtml': noPages })).toContain(
      'access/untrue-statement',
    );
    const undescribed = withBody('<p><img src="../Images/we%C3%AFr.png" alt=""/></p>');
    expect(rulesOf(undescribed)).toContain('access/untrue-statement');
  });
  it('access/conformance', () => {
    const claims =
      '<opf:meta property="dcterms:conformsTo">EPUB Accessibility 1.1 - WCAG 2.2 Level AA</opf:meta>';
    const by = '<opf:meta property="a11y:certifiedBy">Ada Quill</opf:meta>';
    expect(rulesOf(withMeta(claims))).toContain('access/conformance');
    expect(rulesOf(withMeta(claims + by))).not.toContain('access/conformance');
    const bad = {
      ...withBody('<h4>Deep</h4>'),
      'OPS/book.opf': withMeta(claims + by)['OPS/book.opf'] as string,
    };
    expect(rulesOf(bad)).toContain('access/conformance');
    const report = accessReport(foreignEpub(bad));
    expect(report.ok && report.value).toMatchObject({
      claim: { standard: 'EPUB Accessibility 1.1 - WCAG 2.2 Level AA', by: 'Ada Quill' },
      obstacles: [{ rule: 'access/heading-level', file: FIRST }],
    });
  });
});

const para = (id: string, words: string): Node => schema.node('paragraph', { id }, [schema.text(words)]);
const cell = (id: string, words: string, head = false): Node =>
  schema.node('cell', { id, head }, [para(`${id}p`, words)]);
const withContent = (...content: Node[]): Book => {
  const b = book([
    {
      ...section('x', 'chapter', [], { title: 'One' }),
      content: schema.node('doc', null, [para('a', prose(40)), ...content]),
    },
  ]);
  return {
    ...b,
    record: { ...b.record, imprint: 'Slack Water Press' },
    pictures: [{ id: 'p1', name: 'p', type: 'image/png', width: 20, height: 20 }],
  };
};
const packageOf = async (b: Book): Promise<{ opf: string; bytes: Uint8Array }> => {
  const made = await makeEbook(b, 'ebook', { pictures: () => png(20, 20), print: null });
  if (!made.ok) throw new Error(made.refusal.message);
  return {
    opf: strFromU8(unzipSync(made.value.bytes)['EPUB/package.opf'] as Uint8Array),
    bytes: made.value.bytes,
  };
};
const CLAIM = 'dcterms:conformsTo';
const figure = (attrs: Record<string, unknown>): Node =>
  schema.node('figure', { id: 'f', picture: 'p1', ...attrs }, []);
const table = (head: boolean): Node =>
  schema.node('table', { id: 't' }, [
    schema.node('row', { id: 'r1' }, [cell('a1', 'Year', head), cell('b1', 'Pans', head)]),
    schema.node('row', { id: 'r2' }, [cell('a2', '1850'), cell('b2', '40')]),
  ]);

describe('what Pagina states of an ebook that it makes', () => {
  it('is that it conforms, and who says so, where nothing stands in the way', async () => {
    const { opf, bytes } = await packageOf(withContent(figure({ alt: 'A pan' }), table(true)));
    expect(opf).toContain(`<meta property="${CLAIM}">EPUB Accessibility 1.1 - WCAG 2.2 Level AA</meta>`);
    expect(opf).toContain('<meta property="a11y:certifiedBy">Slack Water Press</meta>');
    const report = accessReport(bytes);
    expect(report.ok && report.value.obstacles).toEqual([]);
    expect(faultsOf(bytes)).toEqual([]);
  });
  it.each([
    ['a picture that nobody has described', figure({ alt: '' }), 'access/alt'],
    ['a table without headings', table(false), 'access/table-head'],
    [
      'a subhead that skips a level',
      schema.node('subhead', { id: 's', level: 2 }, [schema.text('Deep')]),
      'access/heading-level',
    ],
  ])('claims nothing with %s, and the file says so too', async (_, block, rule) => {
    const { opf, bytes } = await packageOf(withContent(block));
    expect(opf).not.toContain(CLAIM);
    const report = accessReport(bytes);
    expect(report.ok && report.value.obstacles.map((f) => f.rule)).toEqual([rule]);
    const told = checkEpub(bytes);
    // That the ebook has no cover is another matter.
    expect(told.ok && told.value.map((f) => f.rule).filter((r) => r !== 'picture/cover-missing')).toEqual([
      rule,
    ]);
  });
  it('says of a picture that it only decorates where the author has said so, and not otherwise', async () => {
    const page = async (attrs: Record<string, unknown>): Promise<string> => {
      const parts = unzipSync((await packageOf(withContent(figure(attrs)))).bytes);
      return strFromU8(parts['EPUB/text/s001.xhtml'] as Uint8Array);
    };
    expect(await page({ alt: '', decorative: true })).toContain('alt="" role="presentation"');
    expect(await page({ alt: '' })).not.toContain('role="presentation"');
  });
  it('claims nothing where the author does not want it, of the older form, or with nobody to say so', async () => {
    const b = withContent();
    const as = (part: object, record: object = {}): Book => ({
      ...b,
      record: { ...b.record, ...record },
      editions: b.editions.map((e) => ({ ...e, ...part })) as Book['editions'],
    });
    expect((await packageOf(as({ conformance: false }))).opf).not.toContain(CLAIM);
    expect((await packageOf(as({ version: '2.0.1' }))).opf).not.toContain(CLAIM);
    expect((await packageOf(as({}, { imprint: '', contributors: [] }))).opf).not.toContain(CLAIM);
  });
  it('is agreed to by the checks of the file, whatever is in the book', async () => {
    const blocks = [
      figure({ alt: 'A pan' }),
      figure({ alt: '' }),
      figure({ alt: '', decorative: true }),
      table(true),
      table(false),
      schema.node('subhead', { id: 's1', level: 1 }, [schema.text('First')]),
      schema.node('subhead', { id: 's3', level: 3 }, [schema.text('Third')]),
    ];
    for (let mask = 0; mask < 1 << blocks.length; mask += 3) {
      const b = withContent(
        ...blocks
          .filter((_, i) => mask & (1 << i))
          .map((n, i) => n.type.create({ ...n.attrs, id: `b${i}` }, n.content)),
      );
      const { opf, bytes } = await packageOf(b);
      const report = accessReport(bytes);
      expect([mask, opf.includes(CLAIM)]).toEqual([mask, report.ok && report.value.obstacles.length === 0]);
      const found = checkEpub(bytes);
      expect(found.ok && found.value.filter((f) => /untrue|conformance/.test(f.rule))).toEqual([]);
    }
  });
  it('is claimed of a chapter in several files too, the later of which begin with a deep subhead', async () => {
    const blocks = Array.from({ length: 60 }, (_, i) => [
      schema.node('subhead', { id: `h${i}`, level: i === 0 ? 1 : i === 1 ? 2 : 3 }, [
        schema.text(`Part ${i}`),
      ]),
      para(`p${i}`, prose(1_200, i)),
    ]).flat();
    const { opf, bytes } = await packageOf(withContent(...blocks));
    expect(opf.match(/href="text\/s001[^"]*"/g)?.length).toBeGreaterThan(1);
    expect(opf).toContain(CLAIM);
    expect(faultsOf(bytes)).toEqual([]);
  });
  it('is that of its language, in English where it says what it holds', async () => {
    const three = threeChapters();
    const b = {
      ...three,
      sections: [...three.sections, everyBlock()],
      record: { ...three.record, language: 'de' },
      pictures: withContent().pictures,
    };
    expect((await packageOf(b)).opf).toContain('<meta property="schema:accessibilitySummary" xml:lang="en">');
  });
});
