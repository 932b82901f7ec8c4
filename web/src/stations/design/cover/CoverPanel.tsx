'use client';
/** The settings of the part of the cover that was pointed at. Everything is drawn again as it is set, and can be undone. */
import { inSentence, moneyString } from '@pagina/core/base';
import { frontOf, shownBy, spineTurn, type CoverPlan, type Front } from '@pagina/core/book';
import type { CoverPart } from '@pagina/core/cover';
import { FAMILIES } from '@pagina/core/design';
import { plainDescription } from '@pagina/core/record';
import { useBook } from '@/title/context';
import { PictureField } from '@/forms/PictureField';
import { Checkbox } from '@/ui/Checkbox';
import { ColourField } from '@/ui/ColourField';
import { Field } from '@/ui/Field';
import { RadioGroup } from '@/ui/RadioGroup';
import { choicesOf, Select } from '@/ui/Select';
import { Slider } from '@/ui/Slider';
import { Text } from '@/ui/Text';
import { LengthField } from '../Controls';

const FRONT_NAMES: Record<Front, [name: string, words: string]> = {
  bare: ['The picture alone', 'It carries its own words.'],
  open: ['Words on the picture', 'Directly on the picture; choose a colour that stands out.'],
  band: ['Words on a band', 'The picture runs over and under it.'],
  plate: ['Words below the picture', 'On the background colour, in the lower third.'],
  window: ['The picture in a window', 'Words above and below, on the background colour.'],
};
const LETTERS = choicesOf<CoverPlan['letters']>({
  'as-written': 'as written',
  capitals: 'capitals',
  'small-capitals': 'small capitals',
});
const AXES = { x: 'left to right', y: 'head to foot' } as const;

type Set = (fields: Partial<CoverPlan>, label: string) => void;

export function CoverPanel({
  target,
  names,
  onTarget,
  onSet: set,
}: {
  target: CoverPart;
  names: Record<CoverPart, string>;
  onTarget: (t: CoverPart) => void;
  onSet: Set;
}) {
  const { book } = useBook();
  const plan = book.cover;
  return (
    <div className="space-y-4 px-4 py-3">
      <div className="flex items-center gap-2">
        <span className="text-ink-soft">Part</span>
        <Select
          label="Part of the cover"
          className="flex-1 font-serif text-[16px]"
          value={target}
          choices={choicesOf<CoverPart>(names)}
          onChoose={onTarget}
        />
      </div>
      {target === 'front' ? <FrontSettings plan={plan} set={set} /> : null}
      {target === 'title' || target === 'author' ? <WordsSettings plan={plan} set={set} /> : null}
      {target === 'spine' ? <SpineSettings plan={plan} set={set} /> : null}
      {target === 'back' ? <BackSettings plan={plan} set={set} /> : null}
      {target === 'life' || target === 'portrait' ? <LifeSettings plan={plan} set={set} /> : null}
      {target === 'device' ? (
        <PictureField
          label="Imprint device"
          step="Cover: imprint device"
          hint="Shown on the back and at the foot of the spine."
          value={plan.device}
          onChoose={(device) => ({ type: 'set-cover', fields: { device } })}
        />
      ) : null}
      {target === 'barcode' ? <BarcodeSettings plan={plan} set={set} /> : null}
    </div>
  );
}

interface Settings {
  plan: CoverPlan;
  set: Set;
}

function FrontSettings({ plan, set }: Settings) {
  const { book } = useBook();
  const picture = book.pictures.find((p) => p.id === book.record.cover) ?? null;
  const now = frontOf(plan.front, picture);
  return (
    <>
      <PictureField
        label="Front picture"
        step="Cover: front picture"
        hint={
          picture
            ? `${picture.width} × ${picture.height} pixels`
            : 'Without a picture, the words are set on the background colour.'
        }
        value={book.record.cover}
        onChoose={(cover) => ({ type: 'set-record', fields: { cover } })}
      />
      {picture ? (
        <fieldset className="space-y-1">
          <legend className="column-head mb-1">Front</legend>
          <RadioGroup
            label="Front"
            value={now}
            choices={(Object.entries(FRONT_NAMES) as [Front, [string, string]][]).map(
              ([value, [name, hint]]) => ({ value, name, hint }),
            )}
            onChoose={(front) => set({ front }, `Cover: ${FRONT_NAMES[front][0].toLowerCase()}`)}
          />
        </fieldset>
      ) : (
        <Checkbox
          label="Ebooks have this front too"
          on={plan.front !== null}
          onSet={(on) => set({ front: on ? 'open' : null }, 'Cover: words for the ebook')}
          hint="Otherwise ebooks have no cover."
        />
      )}
      {picture ? (
        <fieldset className="grid grid-cols-2 gap-3">
          <legend className="column-head mb-1">When cropping, keep</legend>
          {(['x', 'y'] as const).map((axis) => (
            <span key={axis} className="text-[13px]">
              {AXES[axis]}
              <Slider
                label={`Keep, ${AXES[axis]}`}
                least={0}
                most={100}
                step={5}
                value={plan.focus[axis]}
                onCommit={(at) => set({ focus: { ...plan.focus, [axis]: at } }, 'Cover: what is kept')}
              />
            </span>
          ))}
        </fieldset>
      ) : null}
      <Colours plan={plan} set={set} />
    </>
  );
}

function Colours({ plan, set }: Settings) {
  return (
    <fieldset className="space-y-1">
      <legend className="column-head mb-1">Colours</legend>
      {(
        [
          ['ground', 'Ground'],
          ['ink', 'Words'],
          ['accent', 'Rules'],
        ] as const
      ).map(([key, name]) => (
        <ColourField
          key={key}
          label={name}
          value={plan[key]}
          onCommit={(colour) => set({ [key]: colour }, `Cover: colour of the ${name.toLowerCase()}`)}
        />
      ))}
    </fieldset>
  );
}

function WordsSettings({ plan, set }: Settings) {
  const { book } = useBook();
  const picture = book.pictures.find((p) => p.id === book.record.cover) ?? null;
  const bare = frontOf(plan.front, picture) === 'bare';
  return (
    <>
      <p className="text-[13px] text-ink-soft">
        {bare
          ? 'The words are part of the picture. To set them separately, choose another arrangement.'
          : 'Title, subtitle and author come from the record.'}
      </p>
      <Field label="A line above the title" hint="For example: A novel">
        <Text
          value={plan.line}
          maxLength={200}
          onCommit={(line) => set({ line }, 'Cover: line above the title')}
        />
      </Field>
      <Field label="Face">
        <Select
          label="Face"
          className="w-full"
          value={plan.family ?? ''}
          choices={[
            { value: '', name: 'same as the book’s headings' },
            ...FAMILIES.map((f) => ({ value: f.name, name: f.name })),
          ]}
          onChoose={(family) => set({ family: family || null }, 'Cover: face')}
        />
      </Field>
      <Field label="Case of the title">
        <Select
          label="Case of the title"
          className="w-full"
          value={plan.letters}
          choices={LETTERS}
          onChoose={(letters) => set({ letters }, 'Cover: case of the title')}
        />
      </Field>
      <div>
        <span className="column-head mb-1 block">Size of the title</span>
        <LengthField
          label="Size of the title"
          unit="pt"
          value={plan.titleSize}
          empty="as large as it fits"
          onCommit={(titleSize) => {
            if (titleSize !== null && (titleSize < 12_000 || titleSize > 144_000)) return false;
            set({ titleSize }, 'Cover: size of the title');
            return true;
          }}
        />
      </div>
      {(
        [
          ['subtitle', 'Show the subtitle'],
          ['author', 'Show the author'],
        ] as const
      ).map(([key, name]) => (
        <Checkbox
          key={key}
          label={name}
          on={plan[key]}
          onSet={(on) => set({ [key]: on }, `Cover: ${name.toLowerCase()}`)}
        />
      ))}
    </>
  );
}

function SpineSettings({ plan, set }: Settings) {
  const { book } = useBook();
  const usual = spineTurn('by-language', book.record.language);
  return (
    <>
      <Checkbox
        label="Author and title on the spine"
        on={plan.spine.words}
        onSet={(words) => set({ spine: { ...plan.spine, words } }, 'Cover: words on the spine')}
      />
      <Field label="Direction">
        <Select
          label="Direction"
          className="w-full"
          value={plan.spine.direction}
          choices={choicesOf<CoverPlan['spine']['direction']>({
            'by-language': `the default for the book’s language (${usual})`,
            down: 'down, from head to foot',
            up: 'up, from foot to head',
          })}
          onChoose={(direction) =>
            set({ spine: { ...plan.spine, direction } }, 'Cover: direction of the spine')
          }
        />
      </Field>
    </>
  );
}

function BackSettings({ plan, set }: Settings) {
  const { book } = useBook();
  return (
    <>
      <Field
        label="Back cover text"
        hint={
          plan.back === null
            ? 'The description from the record, unless you write something else here'
            : `${plan.back.length} characters`
        }
      >
        <Text
          area={12}
          value={plan.back ?? plainDescription(book.record.description)}
          maxLength={6000}
          onCommit={(back) => set({ back }, 'Cover: back cover text')}
        />
      </Field>
      {plan.back !== null ? (
        <button
          type="button"
          className="min-h-6 text-[13px] text-spruce underline"
          onClick={() => set({ back: null }, 'Cover: the description on the back')}
        >
          Use the record’s description
        </button>
      ) : null}
    </>
  );
}

function LifeSettings({ plan, set }: Settings) {
  const { book } = useBook();
  const life = book.record.contributors.find((c) => c.role === 'author')?.life;
  return (
    <>
      <Checkbox
        label="Author biography"
        on={plan.life}
        onSet={(on) => set({ life: on }, 'Cover: author biography')}
        hint={life ? 'Taken from the record.' : 'The record has none yet.'}
      />
      <PictureField
        label="Author portrait"
        step="Cover: author portrait"
        value={plan.portrait}
        onChoose={(portrait) => ({ type: 'set-cover', fields: { portrait } })}
      />
    </>
  );
}

function BarcodeSettings({ plan, set }: Settings) {
  const { book, edition } = useBook();
  const print = shownBy(book, edition);
  return (
    <>
      <Checkbox
        label="ISBN barcode"
        on={plan.barcode}
        onSet={(on) => set({ barcode: on }, 'Cover: barcode')}
        hint="Leave it off if the printer adds its own; the space is kept clear."
      />
      <Checkbox
        label="Price in the barcode"
        on={plan.priced}
        onSet={(priced) => set({ priced }, 'Cover: price in the barcode')}
        hint={
          print?.price
            ? `The list price of the ${inSentence(print.name)} is ${moneyString(print.price)}.`
            : 'Write the list price of the print edition in the record.'
        }
      />
    </>
  );
}
