'use client';
/** The settings of what is pointed at: the page, its picture, or a box of words. */
import { useMemo, useState, type ReactNode } from 'react';
import {
  BOX_LINE_SPACES,
  BOX_SIZES,
  boxAttrs,
  MOST_ZOOM,
  pageAttrs,
  type PicturePageAttrs,
  type TextBoxAttrs,
} from '@pagina/core/book';
import { FAMILIES } from '@pagina/core/design';
import { languageChoices } from '@/forms/languages';
import { useBook } from '@/title/context';
import { PICTURES } from '@/title/pictures';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { ColourField } from '@/ui/ColourField';
import { FileButton } from '@/ui/FileDrop';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { Select } from '@/ui/Select';
import { Slider } from '@/ui/Slider';
import { OneOf } from '@/ui/ToggleGroup';
import { BoxWords } from './BoxWords';
import type { PageFacts } from './facts';
import type { Part } from './SpreadView';
import type { PageWork } from './work';

const WHITE = '#ffffff';
const field = 'w-full rounded-[2px] border border-edge bg-sheet px-2 py-1 text-[14px]';

function Named({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="min-w-0">
      <span className="column-head mb-1 block">{name}</span>
      {children}
    </div>
  );
}

export function Panel({
  section,
  facts,
  part,
  work,
  cropping,
  onCropping,
  onPart,
  fresh,
}: {
  section: string;
  facts: PageFacts;
  part: Part | null;
  /** Id of the box that was added just now. */
  fresh: string | null;
  work: PageWork;
  cropping: boolean;
  onCropping: (on: boolean) => void;
  onPart: (part: Part | null) => void;
}) {
  if (part === 'picture')
    return <PicturePanel facts={facts} work={work} cropping={cropping} onCropping={onCropping} />;
  if (part)
    return (
      <BoxPanel
        section={section}
        facts={facts}
        id={part.box}
        fresh={part.box === fresh}
        work={work}
        onPart={onPart}
      />
    );
  return <PagePanel facts={facts} work={work} onPart={onPart} />;
}

function PagePanel({ facts, work, onPart }: { facts: PageFacts; work: PageWork; onPart: (p: Part) => void }) {
  const { across, ground, picture } = pageAttrs(facts.node);
  const set = (label: string, fields: Partial<PicturePageAttrs>): void =>
    void work.set([facts.id], label, fields);
  return (
    <div className="flex flex-wrap items-start gap-x-8 gap-y-3" role="group" aria-label="Page">
      <Named name="Page">
        <Checkbox
          label="Laid out across a spread"
          on={across}
          onSet={(on) => void work.across(facts.id, on)}
        />
      </Named>
      <Named name="Paper">
        <Checkbox
          label="In a colour"
          on={ground !== ''}
          onSet={(on) => set('Change the paper', { ground: on ? '#f4ebd7' : '' })}
        />
        {ground !== '' ? (
          <ColourField
            label="Colour"
            value={ground}
            onCommit={(c) => set('Change the paper', { ground: c })}
          />
        ) : null}
      </Named>
      <Named name="Picture">
        <span className="flex gap-2">
          {picture === '' ? (
            <FileButton
              label="File of the picture"
              className="h-7 px-2"
              endings={PICTURES}
              onFiles={([file]) =>
                file && void work.picture(facts.id, file).then((ok) => ok && onPart('picture'))
              }
            >
              Choose a picture
            </FileButton>
          ) : (
            <Button className="h-7 px-2" onClick={() => onPart('picture')}>
              Change the picture
            </Button>
          )}
        </span>
      </Named>
      <p className="max-w-72 text-[13px] text-ink-soft">
        Click the picture or the words on the page to change them. Pictures dropped on the table become pages.
      </p>
    </div>
  );
}

function PicturePanel({
  facts,
  work,
  cropping,
  onCropping,
}: {
  facts: PageFacts;
  work: PageWork;
  cropping: boolean;
  onCropping: (on: boolean) => void;
}) {
  const { alt, decorative, fit, crop } = pageAttrs(facts.node);
  const set = (label: string, fields: Partial<PicturePageAttrs>): void =>
    void work.set([facts.id], label, fields);
  return (
    <div className="flex flex-wrap items-start gap-x-6 gap-y-3" role="group" aria-label="Picture">
      <div className="w-72">
        <Named name="Description for readers who can’t see it">
          <Described
            key={`${facts.id}/${alt}`}
            alt={alt}
            disabled={decorative}
            onKeep={(v) => set('Describe the picture', { alt: v })}
          />
          <Checkbox
            className="text-[13px]"
            label="Decorative: it says nothing that the words don’t"
            on={decorative}
            onSet={(on) => set('Mark as decorative', { decorative: on })}
          />
        </Named>
      </div>
      <Named name="In its frame">
        <OneOf
          label="The picture in its frame"
          value={fit}
          choices={[
            { value: 'fill', name: 'Fills it' },
            { value: 'whole', name: 'Whole' },
          ]}
          onChoose={(v) => set('Change how the picture fits', { fit: v })}
        />
        {fit === 'fill' ? (
          <>
            <Slider
              label="Enlarged in its frame"
              className="w-28"
              least={100}
              most={MOST_ZOOM}
              step={5}
              value={crop.zoom}
              onCommit={(zoom) => set('Enlarge the picture', { crop: { ...crop, zoom } })}
              shown={(zoom) => `${zoom} %`}
            />
            <Button
              kind="quiet"
              className="h-7 px-2"
              disabled={crop.x === 500 && crop.y === 500 && crop.zoom === 100}
              onClick={() => set('Centre the picture', { crop: { x: 500, y: 500, zoom: 100 } })}
            >
              Centre it again
            </Button>
          </>
        ) : null}
      </Named>
      {fit === 'fill' ? (
        <Named name="Dragging it">
          <OneOf
            label="Dragging the picture"
            value={cropping ? 'crop' : 'frame'}
            choices={[
              { value: 'crop', name: 'Crops' },
              { value: 'frame', name: 'Moves the frame' },
            ]}
            onChoose={(v) => onCropping(v === 'crop')}
          />
        </Named>
      ) : null}
      <Named name="File">
        <span className="flex flex-col items-start gap-1">
          <FileButton
            label="File of the picture"
            className="h-7 px-2"
            endings={PICTURES}
            onFiles={([file]) => file && void work.picture(facts.id, file)}
          >
            Another file
          </FileButton>
          <Button
            kind="quiet"
            className="h-7 px-2"
            onClick={() => set('Remove the picture', { picture: '' })}
          >
            Remove the picture
          </Button>
        </span>
      </Named>
    </div>
  );
}

function Described({
  alt,
  disabled,
  onKeep,
}: {
  alt: string;
  disabled: boolean;
  onKeep: (v: string) => void;
}) {
  const [now, setNow] = useState(alt);
  return (
    <textarea
      aria-label="Description"
      disabled={disabled}
      rows={3}
      className={`${field} resize-none disabled:opacity-45`}
      value={now}
      onChange={(e) => setNow(e.target.value)}
      onBlur={() => now.trim() !== alt && onKeep(now.trim())}
    />
  );
}

function BoxPanel({
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
