'use client';
/** All that the checks say of the ebook; each leads to its place. */
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { bySeverity, offsetAt, type Finding, type Severity } from '@pagina/core/base';
import { SeverityMark } from '@/ui/SeverityMark';
import { OneOf } from '@/ui/ToggleGroup';
import { useEbook, useSnapshot } from './context';
import { Sheet } from './Sheet';

type Filter = 'all' | Severity;

export function FindingsSheet() {
  const router = useRouter();
  const { session, goTo } = useEbook();
  const { view, findings } = useSnapshot();
  const [filter, setFilter] = useState<Filter>('all');
  const sorted = useMemo(() => bySeverity(findings ?? []), [findings]);
  const count = (s: Severity): number => sorted.filter((f) => f.severity === s).length;
  const shown = sorted.filter((f) => filter === 'all' || f.severity === filter);
  const show = async (f: Finding): Promise<void> => {
    if (!f.file) return;
    if (f.file === view.packagePath) return router.push(`/ebooks/${session.id}/package`);
    if (
      f.file === view.ncxPath ||
      (f.file === view.navigationPath && !view.documents.some((d) => d.path === f.file))
    )
      return router.push(`/ebooks/${session.id}/navigation`);
    if (view.sheets.includes(f.file)) return router.push(`/ebooks/${session.id}/styles`);
    const text = await session.source(f.file).catch(() => null);
    goTo({
      path: f.file,
      offset: text === null || f.line === undefined ? null : offsetAt(text, f.line, f.column ?? 1),
    });
    router.push(`/ebooks/${session.id}/documents`);
  };
  return (
    <Sheet
      name="Findings"
      source=""
      tools={
        <OneOf
          label="Which are shown"
          value={filter}
          choices={[
            { value: 'all', name: `All ${sorted.length}` },
            { value: 'blocker', name: `Blockers ${count('blocker')}` },
            { value: 'caution', name: `Cautions ${count('caution')}` },
            { value: 'note', name: `Notes ${count('note')}` },
          ]}
          onChoose={setFilter}
        />
      }
    >
      {findings === null ? (
        <p className="text-ink-soft">Checking the ebook …</p>
      ) : shown.length === 0 ? (
        <p className="text-ink-soft">
          {sorted.length === 0 ? 'The checks find nothing wrong with this ebook.' : 'None of these.'}
        </p>
      ) : (
        <ul className="max-w-[980px] border-t border-rule" aria-label="Findings">
          {shown.map((f, i) => (
            <li
              key={i}
              data-finding={f.rule}
              className="grid grid-cols-[90px_1fr_auto] gap-x-3 border-b border-rule py-2"
            >
              <SeverityMark severity={f.severity} />
              <span className="min-w-0">
                {f.message}
                {f.why ? <span className="block text-[13px] text-ink-soft">{f.why}</span> : null}
                {f.remedy ? <span className="block text-[13px] text-ink-soft">{f.remedy}</span> : null}
              </span>
              {f.file ? (
                <button
                  type="button"
                  className="self-start text-[13px] text-spruce underline"
                  onClick={() => void show(f)}
                >
                  {view.documents.find((d) => d.path === f.file)?.label ?? f.file}
                  {f.line ? `, line ${f.line}` : ''}
                </button>
              ) : null}
            </li>
          ))}
        </ul>
      )}
    </Sheet>
  );
}
