'use client';
/** The whole source of a part, with what the checks say at its lines. */
import { useMemo } from 'react';
import { useEbook, useSnapshot, useSource } from './context';
import { faultsIn } from './faults';
import { SourceEditor } from './SourceEditor';

export function WholeSource({ path, cursor = null }: { path: string; cursor?: { at: number } | null }) {
  const { session, undo } = useEbook();
  const { findings } = useSnapshot();
  const { text, refusal } = useSource(path);
  const faults = useMemo(() => (text === null ? [] : faultsIn(findings, path, text)), [findings, path, text]);
  if (refusal)
    return (
      <p role="alert" className="p-8">
        {refusal}
      </p>
    );
  if (text === null) return <p className="p-8 text-ink-soft">Opening the source …</p>;
  return (
    <SourceEditor
      key={path}
      label={`Source of ${path}`}
      language={path.endsWith('.css') ? 'css' : 'xml'}
      source={text}
      faults={faults}
      cursor={cursor}
      className="flex-1 overflow-hidden"
      onType={(typed) => session.type(typed.map((t) => ({ op: 'edit', path, ...t })))}
      onUndo={undo}
    />
  );
}
