'use client';
/** Quotation marks, dashes and ellipses as they are typed; one Backspace puts back what the keys said. */
import { InputRule, inputRules } from 'prosemirror-inputrules';
import type { Plugin } from 'prosemirror-state';
import { schema } from '@pagina/core/book';
import { blockText, signTyped, styleFor } from '@pagina/core/tidy';

export const typedSigns = (language: () => string): Plugin =>
  inputRules({
    rules: [
      new InputRule(/["' .-]$/, (state, match, _start, end) => {
        const { $from, empty } = state.selection;
        const marks = state.storedMarks ?? $from.marks();
        if (
          !empty ||
          marks.some((m) => m.type === schema.marks.monospaced || m.type === schema.marks.formula)
        )
          return null;
        const text = blockText($from.parent);
        const at = $from.parentOffset;
        const tag = marks.find((m) => m.type === schema.marks.language)?.attrs.tag as string | undefined;
        const sign = signTyped(text.slice(0, at), match[0], text.slice(at), styleFor(tag ?? language()));
        if (!sign) return null;
        return state.tr.replaceWith(end - sign.cut, end, schema.text(sign.by, marks));
      }),
    ],
  });
