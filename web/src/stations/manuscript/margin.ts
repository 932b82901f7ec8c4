'use client';
/** The right margin of a section: its notes and its findings stand beside their lines, one below the other where they crowd. */
import type { Node } from 'prosemirror-model';
import type { NodeView } from 'prosemirror-view';

const APART = 6;

/** A note's body; where it stands is set from outside the editor, which must not take that for a change of the text. */
export const noteView = (node: Node): NodeView => {
  const dom = document.createElement('aside');
  dom.className = 'note';
  dom.dataset.id = node.attrs.id as string;
  const contentDOM = document.createElement('div');
  dom.append(contentDOM);
  return {
    dom,
    contentDOM,
    ignoreMutation: (m) => m.type === 'attributes' && m.target === dom,
  };
};

/** Sets notes and findings beside their lines. `host` holds the editor, `column` the findings. */
export function layMargin(host: HTMLElement, column: HTMLElement): void {
  const editor = host.querySelector<HTMLElement>('.ProseMirror');
  // Out of sight it keeps the height that stands for its text.
  if (!editor) return;
  const origin = editor.getBoundingClientRect();
  const place = column.getBoundingClientRect();
  const topOf = (selector: string): number | null => {
    const el = editor.querySelector(selector);
    return el ? el.getBoundingClientRect().top - origin.top : null;
  };
  const notes = [...editor.querySelectorAll<HTMLElement>('aside.note')].map((el) => ({
    el,
    want: topOf(`[data-call="${CSS.escape(el.dataset.id ?? '')}"]`) ?? 0,
    shift: 0,
  }));
  const findings = [...column.querySelectorAll<HTMLElement>('[data-beside]')].map((el) => ({
    el,
    want: (el.dataset.beside && topOf(`[data-id="${CSS.escape(el.dataset.beside)}"]`)) || 0,
    shift: origin.top - place.top,
  }));
  for (const { el } of notes) {
    el.style.left = `${place.left - origin.left}px`;
    el.style.width = `${place.width}px`;
  }
  // Heights are read once all widths are set.
  const all = [...notes, ...findings]
    .sort((a, b) => a.want - b.want)
    .map((x) => ({ ...x, height: x.el.getBoundingClientRect().height }));
  let free = -Infinity;
  for (const x of all) {
    const top = Math.max(x.want, free);
    x.el.style.top = `${top + x.shift}px`;
    free = top + x.height + APART;
  }
  host.style.minHeight = free > origin.height ? `${Math.ceil(free)}px` : '';
}
