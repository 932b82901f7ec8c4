'use client';
/** The bar of a picture: what is said in its place, how wide it is, where it stands. */
import { useState } from 'react';
import type { EditorView } from 'prosemirror-view';
import { fillsPages, placeOf, WIDEST_BESIDE } from '@pagina/core/book';
import { webAddress } from '@/forms/telling';
import { useTitle } from '@/title/context';
import { PICTURES, takeIn } from '@/title/pictures';
import { Checkbox } from '@/ui/Checkbox';
import { FileButton } from '@/ui/FileDrop';
import { choicesOf, Select } from '@/ui/Select';
import { Slider } from '@/ui/Slider';
import { Tip } from '@/ui/Tip';
import { figureAt } from './figures';

const field = 'h-7 rounded-[2px] border border-edge bg-sheet px-1.5 text-[13px] aria-invalid:border-rubric';
const select = 'h-7 text-[13px]';

const POSITIONS = choicesOf({
  here: 'in the text',
  above: 'above the title',
  head: 'at the head of a page',
  foot: 'at the foot of a page',
  page: 'on its own page',
  edges: 'over a page’s edges',
  spread: 'over two pages',
});
const TEXT_BESIDE = choicesOf({
  none: 'no text beside it',
  left: 'at the left of text',
  right: 'at the right of text',
});
const OUTLINES = choicesOf({ none: 'whole', oval: 'oval', arch: 'arched' });

export function FigureBar({ view }: { view: EditorView }) {
  const { session } = useTitle();
  const [wrong, setWrong] = useState('');
  const at = figureAt(view);
  if (!at) return null;
  const { attrs } = at.node;
  /** Only what begins a section can stand above its title. */
  const leads = view.state.doc.children
    .slice(0, view.state.doc.resolve(at.pos).index(0))
    .every((n) => n.type.name === 'figure');
  const set = (name: string, value: unknown): void => {
    const now = figureAt(view);
    if (now && now.node.attrs[name] !== value)
      view.dispatch(view.state.tr.setNodeAttribute(now.pos, name, value));
  };
  const words = (name: 'alt' | 'credit' | 'link', label: string, width: string) => (
    <input
      key={name}
      aria-label={label}
      aria-invalid={name === 'link' && wrong ? true : undefined}
      placeholder={label}
      disabled={name === 'alt' && Boolean(attrs.decorative)}
      defaultValue={attrs[name] as string}
      className={`${field} ${width} ${name === 'alt' && !attrs.alt && !attrs.decorative ? 'border-ochre' : ''} disabled:opacity-45`}
      onBlur={(e) => keep(name, e.target.value)}
      onKeyDown={(e) => e.key === 'Enter' && keep(name, e.currentTarget.value) && view.focus()}
    />
  );
  /** What was typed stays until it is an address. */
  const keep = (name: 'alt' | 'credit' | 'link', typed: string): boolean => {
    const parsed = name === 'link' && typed.trim() !== '' ? webAddress.safeParse(typed) : null;
    if (parsed && !parsed.success) {
      setWrong(parsed.error.issues[0]?.message ?? '');
      return false;
    }
    if (name === 'link') setWrong('');
    set(name, parsed?.data ?? typed.trim());
    return true;
  };
  const replace = async (chosen: File | undefined): Promise<void> => {
    const picture = chosen && (await takeIn(session, chosen));
    if (picture) set('picture', picture.id);
  };
  return (
    <span className="flex flex-wrap items-center gap-x-1.5 gap-y-1 py-1" role="group" aria-label="Picture">
      {words('alt', 'Alternative text', 'w-48')}
      <Tip words="It says nothing that the text doesn’t: readers who listen aren’t stopped by it">
        <Checkbox
          className="shrink-0 text-[13px] whitespace-nowrap"
          label="Decorative"
          on={Boolean(attrs.decorative)}
          onSet={(on) => set('decorative', on)}
        />
      </Tip>
      {words('credit', 'Credit', 'w-24')}
      {words('link', 'Link', 'w-24')}
      {wrong ? (
        <span role="alert" className="max-w-56 text-[12px] leading-4 text-rubric">
          {wrong}
        </span>
      ) : null}
      <span className="flex items-center gap-1.5 text-[13px] whitespace-nowrap">
        Width
        <Slider
          label="Width, as a share of the measure"
          className="w-20"
          least={10}
          most={100}
          step={5}
          value={Number(attrs.width)}
          disabled={fillsPages(at.node)}
          onCommit={(width) => set('width', width)}
          shown={(width) => `${width} %`}
        />
      </span>
      <Select
        label="Position of the picture"
        className={select}
        value={attrs.place as string}
        choices={POSITIONS.filter((p) => p.value !== 'above' || leads || attrs.place === 'above')}
        onChoose={(place) => set('place', place)}
      />
      {attrs.place === 'here' ? (
        <Select
          label="Text beside the picture"
          tip={
            Number(attrs.width) > WIDEST_BESIDE
              ? `Text can run beside pictures up to ${WIDEST_BESIDE} % of the measure`
              : undefined
          }
          disabled={Number(attrs.width) > WIDEST_BESIDE}
          className={select}
          value={attrs.beside as string}
          choices={TEXT_BESIDE}
          onChoose={(beside) => set('beside', beside)}
        />
      ) : attrs.place !== placeOf(at.node) ? (
        <span className="text-[13px] whitespace-nowrap text-ink-soft">
          within the margins, to leave room for the caption
        </span>
      ) : null}
      <Select
        label="Outline of the picture"
        className={select}
        value={attrs.mask as string}
        choices={OUTLINES}
        onChoose={(mask) => set('mask', mask)}
      />
      <FileButton
        label="File of the picture"
        className="h-7 px-2 text-[13px]"
        endings={PICTURES}
        onFiles={([chosen]) => void replace(chosen)}
      >
        Another file
      </FileButton>
    </span>
  );
}
