/** A work of non-fiction as WordprocessingML written by hand: typed contents, figures, lists, quotations, appendices. */
import { strToU8, zipSync } from 'fflate';
import { crc32, deflateSync } from 'node:zlib';
import type { Made, Truth } from './truth';

const xml = (t: string): string => t.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/"/g, '&quot;');
const NAMESPACES = [
  ['w', 'http://schemas.openxmlformats.org/wordprocessingml/2006/main'],
  ['r', 'http://schemas.openxmlformats.org/officeDocument/2006/relationships'],
  ['wp', 'http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing'],
  ['a', 'http://schemas.openxmlformats.org/drawingml/2006/main'],
  ['pic', 'http://schemas.openxmlformats.org/drawingml/2006/picture'],
]
  .map(([p, uri]) => `xmlns:${p}="${uri}"`)
  .join(' ');

/** A grey PNG of one tone (W3C PNG, third edition). */
function grey(width: number, height: number, tone: number): Uint8Array {
  const chunk = (type: string, data: Buffer): Buffer => {
    const named = Buffer.concat([Buffer.from(type, 'latin1'), data]);
    const out = Buffer.alloc(8);
    out.writeUInt32BE(data.length, 0);
    out.writeUInt32BE(crc32(named), 4);
    return Buffer.concat([out.subarray(0, 4), named, out.subarray(4)]);
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head.set([8, 0, 0, 0, 0], 8);
  const rows = Buffer.alloc((width + 1) * height, tone);
  for (let y = 0; y < height; y++) rows[y * (width + 1)] = 0;
  const signature = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
  return Buffer.concat([
    signature,
    chunk('IHDR', head),
    chunk('IDAT', deflateSync(rows)),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

export function nonfiction(seed: number): Made {
  let x = 88_172_645 + seed * 7_919;
  const roll = (n: number): number => {
    x ^= x << 13;
    x ^= x >>> 17;
    x ^= x << 5;
    return (x >>> 0) % n;
  };
  const any = (list: string): string => {
    const all = list.split('|');
    return all[roll(all.length)] as string;
  };
  const statement = (): string =>
    `${any('The turnpike trust|The glassmakers of Orrel|A committee of carters|The last toll-keeper|Every traveller of the period')} ${any('recorded|disputed|overlooked|paid for|set down at length')} ${any('the condition of the hill road|a shortage of ash and sand|the third milestone|the price of hay at Candle Fair|what the bridge had cost')} ${any('in the spring of that year|before the statute was repealed|without naming a witness|to nobody’s surprise|in a hand that cannot be mistaken')}.`;
  const passage = (n = 4): string => Array.from({ length: n + roll(3) }, statement).join(' ');
  const body: string[] = [];
  interface Look {
    style?: string;
    bold?: boolean;
    italic?: boolean;
    size?: number;
    align?: string;
    indent?: number;
    page?: boolean;
  }
  const run = (t: string, l: Look): string =>
    `<w:r><w:rPr>${l.bold ? '<w:b/>' : ''}${l.italic ? '<w:i/>' : ''}${l.size ? `<w:sz w:val="${l.size}"/>` : ''}</w:rPr>${t
      .split('\t')
      .map((s) => `<w:t xml:space="preserve">${xml(s)}</w:t>`)
      .join('<w:tab/>')}</w:r>`;
  const par = (t: string, l: Look = {}): void =>
    void body.push(
      `<w:p><w:pPr>${l.style ? `<w:pStyle w:val="${l.style}"/>` : ''}${l.page ? '<w:pageBreakBefore/>' : ''}${l.indent ? `<w:ind w:left="${l.indent}" w:right="${l.indent}"/>` : ''}${l.align ? `<w:jc w:val="${l.align}"/>` : ''}</w:pPr>${t === '' ? '' : run(t, l)}</w:p>`,
    );
  const styled = roll(3) > 0;
  const head = (t: string, page = true): void =>
    styled ? par(t, { style: 'Heading1', page }) : par(t, { bold: true, size: 34, page });
  const truth: Truth = {
    title: 'The Hill Road to Orrel',
    author: 'Basil Quantock',
    sections: [],
    counts: { letters: 0, verse: 0, quotations: 0, breaks: 0, lists: 0, captions: 0, subheads: 0 },
    notHeadings: [],
  };
  par(truth.title, { bold: true, size: 48, align: 'center' });
  par('Carters, Glass and Weather', { italic: true, size: 30, align: 'center' });
  par(truth.author, { size: 26, align: 'center' });
  par('', { page: true });
  par('Copyright © 2033 Basil Quantock. All rights reserved.');
  const names = [
    'The Statute',
    'Sand and Ash',
    'Toll-keepers',
    'A Bridge and Its Price',
    'Candle Fair',
    'After the Railway',
    'The Third Milestone',
  ];
  const chapters = names.slice(0, 5 + roll(3));
  const parted = roll(2) === 0;
  const partNames = ['Making', 'Using'];
  const numeral = roll(3);
  const label = (i: number, t: string): string =>
    [`${i}. ${t}`, `Chapter ${i}: ${t}`, `${i} ${t}`][styled || numeral !== 2 ? numeral : 0] as string;
  const partLine = (k: number): string => `PART ${k === 1 ? 'ONE' : 'TWO'}`;
  const half = Math.ceil(chapters.length / 2);
  if (roll(4) > 0) {
    par('Contents', { bold: true, size: 32, page: true });
    const leader = any('\t| ........ |     ');
    let folio = 1;
    par(`Preface${leader}ix`);
    chapters.forEach((t, i) => {
      if (parted && (i === 0 || i === half))
        par(
          `${partLine(i === 0 ? 1 : 2)}: ${(partNames[i === 0 ? 0 : 1] as string).toUpperCase()}${leader}${folio}`,
        );
      par(`${label(i + 1, t)}${leader}${(folio += 11)}`);
    });
    par(`Appendix A: Tolls${leader}${folio + 20}`);
    par(`Bibliography${leader}${folio + 30}`);
  }
  head('Preface');
  truth.sections.push({ kind: 'other', number: null, title: 'Preface' });
  par(passage());
  par(passage());
  par('B. Q., Orrel', { align: 'right' });
  const media: Record<string, Uint8Array> = {};
  let figure = 0;
  const picture = (): void => {
    figure++;
    media[`word/media/f${figure}.png`] = grey(40 + roll(30), 30, 120 + roll(100));
    body.push(
      `<w:p><w:pPr><w:jc w:val="center"/></w:pPr><w:r><w:drawing><wp:inline><wp:extent cx="1800000" cy="1200000"/><wp:docPr id="${figure}" name="f${figure}"/><a:graphic><a:graphicData uri="http://schemas.openxmlformats.org/drawingml/2006/picture"><pic:pic><pic:blipFill><a:blip r:embed="f${figure}"/></pic:blipFill></pic:pic></a:graphicData></a:graphic></wp:inline></w:drawing></w:r></w:p>`,
    );
  };
  const decimals = roll(2) === 0;
  const captionLook: Look = [
    { align: 'center', size: 18 },
    { italic: true },
    { align: 'center', italic: true, size: 18 },
  ][roll(3)]!;
  chapters.forEach((t, i) => {
    const n = i + 1;
    if (parted && (i === 0 || i === half)) {
      const k = i === 0 ? 1 : 2;
      const name = partNames[k - 1] as string;
      if (roll(2)) {
        par(partLine(k), { bold: true, size: 40, align: 'center', page: true });
        par(name, { bold: true, size: 40, align: 'center' });
      } else par(`${partLine(k)}: ${name}`, { bold: true, size: 40, align: 'center', page: true });
      truth.sections.push({ kind: 'part', number: k, title: name });
    }
    head(label(n, t));
    truth.sections.push({ kind: 'chapter', number: n, title: t });
    par(passage());
    for (let s = 1; s <= 2; s++) {
      const name = any(
        'Surveyors|The First Winter|What the Books Say|Who Paid?|Carters at Law|A Note of Weights',
      );
      par(decimals ? `${n}.${s} ${name}` : name, { bold: true });
      truth.counts.subheads++;
      par(passage());
      if (roll(3) === 0) {
        par('The petition asked for three things:');
        const marks = [
          ['1.', '2.', '3.'],
          ['a)', 'b)', 'c)'],
          ['•', '•', '•'],
          ['(i)', '(ii)', '(iii)'],
        ][roll(4)]!;
        const items = [
          'gravel laid before the frost',
          'a gate that could be shut',
          'some account of the missing hay',
        ];
        const indent = roll(2) * 360;
        marks.forEach((m, k) => par(`${m} ${items[k]}`, { indent }));
        truth.counts.lists++;
        par(passage(2));
      }
      if (roll(3) === 0) {
        par(
          'I passed the third milestone twice that night and on neither occasion did it say the same; I have kept to the valley since.',
          { indent: 720 },
        );
        if (roll(2))
          par(any('— Carter’s deposition, 1811|— The Orrel Minute Book'), { indent: 720, align: 'right' });
        truth.counts.quotations++;
        par(passage(2));
      }
      if (roll(3) === 0) {
        const above = roll(4) === 0;
        const caption = `${any('Figure|Fig.')} ${n}.${s} ${any('The gate at Orrel|A carter’s licence|The third milestone, since moved')}`;
        if (above) par(caption, captionLook);
        picture();
        if (!above) par(caption, captionLook);
        truth.counts.captions++;
        truth.notHeadings.push(caption);
        par(passage(2));
      }
    }
  });
  for (const letter of ['A', 'B'].slice(0, 1 + roll(2))) {
    const title = `Appendix ${letter}: ${letter === 'A' ? 'Tolls' : 'The Statute'}`;
    head(title);
    truth.sections.push({ kind: 'other', number: null, title });
    par(passage());
  }
  head('Bibliography');
  truth.sections.push({ kind: 'other', number: null, title: 'Bibliography' });
  for (const b of [
    'Amory, L. The Glass Hills. Orrel: Lamp Press, 1931.',
    'Teale, R. Weights and Carters. Saltby, 1954.',
  ])
    body.push(`<w:p><w:pPr><w:ind w:left="720" w:hanging="720"/></w:pPr>${run(b, {})}</w:p>`);
  const rels = Object.keys(media)
    .map(
      (name) =>
        `<Relationship Id="${/f\d+/.exec(name)![0]}" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/image" Target="${name.slice(5)}"/>`,
    )
    .join('');
  const heading =
    '<w:style w:type="paragraph" w:styleId="Heading1"><w:name w:val="heading 1"/><w:pPr><w:outlineLvl w:val="0"/></w:pPr><w:rPr><w:b/><w:sz w:val="34"/></w:rPr></w:style>';
  const files: Record<string, Uint8Array> = {
    '[Content_Types].xml': strToU8(
      '<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Default Extension="png" ContentType="image/png"/><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/><Override PartName="/word/styles.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.styles+xml"/></Types>',
    ),
    '_rels/.rels': strToU8(
      '<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="d" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>',
    ),
    'word/document.xml': strToU8(
      `<?xml version="1.0"?><w:document ${NAMESPACES}><w:body>${body.join('')}</w:body></w:document>`,
    ),
    'word/styles.xml': strToU8(`<?xml version="1.0"?><w:styles ${NAMESPACES}>${heading}</w:styles>`),
    'word/_rels/document.xml.rels': strToU8(
      `<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="s" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/styles" Target="styles.xml"/>${rels}</Relationships>`,
    ),
    ...media,
  };
  return { name: `nonfiction-${seed}.docx`, bytes: zipSync(files), truth };
}
