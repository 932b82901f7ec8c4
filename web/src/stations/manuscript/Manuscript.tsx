'use client';
/** The manuscript: the text of the whole book, continuous; print's folio and line in the left margin, findings in the right. */
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Finding } from '@pagina/core/base';
import { carries, kindRule, type Section } from '@pagina/core/book';
import { headingsOf, isStanding, type Heading } from '@pagina/core/order';
import { useBook, useFindings, useTitle } from '@/title/context';
import { SectionText } from './SectionText';
import { Find } from './Find';
import { Styles, type Beside } from './Styles';
import { Tidy } from './Tidy';
import type { EditorView } from 'prosemirror-view';

export function Manuscript() {
  const { book, edition } = useBook();
  const { place } = useTitle();
  const findings = useFindings();
  const scroller = useRef<HTMLDivElement>(null);
  const [view, setView] = useState<EditorView | null>(null);
  const [beside, setBeside] = useState<Beside>(null);
  const [, redraw] = useState(0);
  const headings = useMemo(() => headingsOf(book.sections, book), [book]);
  const shown = book.sections.filter((s) => carries(s, edition) && s.kind !== 'contents');
  useEffect(() => {
    // The browser's own find sees only what is on the screen.
    const keys = (e: KeyboardEvent): void => {
      if (!(e.ctrlKey || e.metaKey) || e.altKey || e.shiftKey || e.key.toLowerCase() !== 'f') return;
      e.preventDefault();
      setBeside('find');
    };
    addEventListener('keydown', keys);
    return () => removeEventListener('keydown', keys);
  }, []);
  useEffect(() => {
    if (!place) return;
    const el = scroller.current?.querySelector(`[data-section="${place.section}"]`);
    el?.scrollIntoView({ block: 'start' });
    if (!place.block) return;
    // The section's text appears when it comes into sight; its block is looked for a moment later.
    const timer = setTimeout(
      () =>
        scroller.current?.querySelector(`[data-id="${place.block}"]`)?.scrollIntoView({ block: 'center' }),
      120,
    );
    return () => clearTimeout(timer);
  }, [place]);
  return (
    <div className="flex h-full flex-col">
      <Styles view={view} beside={beside} onBeside={(b) => setBeside(b === beside ? null : b)} />
      <div className="flex min-h-0 flex-1">
        <div
          ref={scroller}
          data-scrolls
          tabIndex={0}
          role="region"
          aria-label="Text of the book"
          className="min-h-0 min-w-0 flex-1 overflow-auto bg-sheet"
        >
          <div className="grid grid-cols-[minmax(116px,1fr)_minmax(0,640px)_minmax(200px,1fr)] gap-x-5 px-4 pt-6 pb-40">
            {shown.map((s) => (
              <SectionRow
                key={s.id}
                section={s}
                standing={isStanding(s, book.record)}
                heading={headings.get(s.id)!}
                findings={findings.filter((f) => f.place?.section === s.id)}
                onView={(v) => setView(v)}
                onState={() => redraw((n) => n + 1)}
              />
            ))}
          </div>
        </div>
        {beside === 'tidy' ? <Tidy onClose={() => setBeside(null)} /> : null}
        {beside === 'find' ? <Find onClose={() => setBeside(null)} /> : null}
      </div>
    </div>
  );
}

function SectionRow({
  section,
  standing,
  heading,
  findings,
  onView,
  onState,
}: {
  section: Section;
  standing: boolean;
  heading: Heading;
  findings: Finding[];
  onView: (v: EditorView) => void;
  onState: () => void;
}) {
  const rule = kindRule(section.kind);
  return (
    <>
      <div className="col-start-2 mt-8 border-t border-rule pt-2" data-section={section.id}>
        <p className="column-head">{rule.label}</p>
        <h2 className="font-serif text-[24px] leading-8">
          {heading.number ? <span className="text-ink-soft">{heading.number}</span> : null}
          {heading.number && heading.title ? ' · ' : null}
          {heading.title}
        </h2>
        {heading.subtitle ? (
          <p className="font-serif text-[17px] text-ink-soft italic">{heading.subtitle}</p>
        ) : null}
      </div>
      <div className="col-start-2 pt-3">
        {standing ? (
          <p className="mb-2 text-[13px] text-ink-soft">
            This page is made from the record. Write here to put your own words in its place.
          </p>
        ) : null}
        <SectionText section={section.id} label={heading.label} onView={onView} onState={onState} />
      </div>
      <ul className="col-start-3 space-y-2 pt-3 text-[13px]" aria-label={`Findings in ${heading.label}`}>
        {findings.map((f, i) => (
          <li
            key={i}
            className={`border-l-2 pl-2 ${f.severity === 'blocker' ? 'border-rubric text-rubric' : 'border-ochre text-ochre'}`}
          >
            {f.message}
            {f.remedy ? <span className="block text-ink-soft">{f.remedy}</span> : null}
          </li>
        ))}
      </ul>
    </>
  );
}
