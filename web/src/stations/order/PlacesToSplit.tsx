'use client';
/** Where a section can be split: its lines in the order of the text, narrowed by what is typed. */
import { useDeferredValue, useMemo, useState } from 'react';
import { onOneLine, type Section } from '@pagina/core/book';
import { lineOf } from '@/ui/Field';

interface Place {
  block: string;
  what: string;
  text: string;
}

/** Rows shown at once; typing narrows the rest. */
const MOST = 200;
const WHAT: Record<string, string> = {
  subhead: 'before the subhead',
  break: 'at the break',
  quotation: 'in the quotation',
  letter: 'in the letter',
  passage: 'in the passage',
};
/** What holds lines at which a section can be split. */
const HOLDERS: ReadonlySet<string> = new Set(['quotation', 'letter', 'passage']);

export function PlacesToSplit({ section, onSplit }: { section: Section; onSplit: (block: string) => void }) {
  const [typed, setTyped] = useState('');
  const wanted = useDeferredValue(typed.trim().toLowerCase());
  const places = useMemo(() => placesIn(section), [section]);
  const found = wanted === '' ? places : places.filter((p) => p.text.toLowerCase().includes(wanted));
  return (
    <div className="mt-1 border border-rule bg-table">
      <div className="border-b border-rule p-1">
        <input
          type="search"
          aria-label="Find a line to split at"
          placeholder="Find a line"
          className={lineOf('h-7')}
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
        />
      </div>
      <ul className="max-h-44 overflow-auto py-1" aria-label="Split before">
        {found.slice(0, MOST).map((p) => (
          <li key={p.block}>
            <button
              type="button"
              className="block w-full truncate px-2 text-left hover:text-spruce"
              onClick={() => onSplit(p.block)}
            >
              <span className="text-[13px] text-ink-soft">{p.what}</span>{' '}
              <span className="font-serif">{p.text}</span>
            </button>
          </li>
        ))}
        {found.length === 0 ? <li className="px-2 text-ink-soft">No line contains these words.</li> : null}
        {found.length > MOST ? (
          <li className="px-2 text-[13px] text-ink-soft">
            {(found.length - MOST).toLocaleString('en-GB')} more lines. Type a word from the line you want.
          </li>
        ) : null}
      </ul>
    </div>
  );
}

/** Every line with text above it in the section. */
function placesIn(s: Section): Place[] {
  const places: Place[] = [];
  s.content.forEach((n, _offset, i) => {
    const name = n.type.name;
    if (name === 'noteBody') return;
    if (HOLDERS.has(name)) {
      n.forEach((line, _o, k) => {
        if (line.type.name !== 'paragraph' || onOneLine(line) === '' || (i === 0 && k === 0)) return;
        const place = k === 0 ? n : line;
        places.push({
          block: place.attrs.id as string,
          what: WHAT[name] ?? 'before',
          text: onOneLine(line).slice(0, 80),
        });
      });
      return;
    }
    if (i === 0 || (n.textContent.trim() === '' && name !== 'break')) return;
    const next = name === 'break' ? s.content.maybeChild(i + 1) : n;
    places.push({
      block: n.attrs.id as string,
      what: WHAT[name] ?? 'before',
      text: next ? onOneLine(next).slice(0, 80) : '',
    });
  });
  return places;
}
