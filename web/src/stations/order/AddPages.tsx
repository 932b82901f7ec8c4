'use client';
/** Pages of every kind that the book lacks, several added at once, each in its place and with its text from the record. */
import { useState } from 'react';
import { kindRule, SECTION_KINDS, type Matter, type SectionKind } from '@pagina/core/book';
import { useBook } from '@/title/context';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { Popover } from '@/ui/Popover';
import type { Actions } from './actions';

const MATTERS: readonly [Matter, string][] = [
  ['front', 'Front matter'],
  ['body', 'Body'],
  ['back', 'Back matter'],
];
/** Kinds of which a book has many; those are added by themselves. */
const MANY: ReadonlySet<SectionKind> = new Set([
  'chapter',
  'part',
  'interlude',
  'picture-pages',
  'appendix',
  'plain',
  'extract',
]);

export function AddPages({ actions, className }: { actions: Actions; className: string }) {
  const { book } = useBook();
  const [open, setOpen] = useState(false);
  const [chosen, setChosen] = useState<ReadonlySet<SectionKind>>(new Set());
  const lacking = SECTION_KINDS.filter((k) => !MANY.has(k) && !book.sections.some((s) => s.kind === k));
  const wanted = lacking.filter((k) => chosen.has(k));
  const add = (): void => {
    void actions.addPages(wanted);
    setChosen(new Set());
    setOpen(false);
  };
  return (
    <Popover
      label="Add pages"
      open={open}
      onOpenChange={setOpen}
      trigger={<Button className={className}>Add pages</Button>}
    >
      <div className="max-h-[60vh] overflow-auto">
        {MATTERS.map(([matter, name]) => {
          const kinds = lacking.filter((k) => kindRule(k).matter === matter);
          return kinds.length === 0 ? null : (
            <fieldset key={matter} className="mb-3">
              <legend className="column-head mb-1">{name}</legend>
              {kinds.map((k) => (
                <Checkbox
                  key={k}
                  className="py-0.5"
                  label={kindRule(k).label}
                  on={chosen.has(k)}
                  onSet={(on) => setChosen(new Set(on ? [...chosen, k] : [...chosen].filter((x) => x !== k)))}
                />
              ))}
            </fieldset>
          );
        })}
        {lacking.length === 0 ? <p>The book has a page of every kind.</p> : null}
        <Button kind="primary" className="h-7" disabled={wanted.length === 0} onClick={add}>
          {wanted.length === 0
            ? 'Add pages'
            : wanted.length === 1
              ? 'Add 1 page'
              : `Add ${wanted.length} pages`}
        </Button>
      </div>
    </Popover>
  );
}
