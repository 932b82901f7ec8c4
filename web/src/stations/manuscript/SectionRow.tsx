'use client';
/** A section in the manuscript: its heading, its text, and beside it what was found in it. */
import { useRouter } from 'next/navigation';
import { memo, useEffect, useRef, useState } from 'react';
import type { EditorView } from 'prosemirror-view';
import type { Finding } from '@pagina/core/base';
import { isPictured, kindRule, type Section } from '@pagina/core/book';
import type { Heading } from '@pagina/core/order';
import { useTitle } from '@/title/context';
import { Button } from '@/ui/Button';
import { layMargin } from './margin';
import { SectionText } from './SectionText';

interface Props {
  section: Section;
  heading: Heading;
  /** Made from the record. */
  fromRecord: boolean;
  findings: readonly Finding[];
  /** In the window when the station opens. */
  first: boolean;
  showSigns: boolean;
  onView: (v: EditorView, section: string) => void;
  onState: () => void;
}

export const lengthOf = ({ content }: Section): { characters: number; blocks: number } => ({
  characters: content.content.size,
  blocks: content.childCount,
});

const NONE: readonly Finding[] = [];
/** How far beyond the window findings are drawn. */
const NEAR = '1200px 0px';

/** Typing in one section redraws no other. */
function same(a: Props, b: Props): boolean {
  return (
    a.section === b.section &&
    a.fromRecord === b.fromRecord &&
    a.showSigns === b.showSigns &&
    a.onView === b.onView &&
    a.onState === b.onState &&
    a.heading.number === b.heading.number &&
    a.heading.title === b.heading.title &&
    a.heading.subtitle === b.heading.subtitle &&
    a.findings.length === b.findings.length &&
    a.findings.every(
      (f, i) => f.message === b.findings[i]?.message && f.place?.block === b.findings[i]?.place?.block,
    )
  );
}

export const SectionRow = memo(function SectionRow(p: Props) {
  const { section, heading, findings = NONE } = p;
  const column = useRef<HTMLUListElement>(null);
  const row = useRef<HTMLDivElement>(null);
  // A long book has hundreds of findings: those far out of sight are not drawn.
  const [near, setNear] = useState(p.first);
  useEffect(() => {
    const seen = new IntersectionObserver((all) => setNear(all.at(-1)?.isIntersecting === true), {
      rootMargin: NEAR,
    });
    if (row.current) seen.observe(row.current);
    return () => seen.disconnect();
  }, []);
  useEffect(() => {
    const host = row.current?.querySelector<HTMLElement>('.manuscript');
    if (near && host && column.current) layMargin(host, column.current);
  }, [findings, near]);
  return (
    <>
      <div className="drawn-when-seen col-start-2 mt-8 border-t border-rule pt-2" data-section={section.id}>
        <p className="column-head">{kindRule(section.kind).label}</p>
        <h2 className="font-serif text-[24px] leading-8">
          {heading.number ? <span className="text-ink-soft">{heading.number}</span> : null}
          {heading.number && heading.title ? ' · ' : null}
          {heading.title}
        </h2>
        {heading.subtitle ? (
          <p className="font-serif text-[17px] text-ink-soft italic">{heading.subtitle}</p>
        ) : null}
      </div>
      <div ref={row} className="col-start-2 pt-3">
        {isPictured(section.content) || section.kind === 'picture-pages' ? (
          <LayOut section={section.id} />
        ) : null}
        {p.fromRecord ? (
          <p className="mb-2 text-[13px] text-ink-soft">
            This page is made from the record. Write here to put your own words in its place.
          </p>
        ) : null}
        <SectionText
          section={section.id}
          label={heading.label}
          length={lengthOf(section)}
          first={p.first}
          showSigns={p.showSigns}
          margin={column}
          onView={p.onView}
          onState={p.onState}
        />
      </div>
      <ul
        ref={column}
        className="pointer-events-none relative col-start-3 mt-3 text-[13px]"
        aria-label={`Findings in ${heading.label}`}
      >
        {(near ? findings : NONE).map((f, i) => (
          <li
            key={i}
            data-beside={f.place?.block ?? ''}
            className={`pointer-events-auto absolute right-0 left-0 border-l-2 pl-2 ${f.severity === 'blocker' ? 'border-rubric text-rubric' : 'border-ochre text-ochre'}`}
          >
            {f.message}
            {f.remedy ? <span className="block text-ink-soft">{f.remedy}</span> : null}
          </li>
        ))}
      </ul>
    </>
  );
}, same);

function LayOut({ section }: { section: string }) {
  const { goTo } = useTitle();
  const router = useRouter();
  return (
    <Button
      className="mb-2 h-7 px-2"
      onClick={() => {
        goTo({ section });
        router.push('pages');
      }}
    >
      Lay out the pages
    </Button>
  );
}
