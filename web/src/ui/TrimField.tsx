'use client';
/** The trim: one that printers list, one of the imprint's own by its name, or any size typed. */
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { TRIMS } from '@pagina/core/design';
import type { NamedTrim } from '@pagina/data';
import { Button } from './Button';
import { trimName, trimSize } from '@/forms/lines';
import { Confirm } from './Dialog';
import { input, Wrong } from './Field';
import { LineForm } from './LineForm';
import { Select } from './Select';

export function TrimField({ trim, onTrim }: { trim: string; onTrim: (trim: string) => void }) {
  const [named, setNamed] = useState<NamedTrim[]>([]);
  const listed = TRIMS.some((t) => t.name === trim);
  const known = named.find((t) => t.size === trim);
  const [own, setOwn] = useState(listed ? '' : trim);
  const [wrong, setWrong] = useState('');
  const ask = async (method: 'GET' | 'POST' | 'DELETE', address = '', body?: NamedTrim): Promise<boolean> => {
    const r = await fetch(`/api/trims${address}`, {
      method,
      ...(body ? { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) } : {}),
    }).catch(() => null);
    const answer = r && ((await r.json()) as NamedTrim[] | { message: string });
    if (Array.isArray(answer)) setNamed(answer);
    else if (method !== 'GET') toast(answer?.message ?? 'Pagina can’t be reached just now.');
    return Array.isArray(answer);
  };
  useEffect(() => void ask('GET'), []);
  const keep = (): void => {
    if (own.trim() === '' || own === trim) return setWrong('');
    const read = trimSize.safeParse(own);
    setWrong(read.success ? '' : (read.error.issues[0]?.message ?? ''));
    if (read.success) onTrim(read.data);
  };
  return (
    <div className="space-y-1" data-setting="trim">
      <Select
        label="Trim"
        className="w-full"
        value={trim}
        choices={[
          ...(listed || known ? [] : [{ value: trim, name: trim }]),
          ...TRIMS.map((t) => ({ value: t.name, name: t.name })),
          ...named.map((t) => ({ value: t.size, name: `${t.name}, ${t.size}`, group: 'Your own' })),
        ]}
        onChoose={onTrim}
      />
      <input
        aria-label="Another trim"
        aria-invalid={wrong ? true : undefined}
        className={input}
        placeholder="another, such as 140 × 210 mm"
        value={own}
        onChange={(e) => setOwn(e.target.value)}
        onBlur={keep}
        onKeyDown={(e) => e.key === 'Enter' && keep()}
      />
      <Wrong>{wrong}</Wrong>
      {known ? (
        <span className="flex items-center gap-2 text-[13px] text-ink-soft">
          Your own: {known.name}
          <Confirm
            question={`Delete the name “${known.name}”?`}
            consequence="Titles that have this trim keep its size. The name is gone from all lists, and Undo can’t bring it back."
            action="Delete the name"
            onConfirm={() => void ask('DELETE', `?name=${encodeURIComponent(known.name)}`)}
          >
            <Button kind="quiet" className="h-6 px-1">
              Delete the name
            </Button>
          </Confirm>
        </span>
      ) : listed ? null : (
        <LineForm
          label="Name of this trim"
          schema={trimName}
          placeholder="name it to use it in other titles"
          maxLength={60}
          action="Save"
          onSend={(name) => ask('POST', '', { name, size: trim })}
        />
      )}
    </div>
  );
}
