/** Poems and letters as OpenDocument: poems under titles, some in parts by a bare number; letters between them. */
import { zipSync, type Zippable } from 'fflate';
import type { Made, Truth } from './truth';

const enc = (s: string): Uint8Array => new TextEncoder().encode(s);
const safe = (s: string): string =>
  s.replace(/[&<>]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;' })[c] as string);

export function poems(seed: number): Made {
  let n = seed + 17;
  const dice = (sides: number): number => {
    n = (n * 48_271) % 2_147_483_647;
    return n % sides;
  };
  const head = [
    'The heron',
    'My father’s coat',
    'Rain',
    'A spare key',
    'November',
    'The dog next door',
    'Salt',
  ];
  const tail = [
    'leans on the gate',
    'has nothing to declare',
    'keeps its own hours',
    'comes in without knocking',
    'was mended twice',
    'forgets the word for home',
  ];
  const end = ['', ',', '', ';', ' \u2014', '.'];
  const verse = (): string => `${head[dice(7)]} ${tail[dice(6)]}${end[dice(6)]}`;
  const styles: string[] = [];
  const style = (name: string, p: string, t: string): string => {
    styles.push(
      `<style:style style:name="${name}" style:family="paragraph"><style:paragraph-properties ${p}/><style:text-properties ${t}/></style:style>`,
    );
    return name;
  };
  const TITLE = style('T1', 'fo:break-before="page"', 'fo:font-weight="bold" fo:font-size="13pt"');
  const PART = style('P1', 'fo:break-before="page" fo:text-align="center"', 'fo:font-size="18pt"');
  const PARTNAME = style('P2', 'fo:text-align="center"', 'fo:font-size="18pt"');
  const BOOK = style('B1', 'fo:text-align="center"', 'fo:font-size="24pt" fo:font-weight="bold"');
  const BY = style('B2', 'fo:text-align="center"', 'fo:font-size="14pt"');
  const IN = style('I1', 'fo:margin-left="0.5in"', 'fo:font-size="12pt"');
  const PLAIN = style('N1', '', 'fo:font-size="12pt"');
  const out: string[] = [];
  const p = (s: string, text: string): void =>
    void out.push(`<text:p text:style-name="${s}">${text}</text:p>`);
  const truth: Truth = {
    title: 'Spare Key',
    author: 'Wilhelmina Roke',
    sections: [],
    counts: { letters: 0, verse: 0, quotations: 0, breaks: 0, lists: 0, captions: 0, subheads: 0 },
    notHeadings: [],
  };
  p(BOOK, truth.title);
  p(BY, truth.author);
  const parted = dice(2) === 0;
  const broken = dice(2) === 0;
  const names = [
    'First Frost',
    'Keys',
    'Answer to a Landlord',
    'The Lodger',
    'Inventory of a Drawer',
    'Heron Again',
    'Small Hours',
    'To Whom It Concerns',
    'Lists',
    'Sundries',
    'Northern Line',
    'What the Dog Knew',
  ];
  const many = 9 + dice(4);
  const per = Math.ceil(many / 3);
  for (let i = 0; i < many; i++) {
    if (parted && i % per === 0) {
      const k = i / per + 1;
      p(PART, ['I', 'II', 'III', 'IV'][k - 1] as string);
      const name = ['Doors', 'Rooms', 'Streets', 'Fields'][k - 1] as string;
      p(PARTNAME, name);
      truth.sections.push({ kind: 'part', number: k, title: name });
    }
    p(TITLE, names[i] as string);
    truth.sections.push({ kind: 'chapter', number: null, title: names[i] as string });
    if (i % 5 === 3) {
      // A prose letter under a title.
      p(PLAIN, 'She kept it in the drawer with the string, and this is all of it that can be read.');
      p(IN, 'Dear Landlord,');
      p(
        IN,
        'The key you sent does not fit, and the door it does not fit is not mine. I return it with the lodger’s compliments and a small drawing of a heron.',
      );
      p(IN, 'Yours without rancour,');
      p(IN, 'W. Roke');
      p(
        PLAIN,
        'Nothing was ever sent in reply, as far as anyone in the street remembers, but the rent went down by a shilling.',
      );
      truth.counts.letters++;
      continue;
    }
    const stanzas = 2 + dice(3);
    for (let s = 0; s < stanzas; s++) {
      const lines = Array.from({ length: 2 + dice(3) }, () => safe(verse()));
      if (broken) p(PLAIN, lines.join('<text:line-break/>'));
      else {
        lines.forEach((l, k) => p(k % 2 === 1 && i % 3 === 0 ? IN : PLAIN, l));
        if (s < stanzas - 1) p(PLAIN, '');
      }
    }
    truth.counts.verse++;
  }
  const ns =
    'xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" xmlns:style="urn:oasis:names:tc:opendocument:xmlns:style:1.0" xmlns:fo="urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0"';
  const files: Zippable = {
    mimetype: [enc('application/vnd.oasis.opendocument.text'), { level: 0 }],
    'META-INF/manifest.xml': enc(
      '<?xml version="1.0"?><manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0"><manifest:file-entry manifest:full-path="/" manifest:media-type="application/vnd.oasis.opendocument.text"/><manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/></manifest:manifest>',
    ),
    'content.xml': enc(
      `<?xml version="1.0"?><office:document-content ${ns}><office:automatic-styles>${styles.join('')}</office:automatic-styles><office:body><office:text>${out.join('')}</office:text></office:body></office:document-content>`,
    ),
  };
  return { name: `poems-${seed}.odt`, bytes: zipSync(files), truth };
}
