/** A novel in Rich Text by an author who knows no styles: every head is bold and each of another form. */
import type { Made, Truth } from './truth';

const rtf = (t: string): string =>
  [...t]
    .map((c) => (c.charCodeAt(0) > 126 ? `\\u${c.charCodeAt(0)}?` : /[\\{}]/.test(c) ? `\\${c}` : c))
    .join('');

export function plainBold(seed: number): Made {
  let a = (seed + 1) * 0x9e3779b1;
  const rnd = (): number => {
    a |= 0;
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
  const pick = <T>(xs: readonly T[]): T => xs[Math.floor(rnd() * xs.length)] as T;
  const who = ['Ansel', 'the widow Brandt', 'Little Jory', 'Captain Moss', 'the baker’s girl', 'Teasel'];
  const did = [
    'had never learned to swim',
    'kept the ledger in a biscuit tin',
    'walked the whole length of the wall twice',
    'believed what the almanac said about eels',
    'put the kettle on before the knock came',
  ];
  const so = [
    'which settled nothing',
    'and the rain went on',
    'as people will in a hard winter',
    'though no one had asked',
    'and that was that',
  ];
  const para = (): string => {
    let t = '';
    for (let i = 0, n = 3 + Math.floor(rnd() * 4); i < n; i++)
      t +=
        rnd() < 0.25
          ? `\u201cNot before Thursday,\u201d said ${pick(who)}. `
          : `${pick(['Later', 'That week', 'In the yard', 'At the turn of the stair', 'Some said'])}, ${pick(who)} ${pick(did)}, ${pick(so)}. `;
    return t.trim();
  };
  const body: string[] = [];
  const p = (text: string, props = '', run = ''): void =>
    void body.push(`\\pard${props}{${run} ${rtf(text)}}\\par`);
  const gap = (n: number): void => {
    for (let i = 0; i < n; i++) body.push('\\pard\\par');
  };
  const truth: Truth = {
    title: 'A Wall Against the Sea',
    author: 'Petra Lindqvist',
    sections: [],
    counts: { letters: 0, verse: 0, quotations: 0, breaks: 0, lists: 0, captions: 0, subheads: 0 },
    notHeadings: [],
  };
  gap(4);
  p(truth.title, '\\qc', '\\b\\fs44');
  gap(2);
  p(rnd() < 0.5 ? 'Petra Lindqvist' : 'by Petra Lindqvist', '\\qc', '\\fs28');
  const words = [
    'One',
    'Two',
    'Three',
    'Four',
    'Five',
    'Six',
    'Seven',
    'Eight',
    'Nine',
    'Ten',
    'Eleven',
    'Twelve',
  ];
  const roman = ['I', 'II', 'III', 'IV', 'V', 'VI', 'VII', 'VIII', 'IX', 'X', 'XI', 'XII'];
  const titles = [
    'The Tin',
    'Almanac',
    'Eels',
    'The Widow’s Stair',
    'Thursday',
    'A Hard Winter',
    'Moss',
    'Breach',
  ];
  const count = 8 + Math.floor(rnd() * 5);
  const parted = rnd() < 0.6;
  const centred = rnd() < 0.5;
  let habit = 0;
  for (let n = 1; n <= count; n++) {
    if (parted && (n === 1 || n === Math.ceil(count / 2) + 1)) {
      const k = n === 1 ? 1 : 2;
      const name = k === 1 ? 'The Dyke' : 'The Flood';
      body.push('\\page');
      gap(3);
      p(
        pick([
          `PART ${words[k - 1]!.toUpperCase()}`,
          `BOOK ${roman[k - 1]}`,
          `${k === 1 ? 'FIRST' : 'SECOND'} PART`,
        ]),
        '\\qc',
        '\\b\\fs32',
      );
      p(name, '\\qc', '\\b\\fs32');
      truth.sections.push({ kind: 'part', number: k, title: name });
    }
    const title = rnd() < 0.6 ? pick(titles) : '';
    const forms = [
      title ? `${n}. ${title}` : `${n}`,
      title ? `${roman[n - 1]}: ${title}` : `${roman[n - 1]}`,
      title ? `Chapter ${words[n - 1]}: ${title}` : `Chapter ${words[n - 1]}`,
      title ? `${words[n - 1]} \u2013 ${title}` : `${words[n - 1]}`,
      title ? `CHAPTER ${n}. ${title.toUpperCase()}` : `CHAPTER ${n}`,
      title && n > 2 ? `Chaper ${words[n - 1]}: ${title}` : `Chapter ${n}${title ? ` \u2014 ${title}` : ''}`,
    ];
    const split = rnd() < 0.2 && title;
    if (rnd() < 0.5) body.push('\\page');
    else gap(2 + Math.floor(rnd() * 8));
    p(split ? `Chapter ${n}` : pick(forms), centred || rnd() < 0.3 ? '\\qc' : '', '\\b\\fs28');
    if (split) p(title, centred ? '\\qc' : '', '\\b\\fs28');
    truth.sections.push({ kind: 'chapter', number: n, title });
    habit = rnd() < 0.35 ? 1 : 0;
    const put = (t: string, props = '', run = ''): void => {
      p(t, props, run);
      gap(habit);
    };
    gap(1);
    for (let i = 0, k = 7 + Math.floor(rnd() * 5); i < k; i++) {
      put(para());
      if (i === 1 && rnd() < 0.3) {
        put('The notice had been up since the spring.');
        const sign = pick(['MIND THE STEP.', 'NO CREDIT. NO CATS.', 'DYKE CLOSED BY ORDER']);
        put(sign, '\\qc', '\\b');
        truth.notHeadings.push(sign);
        put('Ansel had learned his letters from it.');
      }
      if (i === 2 && rnd() < 0.5) {
        if (habit === 0 && rnd() < 0.5) gap(1);
        else put(pick(['* * *', '~', '#', '***']), '\\qc');
        truth.counts.breaks++;
        put(para());
      }
      if (i === 4 && rnd() < 0.35) {
        put('She read it by the window.');
        const props = rnd() < 0.5 ? '\\li720' : '';
        const run = props && rnd() < 0.5 ? '\\i' : '';
        if (rnd() < 0.5) put('Breach House, the ninth of March', props, run);
        put('My dear Ansel,', props, run);
        put(
          'The wall is holding but the baker is not, and I have told him what you said about the eels.',
          props,
          run,
        );
        put('Send the tin.', props, run);
        put('Your loving sister,', props, run);
        put('Katrin', props, run);
        truth.counts.letters++;
        put(para());
      }
      if (i === 5 && rnd() < 0.35) {
        put('He sang it to the oars, as they all did.');
        const lines = [
          'O the sea has a ledger and I am a line,',
          'and the tide is the blotter that makes the debt mine,',
          'so write me in water and strike me in foam,',
          'and carry me over, and carry me home.',
        ];
        if (rnd() < 0.5) body.push(`\\pard\\li720{ ${lines.map(rtf).join('\\line ')}}\\par`);
        else for (const l of lines) p(l, '\\li720');
        truth.counts.verse++;
        put(para());
      }
    }
  }
  const text = `{\\rtf1\\ansi\\ansicpg1252\\deff0{\\fonttbl{\\f0\\froman Times New Roman;}}\\fs24\n${body.join('\n')}}`;
  const bytes = new Uint8Array(Buffer.from(text, 'latin1'));
  return { name: `plain-bold-${seed}.rtf`, bytes, truth };
}
