/** Notes, tables, links and keys of the manuscript, on editor states without a page. */
import { describe, expect, it } from 'vitest';
import type { Node } from 'prosemirror-model';
import { EditorState, TextSelection, type Command, type Plugin } from 'prosemirror-state';
import { schema } from '@pagina/core/book';
import { readingTime, wordsIn, wordsOf } from '@/stations/manuscript/counts';
import { markAt, setTelling, stretchOf } from '@/stations/manuscript/marking';
import { insertNote, notesPlugin, otherEnd } from '@/stations/manuscript/notes';
import { clearLooks } from '@/stations/manuscript/plugins';
import { signs, signsPlugin } from '@/stations/manuscript/signs';
import { DEEDS, newTable, TABLE_DEEDS, tableAt } from '@/stations/manuscript/table';
import { book, section } from '../../core/test/fixtures/books';

const n = schema.nodes;
const p = (id: string, ...content: (string | Node)[]): Node =>
  n.paragraph!.create(
    { id },
    content.map((c) => (typeof c === 'string' ? schema.text(c) : c)),
  );
const state = (blocks: Node[], at: number | [number, number], own: Plugin[] = []): EditorState => {
  const doc = n.doc!.create(null, blocks);
  const [from, to] = typeof at === 'number' ? [at, at] : at;
  return EditorState.create({ doc, plugins: own, selection: TextSelection.create(doc, from, to) });
};
const refs = (doc: Node): string[] => {
  const out: string[] = [];
  doc.descendants((x) => {
    if (x.type === n.note) out.push(x.attrs.ref as string);
  });
  return out;
};
const bodies = (doc: Node): Map<string, string> => {
  const out = new Map<string, string>();
  doc.forEach((x) => {
    if (x.type === n.noteBody) out.set(x.attrs.id as string, x.textContent);
  });
  return out;
};

describe('notes', () => {
  it('are put behind the selection, with the cursor in their body, and lead both ways', () => {
    const s = state([p('a', 'One two')], [2, 4], [notesPlugin()]);
    const noted = s.apply(insertNote(s)!);
    expect(noted.doc.child(0).child(1).type.name).toBe('note');
    expect([...bodies(noted.doc).keys()]).toEqual(refs(noted.doc));
    expect(noted.selection.$from.node(1).type.name).toBe('noteBody');
    const back = noted.apply(otherEnd(noted)!);
    expect(back.selection.$from.parent.attrs.id).toBe('a');
    expect(back.apply(otherEnd(back)!).selection.$from.node(1).type.name).toBe('noteBody');
  });
  it('are called in running text only', () => {
    expect(insertNote(state([n.monospace!.create({ id: 'm' }, schema.text('x'))], 1))).toBeNull();
    const inNote = state([p('a', 'One'), n.noteBody!.create({ id: 'f' }, [p('b', 'note')])], 8);
    expect(insertNote(inNote)).toBeNull();
    expect(otherEnd(state([p('a', 'One')], 2))).toBeNull();
  });
  const noted = (): EditorState =>
    state(
      [
        p('a', 'One', n.note!.create({ ref: 'f' }), ' two'),
        p('z', 'End'),
        n.noteBody!.create({ id: 'f' }, [p('b', 'the note')]),
      ],
      1,
      [notesPlugin()],
    );
  it('go with their call, and come back with it', () => {
    const s = noted();
    const call = s.doc.slice(4, 5);
    const cut = s.apply(s.tr.delete(4, 5));
    expect(bodies(cut.doc).size).toBe(0);
    const pasted = cut.apply(cut.tr.replace(cut.doc.child(0).nodeSize + 1, undefined, call));
    expect([...bodies(pasted.doc).values()]).toEqual(['the note']);
    expect([...bodies(pasted.doc).keys()]).toEqual(refs(pasted.doc));
  });
  it('called twice become two with the same words', () => {
    const s = noted();
    const twice = s.apply(s.tr.replace(11, undefined, s.doc.slice(4, 5)));
    expect(new Set(refs(twice.doc)).size).toBe(2);
    expect([...bodies(twice.doc).values()]).toEqual(['the note', 'the note']);
  });
  it('of others’ changes are left to others', () => {
    const s = noted();
    const theirs = s.apply(s.tr.delete(4, 5).setMeta('collab$', { version: 1, unconfirmed: [] }));
    expect(bodies(theirs.doc).size).toBe(1);
  });
});

describe('tables', () => {
  const grid = (s: EditorState): string => {
    const at = tableAt(s);
    const rows: string[] = [];
    at?.table.forEach((r) => {
      const cells: string[] = [];
      r.forEach((c) => void cells.push((c.attrs.head ? '#' : '') + (c.textContent || '.')));
      rows.push(cells.join(' '));
    });
    return rows.join(' / ');
  };
  const filled = (): EditorState => {
    const cell = (t: string, head = false): Node => n.cell!.create({ id: t, head }, [p(`${t}p`, t)]);
    const table = n.table!.create({ id: 't' }, [
      n.row!.create({ id: 'r' }, [cell('a', true), cell('b', true)]),
      n.row!.create({ id: 's' }, [cell('c'), cell('d')]),
    ]);
    // The cursor stands in "d".
    const doc = n.doc!.create(null, [p('x', 'before'), table]);
    let at = 0;
    doc.descendants((x, pos) => {
      if (x.isText && x.text === 'd') at = pos;
    });
    return EditorState.create({ doc, selection: TextSelection.create(doc, at) });
  };
  /** What a deed makes of a state. */
  const done = (s: EditorState, deed: Command): EditorState => {
    let now = s;
    deed(s, (tr) => (now = s.apply(tr)));
    now.doc.check();
    return now;
  };
  const deedOf = (of: string, name: string): Command => DEEDS[of]!.find(([n]) => n === name)![1];
  const own = (name: string): Command => TABLE_DEEDS.find(([n]) => n === name)![1];
  it.each([
    ['Row', 'Insert above', '#a #b / . . / c d'],
    ['Row', 'Insert below', '#a #b / c d / . .'],
    ['Row', 'Move up', 'c d / #a #b'],
    ['Row', 'Delete row', '#a #b'],
    ['Column', 'Insert left', '#a #. #b / c . d'],
    ['Column', 'Insert right', '#a #b #. / c d .'],
    ['Column', 'Move left', '#b #a / d c'],
    ['Column', 'Delete column', '#a / c'],
  ])('%s: %s', (of, name, expected) => {
    const after = done(filled(), deedOf(of, name));
    expect(
      grid(EditorState.create({ doc: after.doc, selection: TextSelection.near(after.doc.resolve(12)) })),
    ).toBe(expected);
  });
  it('have heads, and none', () => {
    const without = done(filled(), own('Header row'));
    expect(grid(without)).toBe('a b / c d');
    expect(grid(done(without, own('Header row')))).toBe('#a #b / c d');
  });
  it('range a column, and get one caption', () => {
    const ranged = done(filled(), deedOf('Cells', 'Align right'));
    const aligns: string[] = [];
    tableAt(ranged)!.table.descendants((x) => {
      if (x.type === n.cell) aligns.push(x.attrs.align as string);
    });
    expect(aligns).toEqual(['left', 'right', 'left', 'right']);
    const captioned = done(filled(), own('Caption'));
    expect(captioned.doc.child(1).type.name).toBe('tableCaption');
    expect(captioned.selection.$from.parent.type.name).toBe('tableCaption');
  });
  it('go when nothing of them is left, and leave a paragraph where the text would be empty', () => {
    expect(done(filled(), own('Delete the table')).doc.childCount).toBe(1);
    const doc = n.doc!.create(null, [newTable(1, 1)]);
    const only = EditorState.create({ doc, selection: TextSelection.near(doc.resolve(4)) });
    expect(done(only, deedOf('Column', 'Delete column')).doc.child(0).type.name).toBe('paragraph');
    expect(own('Header row')(state([p('a', 'x')], 1))).toBe(false);
  });
});

describe('marks that say something', () => {
  it('take the word under the cursor, are found inside it, changed and taken away', () => {
    const s = state([p('a', 'See the rope-walk there')], 12);
    expect(stretchOf(s, 'link')).toEqual({ from: 9, to: 18 });
    const linked = s.apply(setTelling(s, 'link', { kind: 'web', target: 'https://a.org' })!);
    const at = markAt(linked, 'link')!;
    expect([at.from, at.to, at.mark.attrs.target]).toEqual([9, 18, 'https://a.org']);
    const changed = linked.apply(setTelling(linked, 'link', { kind: 'place', target: 's1' })!);
    expect(markAt(changed, 'link')?.mark.attrs).toEqual({ kind: 'place', target: 's1' });
    expect(markAt(changed.apply(setTelling(changed, 'link', null)!), 'link')).toBeNull();
  });
  it('have nothing to take between words', () => {
    expect(stretchOf(state([p('a', 'a  b')], 3), 'indexed')).toBeNull();
    expect(setTelling(state([p('a')], 1), 'indexed', { term: 'x' })).toBeNull();
  });
  it('stay when looks are cleared', () => {
    const text = schema.text('word', [
      schema.mark('strong'),
      schema.mark('emphasis'),
      schema.mark('link', { kind: 'web', target: 'x' }),
    ]);
    let s = state([n.paragraph!.create({ id: 'a' }, text)], [1, 5]);
    expect(clearLooks(state([p('a', 'x')], 1))).toBe(false);
    clearLooks(s, (tr) => (s = s.apply(tr)));
    expect(
      s.doc
        .child(0)
        .child(0)
        .marks.map((m) => m.type.name),
    ).toEqual(['link']);
  });
});

it('hidden signs are marked when they are asked for, and only then', () => {
  let s = state([p('a', 'a b\u00a0c\td')], 1, [signsPlugin()]);
  const shown = (): number => signs.getState(s)?.marks.find().length ?? -1;
  expect(shown()).toBe(0);
  s = s.apply(s.tr.setMeta(signs, true));
  expect(shown()).toBe(4);
  s = s.apply(s.tr.insertText(' ', 2));
  expect(shown()).toBe(5);
  s = s.apply(s.tr.setMeta(signs, false));
  expect(shown()).toBe(0);
});

it('counts words once a text, and says how long they take', () => {
  const b = book([section('a', 'chapter', ['One two three.']), section('b', 'chapter', ['Four.'])]);
  expect([wordsOf(b.sections[0]!.content), wordsIn(b)]).toEqual([3, 4]);
  // 230 words a minute: common practice says 200 to 250.
  expect([1, 230, 11_500, 92_000].map(readingTime)).toEqual(['1 min', '1 min', '50 min', '6 h 40 min']);
});
