'use client';
/** Beside the specimen: the settings of the part that was pointed at, or all parts by name. */
import { inchString, mmString } from '@pagina/core/base';
import { INTERIOR_NAMES, PART_NAMES, PARTS, suggestedMargins, trimOf, type Part } from '@pagina/core/design';
import type { PrintEdition } from '@pagina/core/book';
import { Button } from '@/ui/Button';
import { Collapsible } from '@/ui/Collapsible';
import { Select } from '@/ui/Select';
import { Control, type Hand } from './Controls';
import { settingsAt } from './settings';
import { nameOf } from './target';
import { TrimField } from '@/ui/TrimField';

export function Panel({
  edition,
  hand,
  pages,
  target,
  onTarget,
  onPart,
  onTrim,
}: {
  edition: PrintEdition;
  hand: Hand;
  pages: number;
  target: string;
  onTarget: (target: string) => void;
  onPart: (part: Part, from: string) => void;
  onTrim: (trim: string) => void;
}) {
  if (!target) return <Parts edition={edition} hand={hand} onTarget={onTarget} />;
  const { part, first, more } = settingsAt(target);
  const from = edition.design.from[part] ?? edition.interior;
  return (
    <section aria-label={nameOf(target)} className="px-4 py-2">
      <header className="flex items-center gap-2 pb-1">
        <h2 className="font-serif text-[17px]">{nameOf(target)}</h2>
        <span className="ml-auto" />
        <Button kind="quiet" className="h-7 px-2" onClick={() => onTarget('')}>
          All parts
        </Button>
      </header>
      {part === 'page' ? (
        <div className="grid grid-cols-[104px_minmax(0,1fr)] items-start gap-x-2 py-1">
          <span className="pt-1.5 text-[13px] text-ink-soft">Trim</span>
          <TrimField trim={edition.trim} onTrim={onTrim} />
        </div>
      ) : null}
      {first.map((s) => (
        <Control key={s.path} setting={s} hand={hand} />
      ))}
      {part === 'page' ? <Suggested edition={edition} pages={pages} hand={hand} /> : null}
      {more.length > 0 ? (
        <Collapsible
          className="mt-2 border-t border-rule pt-1 text-[13px]"
          heading={`The rest of ${PART_NAMES[part].toLowerCase()}`}
        >
          {more.map((s) => (
            <Control key={s.path} setting={s} hand={hand} />
          ))}
        </Collapsible>
      ) : null}
      <div className="mt-3 flex items-center gap-2 border-t border-rule pt-3 text-[13px]">
        <span className="text-ink-soft">{PART_NAMES[part]} as in</span>
        <Select
          label={`${PART_NAMES[part]} as in`}
          className="w-36"
          value={from}
          choices={INTERIOR_NAMES.map((n) => ({ value: n, name: n }))}
          onChoose={(name) => onPart(part, name)}
        />
      </div>
    </section>
  );
}

function Parts({
  edition,
  hand,
  onTarget,
}: {
  edition: PrintEdition;
  hand: Hand;
  onTarget: (t: string) => void;
}) {
  return (
    <section aria-label="Parts of the design" className="py-2">
      <p className="px-4 pb-2 text-[13px] text-ink-soft">
        Point at a part of a page, or choose it here. Everything changes as you set it, and can be undone.
      </p>
      <ul>
        {PARTS.map((part) => {
          const own = [...hand.own].filter((p) => p.startsWith(`${part}.`)).length;
          const from = edition.design.from[part];
          const said = [from ? `as in ${from}` : '', own > 0 ? `${own} of your own` : ''].filter(Boolean);
          return (
            <li key={part}>
              <button
                type="button"
                className="flex h-8 w-full items-center gap-2 border-t border-rule px-4 text-left hover:text-spruce"
                onClick={() => onTarget(part)}
              >
                {part === 'page' ? 'Trim and margins' : PART_NAMES[part]}
                <span className="ml-auto text-[13px] text-ink-soft">{said.join(', ')}</span>
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** Margins for the extent of this book, with the reason; taken by hand, so that pages do not change by themselves. */
function Suggested({ edition, pages, hand }: { edition: PrintEdition; pages: number; hand: Hand }) {
  const trim = trimOf(edition.trim);
  if (!trim || pages === 0) return null;
  const { margins, reason } = suggestedMargins(trim, pages);
  const now = hand.design.page.inside ?? suggestedMargins(trim, 0).margins.inside;
  return (
    <p className="py-2 text-[13px]" data-suggested>
      {reason}{' '}
      {now === margins.inside ? null : (
        <button
          type="button"
          className="text-spruce underline"
          onClick={() => hand.set('page.inside', margins.inside, 'Inside margin')}
        >
          Make it {hand.metric ? `${mmString(margins.inside)} mm` : `${inchString(margins.inside)} in`}
        </button>
      )}
    </p>
  );
}
