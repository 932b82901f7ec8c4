'use client';
/** A day, chosen in a calendar in which only some days can be. */
import { format } from 'date-fns';
import { DayPicker } from 'react-day-picker';
import { useState } from 'react';
import { Button } from './Button';
import { Popover } from './Popover';

const DAY = 'h-8 w-8 rounded-[2px] text-center hover:bg-table disabled:opacity-45';

export function DayField({
  label,
  value,
  days,
  onChoose,
  none,
}: {
  label: string;
  value: Date | null;
  /** Days that can be chosen. */
  days: readonly Date[];
  onChoose: (day: Date | null) => void;
  /** The words while no day is chosen. */
  none: string;
}) {
  const [open, setOpen] = useState(false);
  const can = new Set(days.map((d) => d.toDateString()));
  const latest = days.reduce<Date | undefined>((a, b) => (a && a > b ? a : b), undefined);
  return (
    <Popover
      label={label}
      className="p-3"
      open={open}
      onOpenChange={setOpen}
      trigger={
        <Button className="h-7" aria-label={`${label}: ${value ? format(value, 'd MMMM yyyy') : none}`}>
          {value ? format(value, 'd MMMM yyyy') : none} <span aria-hidden>▾</span>
        </Button>
      }
    >
      <DayPicker
        mode="single"
        autoFocus
        weekStartsOn={1}
        selected={value ?? undefined}
        defaultMonth={value ?? latest}
        disabled={(d) => !can.has(d.toDateString())}
        onSelect={(d) => {
          onChoose(d ?? null);
          setOpen(false);
        }}
        classNames={{
          month_caption: 'flex h-8 items-center font-serif text-[16px]',
          nav: 'absolute right-3 flex gap-1',
          button_previous: `${DAY} border border-edge`,
          button_next: `${DAY} border border-edge`,
          chevron: 'inline h-3 w-3 fill-ink',
          weekday: 'column-head h-8 w-8 font-normal',
          day: 'p-0',
          day_button: DAY,
          today: 'font-semibold',
          selected: 'bg-spruce text-on-spruce',
          outside: 'text-ink-soft',
          disabled: 'text-ink-soft opacity-45',
        }}
      />
    </Popover>
  );
}
