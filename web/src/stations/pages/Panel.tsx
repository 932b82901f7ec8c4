'use client';
/** The settings of what is pointed at: the page, its picture, or a box of words. */
import { MOST_ZOOM, pageAttrs, type PicturePageAttrs } from '@pagina/core/book';
import { PICTURES } from '@/title/pictures';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { ColourField } from '@/ui/ColourField';
import { FileButton } from '@/ui/FileDrop';
import { Slider } from '@/ui/Slider';
import { OneOf } from '@/ui/ToggleGroup';
import { BoxPanel } from './BoxPanel';
import { Named } from './Named';
import type { PageFacts } from './facts';
import type { Part } from './SpreadView';
import { useRested } from './useRested';
import type { PageWork } from './work';

const field = 'w-full rounded-[2px] border border-edge bg-sheet px-2 py-1 text-[14px]';

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
            key={facts.id}
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
              Centre
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
  // What is typed is kept also when a click elsewhere takes the field away before it has lost the focus.
  const { shown: now, now: keep, later } = useRested(alt, onKeep);
  return (
    <textarea
      aria-label="Description"
      disabled={disabled}
      rows={3}
      className={`${field} resize-none disabled:opacity-45`}
      value={now}
      onChange={(e) => later(e.target.value)}
      onBlur={() => keep(now)}
    />
  );
}
