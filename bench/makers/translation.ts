/** A novel in German as a web page of a word processor: headings in words, by looks alone, a typed contents list. */
import type { Made, Truth } from './truth';

const ORDNUNG = [
  'Erstes',
  'Zweites',
  'Drittes',
  'Viertes',
  'Fünftes',
  'Sechstes',
  'Siebtes',
  'Achtes',
  'Neuntes',
  'Zehntes',
];
const ZAHL = ['Eins', 'Zwei', 'Drei', 'Vier', 'Fünf', 'Sechs', 'Sieben', 'Acht', 'Neun', 'Zehn'];

export function translation(seed: number): Made {
  const digits = Array.from(
    { length: 400 },
    (_, i) => Math.abs(Math.sin((seed + 1) * 12.9898 + i * 78.233) * 43_758.5453) % 1,
  );
  let at = 0;
  const zahl = (n: number): number => Math.floor((digits[at++ % digits.length] as number) * n);
  const eins = <T>(l: readonly T[]): T => l[zahl(l.length)] as T;
  const satz = (): string =>
    eins([
      'Der Müller zählte die Säcke, und keiner stimmte.',
      'Über dem Wehr stand seit Tagen derselbe Nebel.',
      '„Wer die Brücke baut“, sagte Frau Amsel, „der zahlt sie auch.“',
      'Am Abend brachte der Bote nichts, was er sonst vergessen hätte.',
      'Noch im März lagen die Kähne verkehrt herum am Ufer.',
      '„Und der Schlüssel?“, fragte Lorenz.',
      'Niemand im Dorf hatte den Rat je lachen gehört.',
    ]);
  const absatz = (): string => Array.from({ length: 5 + zahl(4) }, satz).join(' ');
  const html: string[] = [];
  const p = (t: string, css = ''): void =>
    void html.push(`<p style="margin:0;font-size:12pt;${css}">${t}</p>`);
  const leer = (n: number): void => {
    for (let i = 0; i < n; i++) p('&nbsp;');
  };
  const truth: Truth = {
    title: 'Die Brücke von Ansbeck',
    author: 'Gerlinde Maurach',
    sections: [],
    counts: { letters: 0, verse: 0, quotations: 0, breaks: 0, lists: 0, captions: 0, subheads: 0 },
    notHeadings: [],
  };
  p(truth.author, 'text-align:center');
  leer(1);
  p(truth.title, 'text-align:center;font-size:24pt;font-weight:bold');
  p('Roman', 'text-align:center');
  const neu = 'page-break-before:always;';
  p('Für Hannes, der den Fluss kannte', `${neu}text-align:center;font-style:italic`);
  const form = zahl(4);
  const titel = ['Das Wehr', 'Der Schlüssel', 'Nebel', 'Frau Amsel rechnet', 'Kähne', 'Hochwasser'];
  const anzahl = 6 + zahl(4);
  const kapitel = Array.from({ length: anzahl }, (_, i) => ({ n: i + 1, t: zahl(2) ? eins(titel) : '' }));
  const kopf = (k: { n: number; t: string }): string => {
    const nummer = [`${ORDNUNG[k.n - 1]} Kapitel`, `Kapitel ${k.n}`, `${k.n}.`, ZAHL[k.n - 1] as string][
      form
    ] as string;
    return k.t ? `${nummer}${form === 2 ? ' ' : ': '}${k.t}` : nummer;
  };
  if (zahl(2)) {
    p('Inhalt', `${neu}font-weight:bold`);
    p('Prolog ..... 7');
    kapitel.forEach((k) => p(`${kopf(k)} ..... ${k.n * 12}`));
    p('Danksagung ..... 180');
  }
  const aussehen = [
    'text-align:center',
    'font-weight:bold',
    'text-align:center;font-weight:bold',
    'text-align:center;font-size:15pt',
  ][zahl(4)] as string;
  const beginn = (t: string): void => {
    if (zahl(3) > 0) p(t, neu + aussehen);
    else {
      leer(6);
      p(t, aussehen);
    }
  };
  beginn('Prolog');
  truth.sections.push({ kind: 'other', number: null, title: 'Prolog' });
  p(absatz());
  p(absatz());
  for (const k of kapitel) {
    beginn(kopf(k));
    truth.sections.push({ kind: 'chapter', number: k.n, title: k.t });
    for (let i = 0; i < 7; i++) {
      p(absatz());
      if (i === 1 && zahl(3) === 0) {
        p('An der Brücke hing, in roter Farbe, ein Brett:');
        p('DURCHGANG VERBOTEN', 'text-align:center;font-weight:bold');
        truth.notHeadings.push('DURCHGANG VERBOTEN');
        p('Lorenz las es und ging hindurch.');
      }
      if (i === 2 && zahl(2)) {
        p(eins(['* * *', '***', '~']), 'text-align:center');
        truth.counts.breaks++;
        p(absatz());
      }
      if (i === 3 && zahl(3) === 0) {
        p('Der Brief war kurz.');
        const css = 'margin-left:40pt;';
        p('Liebe Frau Amsel,', css);
        p(
          'die Brücke steht, aber der Müller nicht mehr zu seinem Wort. Kommen Sie, ehe das Wasser kommt.',
          css,
        );
        p('Ihr Lorenz', css);
        truth.counts.letters++;
        p(absatz());
      }
      if (i === 4 && zahl(3) === 0) {
        p('Die Kinder sangen es beim Springen.');
        for (const z of [
          'Wasser, Wasser, geh vorbei,',
          'nimm den Müller, lass uns drei,',
          'nimm die Brücke, nimm den Rat,',
          'der noch nie gelogen hat.',
        ])
          p(z, 'margin-left:40pt;font-style:italic');
        truth.counts.verse++;
        p(absatz());
      }
    }
  }
  p('Ende', 'text-align:center');
  truth.notHeadings.push('Ende');
  beginn('Danksagung');
  truth.sections.push({ kind: 'other', number: null, title: 'Danksagung' });
  p('Ich danke allen, die mir den Fluss erklärt haben.');
  const page = `<!doctype html><html lang="de"><head><meta charset="utf-8"></head><body>${html.join('\n')}</body></html>`;
  return { name: `translation-${seed}.html`, bytes: new TextEncoder().encode(page), truth };
}
