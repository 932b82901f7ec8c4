'use client';
/** The trim: one that printers list, or any size typed. */
import { useState } from 'react';
import { TRIMS, trimOf } from '@pagina/core/design';
import { input } from './controls';

export function TrimField({ trim, onTrim }: { trim: string; onTrim: (trim: string) => void }) {
  const listed = TRIMS.some((t) => t.name === trim);
  const [own, setOwn] = useState(listed ? '' : trim);
  const [wrong, setWrong] = useState(false);
  const keep = (): void => {
    if (own.trim() === '' || own === trim) return setWrong(false);
    const read = trimOf(own);
    setWrong(!read);
    if (read) onTrim(read.name);
  };
  return (
    <div className="space-y-1" data-setting="trim">
      <select
        aria-label="Trim"
        className={`${input} px-1`}
        value={listed ? trim : ''}
        onChange={(e) => e.target.value && onTrim(e.target.value)}
      >
        {listed ? null : <option value="">{trim}</option>}
        {TRIMS.map((t) => (
          <option key={t.name}>{t.name}</option>
        ))}
      </select>
      <input
        aria-label="Another trim"
        aria-invalid={wrong || undefined}
        className={`${input} ${wrong ? 'border-rubric' : ''}`}
        placeholder="another, such as 140 × 210 mm"
        value={own}
        onChange={(e) => setOwn(e.target.value)}
        onBlur={keep}
        onKeyDown={(e) => e.key === 'Enter' && keep()}
      />
      {wrong ? (
        <span className="block text-[12px] text-rubric">
          Write width × height, such as 140 × 210 mm, between 3.5 and 14 in.
        </span>
      ) : null}
    </div>
  );
}
