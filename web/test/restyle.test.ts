/** Changing what paragraphs are, without a page: no word is lost, whatever is selected and whatever it becomes. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Node } from 'prosemirror-model';
import { AllSelection, EditorState, TextSelection } from 'prosemirror-state';
import { schema } from '@pagina/core/book';
import { restyle, styleAt, STYLES, type Style } from '@/stations/manuscript/restyle';

const n = schema.nodes;
let ids = 0;
const p = (text: string): Node => n.paragraph!.create({ id: `p${++ids}` }, text ? schema.text(text) : null);
const doc = (...blocks: Node[]): Node => n.doc!.create(null, blocks);
const item = (...content: Node[]): Node => n.item!.create({ id: `i${++ids}` }, content);
const list = (attrs: object, ...items: Node[]): Node => n.list!.create({ id: `l${++ids}`, ...attrs }, items);
const words = (d: Node): string => d.textBetween(0, d.content.size, ' ', ' ').replace(/\s+/g, ' ').trim();
/** "paragraph list(item(paragraph))": a document by its blocks. */
const shape = (x: Node): string => {
  const inner: string[] = [];
  if (!x.isTextblock) x.forEach((c) => void inner.push(shape(c)));
  return x.type.name + (inner.length ? `(${inner.join(' ')})` : '');
};
/** A state with everything from the first to the last of these words selected. */
function chosen(d: Node, first: string, last = first): EditorState {
  const find = (text: string): number => {
    let at = -1;
    d.descendants((x, pos) => {
      if (at < 0 && x.isText && (x.text as string).includes(text))
        at = pos + (x.text as string).indexOf(text);
    });
    return at;
  };
  return EditorState.create({
    doc: d,
    selection: TextSelection.create(d, find(first), find(last) + last.length),
  });
}
function after(d: Node, style: Style, first: string, last?: string): Node {
  const tr = restyle(chosen(d, first, last), style);
  if (typeof tr === 'string') throw new Error(tr);
  tr.doc.check();
  expect(words(tr.doc)).toBe(words(d));
  return tr.doc;
}

describe('a paragraph beside a list', () => {
  it('becomes an item of it; the list keeps its number, and an item its paragraphs', () => {
    const d = doc(
      list({ ordered: true, start: 3 }, item(p('three'), p('more of three')), item(p('four'))),
      p('five'),
    );
    const made = after(d, 'numbered', 'five').child(0);
    expect(shape(made)).toBe('list(item(paragraph paragraph) item(paragraph) item(paragraph))');
    expect(made.attrs.start).toBe(3);
  });
  it('leaves numbered lists inside bulleted ones as they are', () => {
    const d = doc(list({}, item(p('one'), list({ ordered: true }, item(p('inside'))))), p('two'));
    const made = after(d, 'list', 'two').child(0);
    expect(shape(made)).toBe('list(item(paragraph list(item(paragraph))) item(paragraph))');
    expect([made.attrs.ordered, made.child(0).child(1).attrs.ordered]).toEqual([false, true]);
  });
});

describe('a displayed passage', () => {
  it('loses its middle paragraph to the text, and takes it in again', () => {
    const d = doc(n.quotation!.create({ id: 'q' }, [p('one'), p('two'), p('three')]));
    const freed = after(d, 'text', 'two');
    expect(shape(freed)).toBe('doc(quotation(paragraph) paragraph quotation(paragraph))');
    expect(shape(after(freed, 'quotation', 'two'))).toBe('doc(quotation(paragraph paragraph paragraph))');
  });
  it('joins only neighbours of its own alignment', () => {
    const d = doc(n.passage!.create({ id: 'a', align: 'right' }, [p('one')]), p('two'));
    expect(shape(after(d, 'centre', 'two'))).toBe('doc(passage(paragraph) passage(paragraph))');
    expect(shape(after(d, 'right', 'two'))).toBe('doc(passage(paragraph paragraph))');
  });
  it('is not joined below its attribution', () => {
    const d = doc(
      n.quotation!.create({ id: 'q' }, [
        p('one'),
        n.attribution!.create({ id: 'a' }, schema.text('Someone')),
      ]),
      p('two'),
    );
    expect(shape(after(d, 'quotation', 'two'))).toBe(
      'doc(quotation(paragraph attribution) quotation(paragraph))',
    );
  });
});

describe('verse', () => {
  it('cuts paragraphs at their forced line ends', () => {
    const d = doc(
      n.paragraph!.create({ id: 'x' }, [schema.text('out'), n.lineBreak!.create(), schema.text('and in')]),
    );
    expect(shape(after(d, 'verse', 'out'))).toBe('doc(verse(stanza(verseLine verseLine)))');
  });
  it('keeps stanzas and indents of lines that stay', () => {
    const line = (text: string, indent = 0): Node =>
      n.verseLine!.create({ id: text, indent }, schema.text(text));
    const d = doc(
      n.verse!.create({ id: 'v' }, [
        n.stanza!.create({ id: 's' }, [line('a'), line('b', 2)]),
        n.stanza!.create({ id: 't' }, [line('c')]),
      ]),
      p('d'),
    );
    const made = after(d, 'verse', 'd').child(0);
    expect(shape(made)).toBe('verse(stanza(verseLine verseLine) stanza(verseLine verseLine))');
    expect(made.child(0).child(1).attrs.indent).toBe(2);
  });
});

describe('what cannot be', () => {
  const noted = (): Node =>
    doc(
      n.paragraph!.create({ id: 'a' }, [schema.text('text'), n.note!.create({ ref: 'f' })]),
      n.noteBody!.create({ id: 'f' }, [p('the note')]),
    );
  it('is said in a sentence', () => {
    expect(restyle(chosen(noted(), 'text'), 'monospace')).toMatch(/^It contains a note, which/);
    expect(restyle(chosen(noted(), 'the note'), 'verse')).toBe('A note is plain text.');
    expect(restyle(chosen(doc(p('text')), 'text'), 'attribution')).toMatch(/below a quotation or verse/);
  });
});

it('the style under the cursor is named, also inside lists and verse', () => {
  const d = doc(
    p('plain'),
    list({ ordered: true }, item(p('item'))),
    n.subhead!.create({ id: 'h', level: 2 }, schema.text('head')),
  );
  expect(['plain', 'item', 'head'].map((t) => styleAt(chosen(d, t)))).toEqual([
    'text',
    'numbered',
    'subhead2',
  ]);
});

it('any selection of any text takes any styles one after another without losing a word', () => {
  const text = fc.string({ minLength: 1, maxLength: 12, unit: fc.constantFrom('a', 'b', ' ', 'é', '-') });
  const block = fc.oneof(
    text.map((t) => ({ kind: 'text' as const, texts: [t] })),
    fc.record({
      kind: fc.constantFrom('quotation', 'letter', 'list', 'verse', 'passage', 'subhead', 'table', 'break'),
      texts: fc.array(text, { minLength: 1, maxLength: 3 }),
    }),
  );
  const made = ({ kind, texts }: { kind: string; texts: string[] }): Node => {
    const ps = texts.map(p);
    switch (kind) {
      case 'quotation':
        return n.quotation!.create({ id: `q${++ids}` }, ps);
      case 'letter':
        return n.letter!.create({ id: `e${++ids}` }, ps);
      case 'passage':
        return n.passage!.create({ id: `d${++ids}`, align: 'inset' }, ps);
      case 'list':
        return list({ ordered: texts.length > 1 }, ...ps.map((x) => item(x)));
      case 'verse':
        return n.verse!.create({ id: `v${++ids}` }, [
          n.stanza!.create(
            { id: `s${++ids}` },
            texts.map((t) => n.verseLine!.create({ id: `w${++ids}` }, schema.text(t))),
          ),
        ]);
      case 'subhead':
        return n.subhead!.create({ id: `h${++ids}`, level: 1 }, schema.text(texts[0] as string));
      case 'table':
        return n.table!.create({ id: `t${++ids}` }, [
          n.row!.create(
            { id: `r${++ids}` },
            ps.map((x) => n.cell!.create({ id: `c${++ids}` }, [x])),
          ),
        ]);
      case 'break':
        return n.break!.create({ id: `b${++ids}` });
      default:
        return ps[0] as Node;
    }
  };
  const step = fc.record({
    style: fc.constantFrom(...(Object.keys(STYLES) as Style[])),
    from: fc.nat(400),
    to: fc.nat(400),
  });
  fc.assert(
    fc.property(
      fc.array(block, { minLength: 1, maxLength: 5 }),
      fc.array(step, { minLength: 1, maxLength: 6 }),
      (blocks, steps) => {
        let state = EditorState.create({ doc: doc(...blocks.map(made)) });
        const before = words(state.doc).replace(/\s/g, '');
        for (const { style, from, to } of steps) {
          const at = (x: number): number => x % (state.doc.content.size + 1);
          const selection =
            from === to
              ? new AllSelection(state.doc)
              : TextSelection.between(state.doc.resolve(at(from)), state.doc.resolve(at(to)));
          state = state.apply(state.tr.setSelection(selection));
          const tr = restyle(state, style);
          if (typeof tr === 'string') continue;
          tr.doc.check();
          state = state.apply(tr);
          expect(words(state.doc).replace(/\s/g, '')).toBe(before);
        }
      },
    ),
    { numRuns: 400 },
  );
});
