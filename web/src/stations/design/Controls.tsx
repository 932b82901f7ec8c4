'use client';
/** One setting of a design, by its kind; a setting of the edition's own can be put back to the interior's. */
import { useId, useState, type ReactNode } from 'react';
import { inchString, mm, mmString, parseLength, ptString } from '@pagina/core/base';
import { FAMILIES, settingAt, type Design, type LineStyle } from '@pagina/core/design';
import type { Picture } from '@pagina/core/book';
import { Checkbox } from '@/ui/Checkbox';
import { lineOf } from '@/ui/Field';
import { NumberField } from '@/ui/NumberField';
import { Select } from '@/ui/Select';
import { OneOf } from '@/ui/ToggleGroup';
import { ALIGN, CUTS, FACES, LETTERS, SIGNS, type Setting } from './settings';

export interface Hand {
  design: Design;
  /** Paths that the edition sets itself. */
  own: ReadonlySet<string>;
  interior: string;
  pictures: readonly Picture[];
  /** The trim is given in millimetres: so are the margins. */
  metric: boolean;
  /** Answers false where the value does not fit. */
  set: (path: string, value: unknown, label: string) => boolean;
  reset: (path: string, label: string) => void;
}

export function Control({ setting: s, hand }: { setting: Setting; hand: Hand }) {
  const value = settingAt(hand.design, s.path);
  switch (s.kind) {
    case 'length':
      return <Length setting={s} value={value as number | null} hand={hand} />;
    case 'count':
      return (
        <Row label={s.label} path={s.path} hand={hand}>
          <span className="flex items-center gap-2">
            <NumberField
              label={s.label}
              className="w-20"
              least={s.least}
              most={s.most}
              value={value as number}
              onSet={(n) => hand.set(s.path, n, s.label)}
            />
            <span className="text-ink-soft">{s.of}</span>
          </span>
        </Row>
      );
    case 'choice':
      return (
        <Row label={s.label} path={s.path} hand={hand}>
          <Choice
            label={s.label}
            value={value as string}
            of={s.of}
            onChoose={(v) => hand.set(s.path, v, s.label)}
          />
        </Row>
      );
    case 'switch':
      return (
        <Row label="" path={s.path} hand={hand}>
          <Checkbox
            label={s.label}
            on={value as boolean}
            onSet={(on) => hand.set(s.path, on, s.label)}
            className="py-1"
          />
        </Row>
      );
    case 'family':
      return (
        <Row label={s.label} path={s.path} hand={hand}>
          <Choice
            label={s.label}
            value={value as string}
            of={FAMILIES.map((f) => [f.name, f.name] as const)}
            onChoose={(v) => hand.set(s.path, v, s.label)}
          />
          <span className="block pt-0.5 text-[12px] text-ink-soft">
            {FAMILIES.find((f) => f.name === value)?.manner}
          </span>
        </Row>
      );
    case 'sign':
      return <Sign setting={s} value={value as string} hand={hand} />;
    case 'picture':
      return (
        <Row label={s.label} path={s.path} hand={hand}>
          <Choice
            label={s.label}
            value={value as string}
            of={[['', 'none'] as const, ...hand.pictures.map((p) => [p.id, p.name || p.id] as const)]}
            onChoose={(v) => hand.set(s.path, v, s.label)}
          />
        </Row>
      );
    case 'line':
      return <Line setting={s} value={value as LineStyle} hand={hand} />;
  }
}

function Row({
  label,
  path,
  hand,
  children,
}: {
  label: string;
  path: string;
  hand: Hand;
  children: ReactNode;
}) {
  return (
    <div className="grid grid-cols-[104px_minmax(0,1fr)] items-start gap-x-2 py-1" data-setting={path}>
      <span className="pt-1.5 text-[13px] text-ink-soft">{label}</span>
      <div>
        {children}
        <Reset path={path} label={label} hand={hand} />
      </div>
    </div>
  );
}

function Reset({ path, label, hand }: { path: string; label: string; hand: Hand }) {
  const set = [...hand.own].some((p) => p === path || p.startsWith(`${path}.`));
  return set ? (
    <button
      type="button"
      className="block min-h-6 text-[12px] text-spruce underline"
      onClick={() => hand.reset(path, label)}
    >
      As {hand.interior} has it
    </button>
  ) : null;
}

function Choice({
  label,
  value,
  of,
  onChoose,
}: {
  label: string;
  value: string;
  of: readonly (readonly [string, string])[];
  onChoose: (v: string) => void;
}) {
  return (
    <Select
      label={label}
      className="w-full"
      value={value}
      choices={of.map(([v, name]) => ({ value: v, name }))}
      onChoose={onChoose}
    />
  );
}

type Unit = 'pt' | 'in' | 'mm';
const shown = (mp: number, unit: Unit): string =>
  unit === 'in' ? `${inchString(mp)} in` : unit === 'mm' ? `${mmString(mp)} mm` : `${ptString(mp)} pt`;
/** What an arrow key adds to a length. */
const STEP = { pt: 500, in: 4_500, mm: mm(1) } as const;

function Length({
  setting: s,
  value,
  hand,
}: {
  setting: Extract<Setting, { kind: 'length' }>;
  value: number | null;
  hand: Hand;
}) {
  return (
    <Row label={s.label} path={s.path} hand={hand}>
      <LengthField
        label={s.label}
        value={value}
        unit={s.unit === 'in' && hand.metric ? 'mm' : s.unit}
        empty={s.open ? 'by the trim' : ''}
        onCommit={(v) => hand.set(s.path, v, s.label)}
      />
    </Row>
  );
}

export function LengthField({
  label,
  value,
  unit,
  empty = '',
  onCommit,
}: {
  label: string;
  value: number | null;
  unit: Unit;
  /** What stands where there is no length; '' where there must be one. */
  empty?: string;
  onCommit: (v: number | null) => boolean;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState('');
  const note = useId();
  const keep = (text: string): void => {
    if (text.trim() === '' && empty) {
      onCommit(null);
      return done();
    }
    const mp = parseLength(text, unit);
    if (mp === null) return setWrong('Write a length, such as 11 pt, 4 mm or 0.25 in.');
    if (!onCommit(mp)) return setWrong('That is outside the range for this setting.');
    done();
  };
  const done = (): void => {
    setTyped(null);
    setWrong('');
  };
  return (
    <>
      <input
        aria-label={label}
        aria-invalid={wrong ? true : undefined}
        aria-describedby={wrong ? note : undefined}
        className={lineOf('w-28')}
        placeholder={empty}
        value={typed ?? (value === null ? '' : shown(value, unit))}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={() => typed !== null && keep(typed)}
        onKeyDown={(e) => {
          if (e.key === 'Enter' && typed !== null) keep(typed);
          if (e.key === 'Escape') done();
          if (e.key !== 'ArrowUp' && e.key !== 'ArrowDown') return;
          e.preventDefault();
          if (value !== null && onCommit(value + (e.key === 'ArrowUp' ? STEP[unit] : -STEP[unit]))) done();
        }}
      />
      {wrong ? (
        <span id={note} className="block text-[12px] text-rubric">
          {wrong}
        </span>
      ) : null}
    </>
  );
}

function Sign({
  setting: s,
  value,
  hand,
}: {
  setting: Extract<Setting, { kind: 'sign' }>;
  value: string;
  hand: Hand;
}) {
  return (
    <Row label={s.label} path={s.path} hand={hand}>
      <OneOf
        className="flex-wrap gap-y-1"
        label={s.label}
        value={value === '' ? 'none' : value}
        choices={['none', ...SIGNS].map((sign) => ({ value: sign, name: sign, className: 'font-serif' }))}
        onChoose={(sign) => hand.set(s.path, sign === 'none' ? '' : sign, s.label)}
      />
    </Row>
  );
}

function Line({
  setting: s,
  value,
  hand,
}: {
  setting: Extract<Setting, { kind: 'line' }>;
  value: LineStyle;
  hand: Hand;
}) {
  const set = (key: keyof LineStyle, v: unknown): boolean => hand.set(`${s.path}.${key}`, v, s.label);
  const two = hand.design.text.display !== hand.design.text.family;
  return (
    <fieldset className="border-t border-rule py-2 first:border-t-0" data-setting={s.path}>
      <legend className="float-left w-[104px] pt-1.5 text-[13px] text-ink-soft">{s.label}</legend>
      <div className="ml-[112px] grid grid-cols-[minmax(0,6fr)_minmax(0,5fr)] gap-1">
        <LengthField
          label={`${s.label}: size`}
          value={value.size}
          unit="pt"
          onCommit={(v) => v !== null && set('size', v)}
        />
        <Choice label={`${s.label}: cut`} value={value.cut} of={CUTS} onChoose={(v) => set('cut', v)} />
        <Choice
          label={`${s.label}: letters`}
          value={value.letters}
          of={LETTERS}
          onChoose={(v) => set('letters', v)}
        />
        {s.aligned ? (
          <Choice
            label={`${s.label}: alignment`}
            value={value.align}
            of={ALIGN}
            onChoose={(v) => set('align', v)}
          />
        ) : null}
        <label className="flex items-center gap-1 text-[13px] text-ink-soft">
          Spaced
          <NumberField
            label={`${s.label}: letter spacing, thousandths of an em`}
            className="min-w-0"
            step={10}
            value={value.spacing}
            onSet={(n) => set('spacing', n)}
          />
        </label>
        {two ? (
          <Choice label={`${s.label}: face`} value={value.face} of={FACES} onChoose={(v) => set('face', v)} />
        ) : null}
        <span className="col-span-2">
          <Reset path={s.path} label={s.label} hand={hand} />
        </span>
      </div>
    </fieldset>
  );
}
