'use client';
/** The words of one box, to be written in. What is typed goes into the section's own text at once. */
import { baseKeymap, toggleMark } from 'prosemirror-commands';
import { undoInputRule } from 'prosemirror-inputrules';
import { keymap } from 'prosemirror-keymap';
import type { Node } from 'prosemirror-model';
import { EditorState, TextSelection } from 'prosemirror-state';
import { Step } from 'prosemirror-transform';
import { EditorView } from 'prosemirror-view';
import { useEffect, useRef } from 'react';
import { schema } from '@pagina/core/book';
import { findOnPages } from '@pagina/core/order';
import { useTitle } from '@/title/context';
import { lineBreak, plugins } from '../manuscript/plugins';
import { typedSigns } from '../manuscript/typing';

const m = schema.marks;

/** A step of the box's own text where the box stands in the section. */
function movedBy(step: Step, by: number): Step {
  const json = step.toJSON() as Record<string, unknown>;
  for (const key of ['from', 'to', 'gapFrom', 'gapTo', 'pos'])
    if (typeof json[key] === 'number') json[key] += by;
  return Step.fromJSON(schema, json);
}

const docOf = (box: Node): Node => schema.node('doc', null, box.content);

export function BoxWords({
  section,
  box,
  fresh,
}: {
  section: string;
  box: Node;
  /** It was added just now: one begins to write at once. */
  fresh: boolean;
}) {
  const { session } = useTitle();
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const id = box.attrs.id as string;
  const began = useRef(fresh);
  useEffect(() => {
    const el = host.current;
    if (!el) return;
    const language = (): string => session.get().book.record.language;
    const contentNow = (): Node | undefined =>
      session.get().book.sections.find((s) => s.id === section)?.content;
    const boxNow = (): Node | null => {
      const content = contentNow();
      return content ? (findOnPages(content, id)?.node ?? null) : null;
    };
    const now = boxNow();
    if (!now) return;
    const v = new EditorView(el, {
      state: EditorState.create({
        doc: docOf(now),
        plugins: [
          typedSigns(language),
          keymap({
            Backspace: undoInputRule,
            'Mod-i': toggleMark(m.emphasis!),
            'Mod-b': toggleMark(m.strong!),
            'Mod-Shift-k': toggleMark(m.smallCaps!),
            'Shift-Enter': lineBreak(false),
          }),
          keymap(baseKeymap),
        ],
      }),
      attributes: {
        'aria-label': 'Words of the box',
        role: 'textbox',
        'aria-multiline': 'true',
        spellcheck: 'false',
        class:
          'min-h-full whitespace-pre-wrap break-words outline-none font-serif text-[17px] leading-6 [&_p]:mb-2',
      },
      dispatchTransaction: (tr) => {
        v.updateState(v.state.apply(tr));
        if (!tr.docChanged) return;
        const state = session.editor(section, () => plugins(language));
        const at = findOnPages(state.doc, id);
        if (!at) return;
        const own = state.tr;
        for (const step of tr.steps) own.step(movedBy(step, at.pos + 1));
        session.dispatch(section, own);
        follow();
      },
    });
    /** Takes in what is in the book: ids that it has given, and what others did. */
    const follow = (): void => {
      const given = boxNow();
      if (!given || given.content.eq(v.state.doc.content)) return;
      const tr = v.state.tr.replaceWith(0, v.state.doc.content.size, given.content);
      const { anchor, head } = v.state.selection;
      const most = tr.doc.content.size;
      const [a, h] = [Math.min(anchor, most), Math.min(head, most)];
      tr.setSelection(TextSelection.between(tr.doc.resolve(a), tr.doc.resolve(h)));
      v.updateState(v.state.apply(tr));
    };
    view.current = v;
    if (began.current) v.focus();
    const off = session.subscribe(follow);
    return () => {
      off();
      v.destroy();
      view.current = null;
    };
  }, [session, section, id]);
  return (
    <div
      ref={host}
      className="h-full min-h-0 overflow-auto border border-edge bg-sheet px-2 py-1"
      onClick={() => view.current?.focus()}
    />
  );
}
