'use client';
/** A colour: chosen on a field of tones, or typed as six hexadecimal digits. It is given out when the field closes. */
import { HexColorInput, HexColorPicker } from 'react-colorful';
import { useEffect, useState } from 'react';
import { input } from './Field';
import { Popover } from './Popover';

export function ColourField({
  label,
  value,
  onCommit,
}: {
  label: string;
  /** "#rrggbb". */
  value: string;
  onCommit: (value: string) => void;
}) {
  const [now, setNow] = useState(value);
  useEffect(() => setNow(value), [value]);
  const commit = (): void => {
    if (now.toLowerCase() !== value.toLowerCase()) onCommit(now.toLowerCase());
  };
  return (
    <Popover
      label={label}
      className="w-56 space-y-2 p-3 [&_.react-colorful]:w-full [&_.react-colorful__pointer]:h-4 [&_.react-colorful__pointer]:w-4"
      onClosed={commit}
      trigger={
        <button
          type="button"
          aria-label={`${label}: ${value}`}
          data-colour={value}
          className="flex h-7 w-full items-center gap-2 text-left"
        >
          <span className="h-6 w-10 rounded-[2px] border border-edge" style={{ background: value }} />
          {label}
          <span className="ml-auto text-[13px] text-ink-soft">{value}</span>
        </button>
      }
    >
      <HexColorPicker color={now} onChange={setNow} />
      <HexColorInput
        prefixed
        color={now}
        onChange={setNow}
        onKeyDown={(e) => e.key === 'Enter' && commit()}
        aria-label={`${label}, as six hexadecimal digits`}
        className={input}
      />
    </Popover>
  );
}
