'use client';
/** The settings of a box of words, and the words themselves. */
import { useMemo } from 'react';
import { BOX_LINE_SPACES, BOX_SIZES, boxAttrs, type TextBoxAttrs } from '@pagina/core/book';
import { FAMILIES } from '@pagina/core/design';
import { languageChoices } from '@/forms/languages';
import { useBook } from '@/title/context';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { ColourField } from '@/ui/ColourField';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { Select } from '@/ui/Select';
import { OneOf } from '@/ui/ToggleGroup';
import { BoxWords } from './BoxWords';
import type { PageFacts } from './facts';
import { Named } from './Named';
import type { Part } from './SpreadView';
import type { PageWork } from './work';

const WHITE = '#ffffff';

export function BoxPanel({
  section,
  facts,
  id,
  fresh,
  work,
  onPart,
}: {
  section: string;
  facts: PageFacts;
  id: string;
  fresh: boolean;
  work: PageWork;
  onPart: (part: Part | null) => void;
}) {
  const { book } = useBook();
  const languages = useMemo(() => languageChoices(book.record.language), [book.record.language]);
  const boxes = facts.node.children;
  const index = boxes.findIndex((b) => b.attrs.id === id);
  const box = boxes[index];
  if (!box) return null;
  const a = boxAttrs(box);
  const set = (label: string, fields: Partial<TextBoxAttrs>): void => void work.set([id], label, fields);
  return (
    <div className="flex h-full min-h-0 gap-4" role="group" aria-label="Words">
      <div className="flex min-h-0 w-[300px] shrink-0 flex-col gap-1 max-[1199px]:w-[220px]">
        <div className="min-h-0 flex-1">
          <BoxWords key={id} section={section} box={box} fresh={fresh} />
        </div>
        <span className="flex flex-wrap items-center gap-1 text-[13px]">
          {boxes.length > 1 ? (
            <>
              Read {index + 1} of {boxes.length}
              <Button
                className="h-6 px-1.5 text-[13px]"
                disabled={index === 0}
                onClick={() => void work.moveBox(id, -1)}
              >
                Earlier
              </Button>
              <Button
                className="h-6 px-1.5 text-[13px]"
                disabled={index === boxes.length - 1}
                onClick={() => void work.moveBox(id, 1)}
              >
                Later
              </Button>
            </>
          ) : null}
          <span className="ml-auto" />
          <Button
            kind="quiet"
            className="h-6 px-1.5 text-[13px]"
            onClick={() => {
              onPart(null);
              void work.removeBox(id);
            }}
          >
            Remove these words
          </Button>
        </span>
      </div>
      <div className="flex min-h-0 flex-1 flex-wrap content-start gap-x-5 gap-y-2 overflow-auto">
        <Named name="Typeface">
          <Select
            label="Typeface"
            className="h-7 w-full"
            value={a.face}
            choices={[
              { value: '', name: 'As the design' },
              ...FAMILIES.map((f) => ({ value: f.name, name: f.name })),
            ]}
            onChoose={(face) => set('Change the typeface', { face })}
          />
        </Named>
        <Named name="Size and line space">
          <span className="flex items-center gap-1 text-[13px]">
            <NumberField
              label="Size in points"
              className="h-7 w-16"
              least={BOX_SIZES.least / 10}
              most={BOX_SIZES.most / 10}
              value={Math.round(a.size / 10)}
              onSet={(n) => set('Change the size', { size: n * 10 })}
            />
            pt
            <NumberField
              label="Line space in hundredths of the size"
              className="ml-2 h-7 w-16"
              least={BOX_LINE_SPACES.least}
              most={BOX_LINE_SPACES.most}
              step={5}
              value={a.lineSpace}
              onSet={(lineSpace) => set('Change the line space', { lineSpace })}
            />
            %
          </span>
        </Named>
        <Named name="Weight">
          <Checkbox label="Bold" on={a.bold} onSet={(bold) => set('Change the weight', { bold })} />
        </Named>
        <Named name="Align">
          <OneOf
            label="Align"
            value={a.align}
            choices={[
              { value: 'left', name: 'Left' },
              { value: 'centre', name: 'Centre' },
              { value: 'right', name: 'Right' },
            ]}
            onChoose={(align) => set('Align the words', { align })}
          />
        </Named>
        <Named name="In the box">
          <OneOf
            label="Where the words stand in the box"
            value={a.stand}
            choices={[
              { value: 'head', name: 'Top' },
              { value: 'middle', name: 'Middle' },
              { value: 'foot', name: 'Bottom' },
            ]}
            onChoose={(stand) => set('Move the words in their box', { stand })}
          />
        </Named>
        <Named name="Language">
          <Picker
            label="Language of the words"
            placeholder="The book’s own"
            value={a.lang}
            choices={[{ value: '', name: 'The book’s own' }, ...languages]}
            onChoose={(lang) => set('Change the language', { lang })}
          />
        </Named>
        <Named name="Colour">
          <ColourField
            label="Words"
            value={a.colour}
            onCommit={(colour) => set('Change the colour', { colour })}
          />
        </Named>
        <Named name="Behind the words">
          <Checkbox
            label="A panel"
            on={a.ground !== ''}
            onSet={(on) =>
              set(on ? 'Put a panel behind the words' : 'Remove the panel', { ground: on ? WHITE : '' })
            }
          />
          {a.ground !== '' ? (
            <ColourField
              label="Panel"
              value={a.ground}
              onCommit={(ground) => set('Change the panel', { ground })}
            />
          ) : null}
        </Named>
      </div>
    </div>
  );
}
