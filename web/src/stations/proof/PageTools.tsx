'use client';
/** Tools over the pages of the proof: going to a folio, and the size they are shown at. */
import { zodResolver } from '@hookform/resolvers/zod';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import * as z from 'zod';
import { Button } from '@/ui/Button';
import { lineOf } from '@/ui/Field';
import { Popover } from '@/ui/Popover';
import { AnyOf, type Pressable } from '@/ui/ToggleGroup';
import type { Composed } from '@/workers/messages';
import type { Overlay } from './ProofPage';

const OVERLAYS: Pressable<Overlay>[] = [
  { value: 'grid', name: 'Grid' },
  { value: 'margins', name: 'Type area' },
  { value: 'safe', name: 'Safe area' },
  { value: 'loose', name: 'Loose lines' },
];

/** Goes to the page that bears a folio. */
export function Folio({
  now,
  pages,
  onGo,
}: {
  now: string;
  pages: Composed['pages'];
  onGo: (page: number) => void;
}) {
  const { register, handleSubmit, formState } = useForm({
    resolver: zodResolver(
      z.object({
        folio: z
          .string()
          .trim()
          .toLowerCase()
          .refine((f) => pages.some((p) => p.label === f), 'No page has this folio.'),
      }),
    ),
    defaultValues: { folio: '' },
  });
  const wrong = formState.errors.folio?.message;
  return (
    <form
      noValidate
      className="relative flex items-center gap-1"
      onSubmit={(e) =>
        void handleSubmit(({ folio }) => onGo(pages.find((p) => p.label === folio)?.index ?? 0))(e)
      }
    >
      <label className="flex items-center gap-2">
        <span className="text-ink-soft">Folio</span>
        <input
          {...register('folio')}
          aria-invalid={wrong ? true : undefined}
          aria-description={wrong}
          className={lineOf('h-7 w-14')}
          placeholder={now}
        />
      </label>
      <Button className="h-7 px-2" type="submit">
        Go
      </Button>
      {wrong ? (
        <span
          role="alert"
          className="absolute top-full left-0 z-20 mt-1 border border-rubric bg-sheet px-2 py-1 text-[13px] whitespace-nowrap text-rubric"
        >
          {wrong}
        </span>
      ) : null}
    </form>
  );
}

/** Any size, typed in per cent of the printed one, or as large as fits. */
export function Zoom({
  scale,
  fits,
  onZoom,
}: {
  scale: number;
  fits: boolean;
  onZoom: (zoom: number | null) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const keep = (): void => {
    const n = Number((typed ?? '').replace(/[%\s]/g, ''));
    if (n >= 20 && n <= 600) onZoom(n / 100);
    setTyped(null);
  };
  return (
    <span className="flex items-center gap-1">
      <label className="flex items-center gap-2">
        <span className="text-ink-soft">Size</span>
        <input
          className={lineOf('h-7 w-16')}
          value={typed ?? `${Math.round(scale * 100)} %`}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={() => typed !== null && keep()}
          onKeyDown={(e) => {
            if (e.key === 'Enter') keep();
            if (e.key === 'Escape') setTyped(null);
          }}
        />
      </label>
      <Button className="h-7 px-2" disabled={fits} onClick={() => onZoom(null)} tip="0">
        Fit
      </Button>
    </span>
  );
}

/** What one looks for, laid over the pages. */
export function Overlays({
  of,
  onChange,
}: {
  of: ReadonlySet<Overlay>;
  onChange: (overlays: ReadonlySet<Overlay>) => void;
}) {
  return (
    <Popover
      label="Laid over the pages"
      className="p-2"
      trigger={
        <Button className={`h-7 px-2 ${of.size > 0 ? 'border-spruce text-spruce' : ''}`}>
          {of.size > 0 ? `Overlays, ${of.size}` : 'Overlays'}
        </Button>
      }
    >
      <AnyOf
        label="Laid over the pages"
        values={[...of]}
        choices={OVERLAYS}
        onChoose={(key) => {
          const next = new Set(of);
          if (!next.delete(key)) next.add(key);
          onChange(next);
        }}
      />
    </Popover>
  );
}
