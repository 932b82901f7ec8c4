'use client';
/** The bar of a formula: how ebooks draw it, and what happens where its signs were changed. */
import { useMemo } from 'react';
import type { EditorView } from 'prosemirror-view';
import { formulaText, mathml, readMathml, schema } from '@pagina/core/book';
import { Button } from '@/ui/Button';
import { markAt } from './marking';

export function FormulaBar({ view }: { view: EditorView }) {
  const at = markAt(view.state, 'formula');
  const { mathml: xml = '', words = '' } = (at?.mark.attrs ?? {}) as Record<string, string>;
  const formula = useMemo(() => readMathml(xml), [xml]);
  if (!at || !formula) return null;
  const changed = view.state.doc.textBetween(at.from, at.to) !== words;
  const drop = (): void => {
    view.dispatch(view.state.tr.removeMark(at.from, at.to, schema.marks.formula));
    view.focus();
  };
  const restore = (): void => {
    const before = view.state.doc
      .resolve(at.from)
      .marks()
      .filter((m) => m.type !== schema.marks.formula);
    view.dispatch(view.state.tr.replaceWith(at.from, at.to, formulaText(formula, before)));
    view.focus();
  };
  return (
    <span className="flex items-center gap-2 text-[13px]" role="group" aria-label="Formula">
      {changed ? (
        <span>The signs were changed, so ebooks show them instead of the formula.</span>
      ) : (
        <>
          <span className="text-ink-soft">Ebooks show</span>
          {/* Written anew from what was read, with nothing in it but the elements of a formula. */}
          <span className="text-[15px]" dangerouslySetInnerHTML={{ __html: mathml(formula, words, false) }} />
          <span className="text-ink-soft">Print sets it on one line.</span>
        </>
      )}
      {changed ? (
        <Button kind="quiet" className="h-7 px-2" onClick={restore}>
          Put the formula back
        </Button>
      ) : null}
      <Button kind="quiet" className="h-7 px-2" onClick={drop}>
        Make it text
      </Button>
    </span>
  );
}
