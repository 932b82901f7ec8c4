/** How the lists of a .docx count: their formats and starts (ECMA-376 part 1, §17.9), and the number of each item. */
import { parseXml, type ListNumbers, type XmlElement } from '../../base';

interface Level {
  numbers: ListNumbers;
  start: number;
}

const FORMATS: Record<string, ListNumbers> = {
  lowerLetter: 'letters',
  upperLetter: 'letters',
  lowerRoman: 'roman',
  upperRoman: 'roman',
};
const PLAIN: Level = { numbers: 'figures', start: 1 };

const attr = (el: XmlElement | undefined, name: string): string => el?.attrs[`w:${name}`] ?? '';
const children = (el: XmlElement | undefined, name: string): XmlElement[] =>
  (el?.children ?? []).filter((c): c is XmlElement => typeof c !== 'string' && c.name === name);

export class DocxNumbering {
  private readonly levels = new Map<string, Map<number, Level>>();
  /** The last number given, by list and level. */
  private readonly given = new Map<string, number[]>();

  constructor(xml: string | null) {
    const root = xml ? parseXml(xml).root : null;
    if (!root) return;
    const abstract = new Map(
      children(root, 'abstractNum').map((a) => [attr(a, 'abstractNumId'), levelsOf(a)]),
    );
    for (const num of children(root, 'num')) {
      const own = new Map(abstract.get(attr(children(num, 'abstractNumId')[0], 'val')));
      for (const o of children(num, 'lvlOverride')) {
        const level = Number(attr(o, 'ilvl'));
        const start = Number(attr(children(o, 'startOverride')[0], 'val'));
        if (start > 0) own.set(level, { ...(own.get(level) ?? PLAIN), start });
      }
      this.levels.set(attr(num, 'numId'), own);
    }
  }

  /** The next item of a list: how it is counted, and its number. */
  next(list: string, level: number): Level {
    const { numbers, start } = this.levels.get(list)?.get(level) ?? PLAIN;
    const given = this.given.get(list) ?? [];
    const number = (given[level] ?? start - 1) + 1;
    // Deeper levels begin again below each item.
    this.given.set(list, [...given.slice(0, level), number]);
    return { numbers, start: number };
  }
}

const levelsOf = (abstract: XmlElement): Map<number, Level> =>
  new Map(
    children(abstract, 'lvl').map((l) => [
      Number(attr(l, 'ilvl')),
      {
        numbers: FORMATS[attr(children(l, 'numFmt')[0], 'val')] ?? 'figures',
        start: Number(attr(children(l, 'start')[0], 'val')) || 1,
      },
    ]),
  );
