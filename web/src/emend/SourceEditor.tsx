'use client';
/**
 * A source, or a piece of one, in an editor. What is typed is told as edits of the source with its own line ends; Undo is the
 * ebook’s own, since it reaches further than this editor.
 */
import { defaultKeymap } from '@codemirror/commands';
import { css } from '@codemirror/lang-css';
import { xml } from '@codemirror/lang-xml';
import { HighlightStyle, syntaxHighlighting } from '@codemirror/language';
import { lintGutter, setDiagnostics, type Diagnostic } from '@codemirror/lint';
import { highlightSelectionMatches, openSearchPanel, search, searchKeymap } from '@codemirror/search';
import { Annotation, EditorState, type Extension } from '@codemirror/state';
import { drawSelection, EditorView, keymap, lineNumbers } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { useEffect, useRef } from 'react';
import { editBetween, lineEndOf } from '@pagina/core/emend';
import { inSource, withPlainEnds } from './lines';

export interface SourceFault {
  /** Place in the editor’s source. */
  at: number;
  severity: 'blocker' | 'caution' | 'note';
  message: string;
}
export interface Typed {
  at: number;
  removed: string;
  inserted: string;
}

const fromOutside = Annotation.define<boolean>();
const SEVERITY = { blocker: 'error', caution: 'warning', note: 'info' } as const;

const look = EditorView.theme({
  '&': { backgroundColor: 'var(--sheet)', color: 'var(--ink)', fontSize: '13px' },
  '.cm-scroller': { fontFamily: 'ui-monospace, "DejaVu Sans Mono", monospace', lineHeight: '20px' },
  '.cm-content': { caretColor: 'var(--ink)', padding: '6px 0' },
  '&.cm-focused': { outline: 'none' },
  '.cm-cursor': { borderLeftColor: 'var(--ink)' },
  '.cm-gutters': { backgroundColor: 'var(--sheet)', color: 'var(--ink-soft)', border: 'none' },
  '.cm-selectionBackground, &.cm-focused .cm-selectionBackground': {
    backgroundColor: 'color-mix(in srgb, var(--spruce) 28%, transparent) !important',
  },
  '.cm-panels': { backgroundColor: 'var(--table)', color: 'var(--ink)', borderColor: 'var(--rule)' },
  '.cm-panel input, .cm-panel button': {
    font: 'inherit',
    backgroundImage: 'none',
    backgroundColor: 'var(--sheet)',
    color: 'var(--ink)',
    border: '1px solid var(--edge)',
    borderRadius: '2px',
  },
  '.cm-tooltip': {
    backgroundColor: 'var(--sheet)',
    color: 'var(--ink)',
    border: '1px solid var(--edge)',
    borderRadius: '2px',
  },
  '.cm-diagnostic': { borderLeft: '2px solid var(--edge)', padding: '2px 8px' },
  '.cm-diagnostic-error': { borderLeftColor: 'var(--rubric)' },
  '.cm-diagnostic-warning': { borderLeftColor: 'var(--ochre)' },
  '.cm-lintRange-error': { backgroundImage: 'none', borderBottom: '2px solid var(--rubric)' },
  '.cm-lintRange-warning': { backgroundImage: 'none', borderBottom: '2px dotted var(--ochre)' },
  '.cm-lintRange-info': { backgroundImage: 'none', borderBottom: '1px dotted var(--ink-soft)' },
});
const ink = HighlightStyle.define([
  { tag: [tags.tagName, tags.angleBracket, tags.className, tags.labelName], color: 'var(--spruce)' },
  { tag: [tags.attributeName, tags.propertyName], color: 'var(--ink-soft)' },
  { tag: [tags.attributeValue, tags.string, tags.number, tags.unit, tags.color], color: 'var(--ochre)' },
  {
    tag: [tags.comment, tags.processingInstruction, tags.documentMeta],
    color: 'var(--ink-soft)',
    fontStyle: 'italic',
  },
  { tag: tags.character, color: 'var(--rubric)' },
]);

export function SourceEditor({
  label,
  language,
  source,
  lineEnd,
  firstLine = 1,
  faults,
  cursor,
  className = '',
  onType,
  onUndo,
  onLeave,
}: {
  label: string;
  language: 'xml' | 'css';
  source: string;
  /** That of the whole file, where this is a piece of it. */
  lineEnd?: string;
  /** Number of its first line in the file. */
  firstLine?: number;
  faults: readonly SourceFault[];
  /** Where the cursor goes first, as a place in the source; a new object moves it again. */
  cursor?: { at: number } | null;
  className?: string;
  onType: (typed: readonly Typed[]) => void;
  onUndo: (redo: boolean) => void;
  onLeave?: () => void;
}) {
  const holder = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  /** The source as this editor has it, with its own line ends. */
  const raw = useRef(source);
  const latest = useRef({ onType, onUndo, onLeave, lineEnd, firstLine });
  latest.current = { onType, onUndo, onLeave, lineEnd, firstLine };

  useEffect(() => {
    const parent = holder.current;
    if (!parent) return;
    const keys = (redo: boolean) => (): boolean => (latest.current.onUndo(redo), true);
    const extensions: Extension[] = [
      lineNumbers({ formatNumber: (n) => String(n + latest.current.firstLine - 1) }),
      drawSelection(),
      EditorView.lineWrapping,
      language === 'css' ? css() : xml({ autoCloseTags: false }),
      syntaxHighlighting(ink),
      look,
      lintGutter(),
      search({ top: true }),
      highlightSelectionMatches(),
      keymap.of([
        { key: 'Mod-z', run: keys(false), preventDefault: true },
        { key: 'Mod-y', run: keys(true), preventDefault: true },
        { key: 'Mod-Shift-z', run: keys(true), preventDefault: true },
        { key: 'Mod-f', run: openSearchPanel },
        ...searchKeymap,
        { key: 'Escape', run: () => (latest.current.onLeave?.(), latest.current.onLeave !== undefined) },
        ...defaultKeymap,
      ]),
      EditorView.contentAttributes.of({ 'aria-label': label, spellcheck: 'false', autocapitalize: 'off' }),
      EditorView.updateListener.of((u) => {
        if (!u.docChanged || u.transactions.some((t) => t.annotation(fromOutside))) return;
        const end = latest.current.lineEnd ?? lineEndOf(raw.current);
        const typed: Typed[] = [];
        u.changes.iterChanges((from, to, _, __, inserted) => {
          const at = inSource(raw.current, from);
          typed.unshift({
            at,
            removed: raw.current.slice(at, inSource(raw.current, to)),
            inserted: inserted.toString().replaceAll('\n', end),
          });
        });
        // From the last to the first, so that each stands where it says.
        for (const t of typed)
          raw.current = raw.current.slice(0, t.at) + t.inserted + raw.current.slice(t.at + t.removed.length);
        latest.current.onType(typed);
      }),
    ];
    raw.current = source;
    const made = new EditorView({
      parent,
      state: EditorState.create({ doc: withPlainEnds(source), extensions }),
    });
    view.current = made;
    return () => {
      made.destroy();
      view.current = null;
    };
    // Another source under the same label comes in by the effect below.
  }, [label, language]);

  useEffect(() => {
    const v = view.current;
    if (!v || raw.current === source) return;
    const edit = editBetween('', v.state.doc.toString(), withPlainEnds(source));
    raw.current = source;
    if (edit)
      v.dispatch({
        changes: { from: edit.at, to: edit.at + edit.removed.length, insert: edit.inserted },
        annotations: fromOutside.of(true),
      });
  }, [source]);

  useEffect(() => {
    const v = view.current;
    if (!v) return;
    const length = v.state.doc.length;
    const found = faults.map((f): Diagnostic => {
      const from = Math.min(length, withPlainEnds(raw.current.slice(0, Math.max(0, f.at))).length);
      const word = /^[^\s>]*>?/.exec(v.state.doc.sliceString(from, from + 60))?.[0].length ?? 0;
      return {
        from,
        to: Math.min(length, from + Math.max(1, word)),
        severity: SEVERITY[f.severity],
        message: f.message,
      };
    });
    v.dispatch(setDiagnostics(v.state, found));
  }, [faults, source]);

  useEffect(() => {
    const v = view.current;
    if (!v || !cursor) return;
    const at = Math.min(v.state.doc.length, withPlainEnds(raw.current.slice(0, cursor.at)).length);
    v.dispatch({ selection: { anchor: at }, effects: EditorView.scrollIntoView(at, { y: 'center' }) });
    v.focus();
  }, [cursor]);

  return <div ref={holder} data-source={label} className={`min-h-0 ${className} [&_.cm-editor]:h-full`} />;
}
