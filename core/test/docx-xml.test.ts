/** The XML of a .docx (ECMA-376 part 1) beside the library that reads it: what is marked, and what is left out. */
import { describe, expect, it } from 'vitest';
import { parseXml, type XmlElement } from '@pagina/core/base';
import { markParagraphs, MARK } from '../src/intake/readers/docx-xml';

const W = 'http://schemas.openxmlformats.org/wordprocessingml/2006/main';
const document = (body: string): string => `<w:document xmlns:w="${W}"><w:body>${body}</w:body></w:document>`;
const all = (xml: string): XmlElement[] => {
  const read = parseXml(xml);
  expect(read.fault).toBeNull();
  const out: XmlElement[] = [];
  const walk = (e: XmlElement): void => {
    out.push(e);
    for (const c of e.children) if (typeof c !== 'string') walk(c);
  };
  walk(read.root as XmlElement);
  return out;
};
const bookmarks = (xml: string): (string | undefined)[] =>
  all(xml)
    .filter((e) => e.name === 'bookmarkStart')
    .map((e) => e.attrs['w:name']);

describe('paragraphs of a document', () => {
  it('are marked where there is something to say of them', () => {
    const { xml, facts, fault } = markParagraphs(
      document(
        '<w:p><w:r><w:t>plain</w:t></w:r></w:p>' +
          '<w:p><w:pPr><w:outlineLvl w:val="0"/></w:pPr><w:r><w:t>first level</w:t></w:r></w:p>' +
          '<w:p/>' +
          '<w:p><w:pPr><w:pageBreakBefore/></w:pPr></w:p>' +
          '<w:p><w:r><w:rPr><w:lang w:val="fr-FR"/></w:rPr><w:t>bonjour</w:t></w:r></w:p>' +
          '<w:p><w:pPr><w:sectPr/></w:pPr></w:p>',
      ),
    );
    expect(fault).toBeNull();
    expect(facts).toMatchObject([
      {},
      { outline: 1 },
      {},
      { breakBefore: true },
      { language: 'fr-FR' },
      { sectionEnd: true },
    ]);
    expect(bookmarks(xml)).toEqual([1, 3, 4, 5].map((n) => `${MARK}${n}`));
  });
  it('are told apart where one stands in another, as in a text box', () => {
    const inner = '<w:p><w:pPr><w:outlineLvl w:val="1"/></w:pPr><w:r><w:t>in the box</w:t></w:r></w:p>';
    const { xml, facts } = markParagraphs(
      document(
        `<w:p><w:r><w:pict><w:txbxContent>${inner}</w:txbxContent></w:pict></w:r><w:r><w:rPr><w:lang w:val="de-DE"/></w:rPr><w:t>around</w:t></w:r></w:p>`,
      ),
    );
    expect(facts).toMatchObject([
      { language: 'de-DE', outline: null },
      { language: '', outline: 2 },
    ]);
    expect(bookmarks(xml)).toEqual([`${MARK}0`, `${MARK}1`]);
  });
  it('keep their marks under any prefix, and under none', () => {
    for (const prefix of ['x:', '']) {
      const declared = prefix ? `xmlns:x="${W}"` : `xmlns="${W}"`;
      const body = '<w:p><w:pPr><w:outlineLvl w:val="2"/></w:pPr></w:p>'.replaceAll('w:', prefix);
      const { xml, facts } = markParagraphs(
        `<${prefix}document ${declared}><${prefix}body>${body}</${prefix}body></${prefix}document>`,
      );
      expect(facts[0]?.outline, prefix).toBe(3);
      expect(all(xml).filter((e) => e.name === 'bookmarkStart')).toHaveLength(1);
    }
  });
});

describe('what nobody reads', () => {
  const said =
    '<w:p w:rsidR="00A1" w:rsidRDefault="00B2" w14:paraId="5E" xmlns:w14="urn:x"><w:pPr><w:keepNext/><w:spacing w:after="0"/><w:jc w:val="center"/></w:pPr>' +
    '<w:proofErr w:type="spellStart"/><w:r w:rsidRPr=\'00C3\'><w:rPr><w:b/><w:bCs/><w:sz w:val="24"/><w:szCs w:val="24"/><w:lang w:val="en-GB"/></w:rPr><w:t xml:space="preserve"> a &lt;w:bCs/&gt; b </w:t></w:r></w:p>';
  it('is deleted, and all else stands as it stood', () => {
    const { xml } = markParagraphs(document(said));
    expect(all(xml).map((e) => e.name)).toEqual(
      'document body p bookmarkStart pPr jc r rPr b sz t'.split(' '),
    );
    expect(xml).toContain('<w:t xml:space="preserve"> a &lt;w:bCs/&gt; b </w:t>');
    expect(xml).toContain('<w:jc w:val="center"/>');
    expect(xml).not.toMatch(/rsid|paraId/);
  });
  it('stays where it is not empty, or not of the format', () => {
    const kept = '<w:p><w:color w:val="FF0000">words</w:color><color xmlns="urn:other"/></w:p>';
    expect(markParagraphs(document(kept)).xml).toBe(document(kept));
  });
  it('makes no difference to text that only looks like it', () => {
    const kept = `<w:p><w:r><w:t> w:rsidR="1" and 'w:rsidR="2"'</w:t></w:r></w:p>`;
    expect(markParagraphs(document(kept)).xml).toBe(document(kept));
  });
});

it('says what is wrong with XML that is not well-formed', () => {
  for (const xml of ['<w:p>', document('<w:p><w:r></w:p>'), document('<x:p/>'), '', document('<w:p a="<"/>')])
    expect(markParagraphs(xml).fault, xml).not.toBeNull();
});
