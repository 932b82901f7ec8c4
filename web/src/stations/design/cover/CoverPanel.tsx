'use client';
/** The settings of the part of the cover that was pointed at. Everything is drawn anew as it is set, and can be undone. */
import { frontOf, spineTurn, type CoverPlan, type Front } from '@pagina/core/book';
import type { CoverPart } from '@pagina/core/cover';
import { FAMILIES } from '@pagina/core/design';
import { useBook, useTitle } from '@/title/context';
import { Field, input } from '@/ui/controls';
import { Money } from '@/ui/Money';
import { Text } from '@/ui/Text';
import { LengthField } from '../Controls';
import { PictureField } from './PictureField';

const FRONT_NAMES: Record<Front, [name: string, words: string]> = {
  bare: ['The picture alone', 'It carries its own words.'],
  open: ['Words on the picture', 'Directly on the picture; choose a colour that stands out.'],
  band: ['Words on a band', 'The picture runs over and under it.'],
  plate: ['Words below the picture', 'On the background colour, in the lower third.'],
  window: ['The picture in a window', 'Words above and below, on the background colour.'],
};
const LETTERS: readonly [CoverPlan['letters'], string][] = [
  ['as-written', 'as written'],
  ['capitals', 'capitals'],
  ['small-capitals', 'small capitals'],
];

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
      <label className="flex items-center gap-2">
        <span className="text-ink-soft">Part</span>
        <select
          aria-label="Part of the cover"
          className={`${input} px-1 font-serif text-[16px]`}
          value={target}
          onChange={(e) => onTarget(e.target.value as CoverPart)}
        >
          {(Object.entries(names) as [CoverPart, string][]).map(([part, name]) => (
            <option key={part} value={part}>
              {name}
            </option>
          ))}
        </select>
      </label>
      {target === 'front' ? <FrontSettings plan={plan} set={set} /> : null}
      {target === 'title' || target === 'author' ? <WordsSettings plan={plan} set={set} /> : null}
      {target === 'spine' ? <SpineSettings plan={plan} set={set} /> : null}
      {target === 'back' ? <BackSettings plan={plan} set={set} /> : null}
      {target === 'life' || target === 'portrait' ? <LifeSettings plan={plan} set={set} /> : null}
      {target === 'device' ? (
        <PictureField
          label="Device of the imprint"
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
        label="Picture of the front"
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
          {(Object.entries(FRONT_NAMES) as [Front, [string, string]][]).map(([front, [name, words]]) => (
            <label key={front} className="flex items-baseline gap-2">
              <input
                type="radio"
                name="front"
                checked={now === front}
                onChange={() => set({ front }, `Cover: ${name.toLowerCase()}`)}
              />
              <span>
                {name}
                <span className="block text-[12px] text-ink-soft">{words}</span>
              </span>
            </label>
          ))}
        </fieldset>
      ) : (
        <label className="flex items-baseline gap-2">
          <input
            type="checkbox"
            checked={plan.front !== null}
            onChange={(e) => set({ front: e.target.checked ? 'open' : null }, 'Cover: words for the ebook')}
          />
          <span>
            Ebooks have this front too
            <span className="block text-[12px] text-ink-soft">Otherwise ebooks have no cover.</span>
          </span>
        </label>
      )}
      {picture ? (
        <fieldset className="grid grid-cols-2 gap-3">
          <legend className="column-head mb-1">When cropping, keep</legend>
          {(['x', 'y'] as const).map((axis) => (
            <label key={axis} className="text-[13px]">
              {axis === 'x' ? 'left to right' : 'head to foot'}
              <input
                type="range"
                className="w-full"
                min={0}
                max={100}
                step={5}
                value={plan.focus[axis]}
                onChange={(e) =>
                  set({ focus: { ...plan.focus, [axis]: Number(e.target.value) } }, 'Cover: what is kept')
                }
              />
            </label>
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
        <label key={key} className="flex items-center gap-2">
          <input
            type="color"
            className="h-7 w-10 rounded-[2px] border border-edge bg-sheet"
            value={plan[key]}
            onChange={(e) => set({ [key]: e.target.value }, `Cover: colour of the ${name.toLowerCase()}`)}
          />
          {name}
        </label>
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
          : 'Title, subtitle and author are the record’s own.'}
      </p>
      <Field label="A line above the title" hint="For example: A novel">
        <Text
          value={plan.line}
          maxLength={200}
          onCommit={(line) => set({ line }, 'Cover: line above the title')}
        />
      </Field>
      <Field label="Face">
        <select
          className={`${input} px-1`}
          value={plan.family ?? ''}
          onChange={(e) => set({ family: e.target.value || null }, 'Cover: face')}
        >
          <option value="">as the headings of the book</option>
          {FAMILIES.map((f) => (
            <option key={f.name}>{f.name}</option>
          ))}
        </select>
      </Field>
      <Field label="Letters of the title">
        <select
          className={`${input} px-1`}
          value={plan.letters}
          onChange={(e) =>
            set({ letters: e.target.value as CoverPlan['letters'] }, 'Cover: letters of the title')
          }
        >
          {LETTERS.map(([value, name]) => (
            <option key={value} value={value}>
              {name}
            </option>
          ))}
        </select>
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
        <label key={key} className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={plan[key]}
            onChange={(e) => set({ [key]: e.target.checked }, `Cover: ${name.toLowerCase()}`)}
          />
          {name}
        </label>
      ))}
    </>
  );
}

function SpineSettings({ plan, set }: Settings) {
  const { book } = useBook();
  const usual = spineTurn('by-language', book.record.language);
  return (
    <>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={plan.spine.words}
          onChange={(e) =>
            set({ spine: { ...plan.spine, words: e.target.checked } }, 'Cover: words on the spine')
          }
        />
        Author and title on the spine
      </label>
      <Field label="They run">
        <select
          className={`${input} px-1`}
          value={plan.spine.direction}
          onChange={(e) =>
            set(
              { spine: { ...plan.spine, direction: e.target.value as CoverPlan['spine']['direction'] } },
              'Cover: direction of the spine',
            )
          }
        >
          <option value="by-language">the default for the book’s language ({usual})</option>
          <option value="down">down, from head to foot</option>
          <option value="up">up, from foot to head</option>
        </select>
      </Field>
    </>
  );
}

function BackSettings({ plan, set }: Settings) {
  const { book } = useBook();
  return (
    <>
      <Field
        label="Text of the back"
        hint={
          plan.back === null
            ? 'The description from the record, unless you write something else here'
            : `${plan.back.length} characters`
        }
      >
        <Text
          area={12}
          value={plan.back ?? book.record.description}
          maxLength={6000}
          onCommit={(back) => set({ back }, 'Cover: text of the back')}
        />
      </Field>
      {plan.back !== null ? (
        <button
          type="button"
          className="min-h-6 text-[13px] text-spruce underline"
          onClick={() => set({ back: null }, 'Cover: the description on the back')}
        >
          The record’s description again
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
      <label className="flex items-baseline gap-2">
        <input
          type="checkbox"
          checked={plan.life}
          onChange={(e) => set({ life: e.target.checked }, 'Cover: life of the author')}
        />
        <span>
          A short life of the author
          <span className="block text-[12px] text-ink-soft">
            {life ? 'Taken from the record.' : 'The record has none yet.'}
          </span>
        </span>
      </label>
      <PictureField
        label="Portrait of the author"
        value={plan.portrait}
        onChoose={(portrait) => ({ type: 'set-cover', fields: { portrait } })}
      />
    </>
  );
}

function BarcodeSettings({ plan, set }: Settings) {
  const { session } = useTitle();
  return (
    <>
      <label className="flex items-baseline gap-2">
        <input
          type="checkbox"
          checked={plan.barcode}
          onChange={(e) => set({ barcode: e.target.checked }, 'Cover: barcode')}
        />
        <span>
          Barcode of the ISBN
          <span className="block text-[12px] text-ink-soft">
            Leave it off if the printer adds its own; the space is kept clear.
          </span>
        </span>
      </label>
      <Money
        key={session.id}
        label="Price in the barcode, if any"
        price={plan.price}
        onCommit={(price) => set({ price }, 'Cover: price in the barcode')}
      />
    </>
  );
}
