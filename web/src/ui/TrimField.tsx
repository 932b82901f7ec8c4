'use client';
/** The trim: one that printers list, one of the imprint's own by its name, or any size typed. */
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { TRIMS, trimOf } from '@pagina/core/design';
import type { NamedTrim } from '@pagina/data';
import { Button, input } from './controls';

export function TrimField({ trim, onTrim }: { trim: string; onTrim: (trim: string) => void }) {
  const [named, setNamed] = useState<NamedTrim[]>([]);
  const listed = TRIMS.some((t) => t.name === trim);
  const known = named.find((t) => t.size === trim);
  const [own, setOwn] = useState(listed ? '' : trim);
  const [name, setName] = useState('');
  const [wrong, setWrong] = useState(false);
  const ask = async (method: 'GET' | 'POST' | 'DELETE', address = '', body?: NamedTrim): Promise<void> => {
    const r = await fetch(`/api/trims${address}`, {
      method,
      ...(body ? { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) } : {}),
    }).catch(() => null);
    const answer = r && ((await r.json()) as NamedTrim[] | { message: string });
    if (Array.isArray(answer)) setNamed(answer);
    else if (method !== 'GET') toast(answer?.message ?? 'Pagina can’t be reached just now.');
  };
  useEffect(() => void ask('GET'), []);
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
        value={trim}
        onChange={(e) => onTrim(e.target.value)}
      >
        {listed || known ? null : <option value={trim}>{trim}</option>}
        {TRIMS.map((t) => (
          <option key={t.name}>{t.name}</option>
        ))}
        {named.length > 0 ? (
          <optgroup label="Your own">
            {named.map((t) => (
              <option key={t.name} value={t.size}>
                {t.name}, {t.size}
              </option>
            ))}
          </optgroup>
        ) : null}
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
      {known ? (
        <span className="flex items-center gap-2 text-[13px] text-ink-soft">
          Your own: {known.name}
          <Button
            kind="quiet"
            className="h-6 px-1"
            onClick={() => void ask('DELETE', `?name=${encodeURIComponent(known.name)}`)}
          >
            Delete the name
          </Button>
        </span>
      ) : listed ? null : (
        <form
          className="flex gap-1"
          onSubmit={(e) => {
            e.preventDefault();
            void ask('POST', '', { name, size: trim }).then(() => setName(''));
          }}
        >
          <input
            aria-label="Name of this trim"
            className={`${input} h-7`}
            placeholder="name it to use it in other titles"
            maxLength={60}
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
          <Button type="submit" className="h-7" disabled={!name.trim()}>
            Save
          </Button>
        </form>
      )}
    </div>
  );
}
