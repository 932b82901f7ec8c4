/**
 * What stands beside the text of an OpenDocument or a Rich Text file: entries for the index, comments, tracked changes,
 * languages, looks. The files are written by hand to OpenDocument 1.3, part 3, and to Rich Text Format 1.9.1; the sections
 * are named beside what they define.
 */
import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { readManuscript, type Intake, type ReadOptions } from '../src/intake';
import { prose } from './fixtures/books';
import { png } from './fixtures/manuscript';

async function read(bytes: Uint8Array, name: string, options: ReadOptions = {}): Promise<Intake> {
  const r = await readManuscript(bytes, name, options);
  if (!r.ok) throw new Error(r.refusal.message);
  const { wordsIn, wordsOut, setAside } = r.value;
  expect(setAside.filter((s) => s.rule === 'not-carried-over').map((s) => s.text)).toEqual([]);
  expect(wordsIn).toBe(wordsOut + setAside.reduce((n, s) => n + s.words, 0));
  return r.value;
}
const odt = (body: string, styles = ''): Uint8Array =>
  zipSync({
    mimetype: strToU8('application/vnd.oasis.opendocument.text'),
    'styles.xml': strToU8(
      `<office:document-styles xmlns:office="o" xmlns:style="s" xmlns:fo="f"><office:styles><style:default-style style:family="paragraph"><style:text-properties fo:language="en" fo:country="GB"/></style:default-style></office:styles></office:document-styles>`,
    ),
    'content.xml': strToU8(
      `<office:document-content xmlns:office="o" xmlns:style="s" xmlns:fo="f" xmlns:text="t" xmlns:dc="d" xmlns:table="b"><office:automatic-styles>${styles}</office:automatic-styles><office:body><office:text>${body}</office:text></office:body></office:document-content>`,
    ),
  });
const rtf = (body: string): Uint8Array => strToU8(`{\\rtf1\\ansi\\ansicpg1252\\deff0 ${body}}`, true);
const text = (i: Intake): string =>
  i.book.sections.map((s) => s.content.textBetween(0, s.content.content.size, '|', ' ')).join('||');
const marked = (i: Intake, mark: string): [string, unknown][] => {
  const found: [string, unknown][] = [];
  for (const s of i.book.sections)
    s.content.descendants((n) => {
      for (const m of n.marks)
        if (m.type.name === mark) found.push([n.text ?? '', m.attrs.term ?? m.attrs.tag ?? m.attrs.target]);
    });
  return found;
};
const said = (i: Intake, rule: string): string | undefined =>
  i.findings.find((f) => f.rule === rule)?.message;

describe('an OpenDocument text', () => {
  it('brings its entries for the index: at a place, with keys, and over words (§7.1.18 to §7.1.20)', async () => {
    const i = await read(
      odt(
        `<text:p>The old <text:alphabetical-index-mark text:string-value="capstan" text:key1="gear"/>windlass stood by the <text:alphabetical-index-mark-start text:id="I1" text:key1="places"/>north quay<text:alphabetical-index-mark-end text:id="I1"/> all year. ${prose(30, 1)}</text:p>`,
      ),
      'a.odt',
    );
    expect(marked(i, 'indexed')).toEqual([
      ['old', 'gear: capstan'],
      ['north quay', 'places: north quay'],
    ]);
  });
  it('lists its comments, with who wrote them and where (§14.1)', async () => {
    const i = await read(
      odt(
        `<text:p>He waited for the boat.<office:annotation><dc:creator>Mara</dc:creator><dc:date>2026-01-01T00:00:00</dc:date><text:p>Which<text:s/>boat?</text:p></office:annotation> It came. ${prose(20, 2)}</text:p>`,
      ),
      'a.odt',
    );
    expect(i.comments).toEqual([{ by: 'Mara', text: 'Which boat?', at: 'He waited for the boat.' }]);
    expect(text(i)).not.toContain('Which');
  });
  it('keeps the language of words, and tells of colours and highlighting', async () => {
    const style = (name: string, properties: string): string =>
      `<style:style style:name="${name}" style:family="text"><style:text-properties ${properties}/></style:style>`;
    const i = await read(
      odt(
        `<text:p>He said <text:span text:style-name="T1">guten Morgen</text:span>, <text:span text:style-name="T2">red</text:span> and <text:span text:style-name="T3">yellow</text:span> and <text:span text:style-name="T4">colour</text:span>. ${prose(30, 3)}</text:p>`,
        style('T1', 'fo:language="de" fo:country="DE"') +
          style('T2', 'fo:color="#cc0000"') +
          style('T3', 'fo:background-color="#ffff00"') +
          style('T4', 'fo:language="en" fo:country="US" fo:color="#000000"'),
      ),
      'a.odt',
    );
    expect(marked(i, 'language')).toEqual([['guten Morgen', 'de-DE']]);
    expect(said(i, 'intake/colours')).toBe(
      'Coloured text (1 place) and highlighting (1 place) became plain text.',
    );
  });

  describe('with tracked changes (§5.5)', () => {
    const region = (id: string, what: string): string =>
      `<text:changed-region xml:id="${id}" text:id="${id}">${what}</text:changed-region>`;
    const info = '<office:change-info><dc:creator>Kit</dc:creator></office:change-info>';
    const inserted = (id: string): string => region(id, `<text:insertion>${info}</text:insertion>`);
    const deleted = (id: string, content: string): string =>
      region(id, `<text:deletion>${info}${content}</text:deletion>`);
    const file = odt(
      `<text:tracked-changes>${deleted('d1', '<text:p>red</text:p>')}${inserted('i1')}${inserted('i2')}${deleted('d2', '<text:p> and sank.</text:p><text:p>Nobody saw it go. It</text:p>')}${inserted('i3')}</text:tracked-changes>` +
        `<text:p>The boat was <text:span text:style-name="x"><text:change text:change-id="d1"/><text:change-start text:change-id="i1"/>green</text:span><text:change-end text:change-id="i1"/> that year.</text:p>` +
        `<text:p>It came<text:change text:change-id="d2"/> was late.</text:p>` +
        `<text:p>One half<text:change-start text:change-id="i2"/> of it.</text:p><text:p>A new paragraph.</text:p><text:p>The other<text:change-end text:change-id="i2"/> of a sentence.</text:p>` +
        `<text:h>Head<text:change-start text:change-id="i3"/>ing</text:h><text:p>New <text:change-end text:change-id="i3"/>last words stand here.</text:p>`,
    );
    it('has them accepted, and counted', async () => {
      const i = await read(file, 'a.odt');
      expect(text(i)).toContain('The boat was green that year.|It came was late.|One half of it.|A new');
      expect(said(i, 'intake/tracked-changes')).toBe('5 tracked changes were accepted.');
    });
    it('has them rejected where the author wants that: paragraphs are parted and joined again', async () => {
      const i = await read(file, 'a.odt', { changes: 'reject' });
      expect(text(i)).toContain(
        'The boat was red that year.|It came and sank.|Nobody saw it go. It was late.|One half of a sentence.',
      );
      expect(text(i)).toContain('last words stand here.');
      expect(text(i)).not.toContain('New last');
      expect(said(i, 'intake/changes-taken-back')).toBeDefined();
      expect(said(i, 'intake/tracked-changes')).toBeUndefined();
    });
  });
});

describe('a Rich Text file', () => {
  it('brings its entries for the index: levels, entries that lead to others, and those over a bookmark', async () => {
    const i = await read(
      rtf(
        String.raw`The old windlass{\xe\pard\plain {\rtlch Gear\:capstan}} stood by the {\*\bkmkstart quay}north quay and its wall{\*\bkmkend quay} all year{\xe Places\:quay{\*\rxe quay}}{\xe Boat{\*\txe See Smack}}. ${prose(30, 1)}\par`,
      ),
      'a.rtf',
    );
    expect(marked(i, 'indexed')).toEqual([
      ['windlass', 'Gear: capstan'],
      ['north quay and its wall', 'Places: quay'],
    ]);
    expect(i.book.indexSee).toEqual([{ term: 'Boat', to: 'Smack' }]);
    expect(text(i)).toContain('The old windlass stood by the north quay and its wall all year.');
  });
  it('lists its comments, with who wrote them and where', async () => {
    const i = await read(
      rtf(
        String.raw`{\*\atrfstart 1}He waited for the boat.{\*\atrfend 1}{\*\atnid M}{\*\atnauthor Mara}\chatn{\*\annotation{\*\atnref 1}{\*\atndate 1}\pard\plain Which boat?\par} It came. ${prose(20, 2)}\par`,
      ),
      'a.rtf',
    );
    expect(i.comments).toEqual([{ by: 'Mara', text: 'Which boat?', at: 'He waited for the boat.' }]);
    expect(text(i)).not.toContain('Which');
  });
  it('has tracked changes accepted and counted, or rejected', async () => {
    const file = rtf(
      String.raw`{\pard The boat was {\deleted\deldttm1 red}{\revised\revauth1 green and white} that year, C:\\revised\\deleted. ${prose(20, 3)}\par {\revised Quite new.\par}}`,
    );
    const i = await read(file, 'a.rtf');
    expect(text(i)).toContain('The boat was green and white that year, C:\\revised\\deleted.');
    expect(said(i, 'intake/tracked-changes')).toBe('3 tracked changes were accepted.');
    const before = await read(file, 'a.rtf', { changes: 'reject' });
    expect(text(before)).toContain('The boat was red that year, C:\\revised\\deleted.');
    expect(text(before)).not.toContain('Quite new');
    expect(said(before, 'intake/changes-taken-back')).toBeDefined();
  });
  it('is in the language of most of its words; others are marked (identifiers: MS-LCID)', async () => {
    const i = await read(
      rtf(
        String.raw`\deflang1033\plain\lang1031 Er sagte {\lang1033 good morning} und ging. Danach kam niemand mehr an diesem Tag vorbei.\par\plain\lang1031 Es war still.\par`,
      ),
      'a.rtf',
    );
    expect(i.book.record.language).toBe('de');
    expect(marked(i, 'language')).toEqual([['good morning', 'en-US']]);
  });
  it('tells of coloured text and of highlighting once', async () => {
    const i = await read(
      rtf(
        String.raw`{\colortbl;\red0\green0\blue0;\red200\green0\blue0;}{\cf1 black} {\cf2 red} {\highlight2 marked} words. ${prose(20, 5)}\par`,
      ),
      'a.rtf',
    );
    expect(said(i, 'intake/colours')).toBe(
      'Coloured text (1 place) and highlighting (1 place) became plain text.',
    );
  });
  it('keeps the picture that shows an embedded object, and says where a formula is a field', async () => {
    const hex = Buffer.from(png(8, 8)).toString('hex');
    const i = await read(
      rtf(
        String.raw`Before it. ${prose(20, 6)}\par {\object\objemb{\*\objclass Equation.3}{\*\objdata 0105000002}{\result {\pict\pngblip ${hex}}}}\par Then {\field{\*\fldinst EQ \\f(a,b)}{\fldrslt }} and {\field{\*\fldinst EQ \\* jc2 \\o(a,b)}{\fldrslt }}.\par`,
      ),
      'a.rtf',
    );
    expect(i.book.pictures).toHaveLength(1);
    expect(said(i, 'intake/field-formulas')).toBe('1 formula was typed as a field and left out.');
  });
  it('has its words counted behind a picture in raw bytes, too', async () => {
    const bytes = png(4, 4);
    const head = strToU8(`{\\rtf1 Before.\\par{\\pict\\pngblip\\bin${bytes.length} `, true);
    const tail = strToU8(`}\\par After it come these words.\\par}`, true);
    const i = await read(Uint8Array.of(...head, ...bytes, ...tail), 'a.rtf');
    expect(i.wordsIn).toBe(6);
    expect(text(i)).toContain('After it come these words.');
  });
  it.each(['constructor', '__proto__', 'toString', 'hasOwnProperty'])(
    'with a control word named %s is read like any other',
    async (word) => {
      const i = await read(rtf(`{\\${word} words}{\\*\\${word} gone} stay.\\par`), 'a.rtf');
      expect(text(i)).toContain('stay.');
    },
  );
});
