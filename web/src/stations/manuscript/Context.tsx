'use client';
/** The line below the tools: settings of what the cursor is in, or of what is being put in; the counts at its end. */
import { useRef, useState } from 'react';
import type { EditorView } from 'prosemirror-view';
import { bareIsbn, isbnFault } from '@pagina/core/record';
import { fillsPages, placeOf, WIDEST_BESIDE, type Book } from '@pagina/core/book';
import { headingsOf } from '@pagina/core/order';
import { useBook, useTitle } from '@/title/context';
import { takeIn } from '@/title/pictures';
import { Button } from '@/ui/controls';
import { figureAt } from './figures';
import { markAt, setTelling, stretchOf, type Telling } from './marking';
import { changeTable, tableAt, type TableDeed } from './table';

const field = 'h-7 rounded-[2px] border border-edge bg-sheet px-1.5 text-[13px]';

/** What is being asked for, apart from where the cursor is. */
export type Asking = Telling | null;

export function Context({
  view,
  asking,
  onAsked,
}: {
  view: EditorView | null;
  asking: Asking;
  onAsked: () => void;
}) {
  if (!view || view.isDestroyed) return null;
  const state = view.state;
  const figure = figureAt(view);
  if (asking) return <TellingBar key={asking} view={view} name={asking} onDone={onAsked} />;
  if (figure) return <FigureBar key={figure.node.attrs.id as string} view={view} />;
  if (tableAt(state)) return <TableBar view={view} />;
  for (const name of ['link', 'indexed', 'language'] as const) {
    const at = markAt(state, name);
    if (at)
      return <TellingBar key={`${name}${at.from}`} view={view} name={name} onDone={() => view.focus()} />;
  }
  return null;
}

const DEEDS: [TableDeed, string][] = [
  ['row-above', 'Row above'],
  ['row-below', 'Row below'],
  ['column-left', 'Column left'],
  ['column-right', 'Column right'],
  ['heads', 'Header row'],
  ['delete-row', 'Delete row'],
  ['delete-column', 'Delete column'],
  ['delete-table', 'Delete the table'],
];

function TableBar({ view }: { view: EditorView }) {
  return (
    <span className="flex items-center gap-0.5" role="group" aria-label="Table">
      {DEEDS.map(([deed, words]) => (
        <Button
          key={deed}
          kind="quiet"
          className="h-7 px-2 text-[13px]"
          onMouseDown={(e) => e.preventDefault()}
          onClick={() => {
            const tr = changeTable(view.state, deed);
            if (tr) view.dispatch(tr);
            view.focus();
          }}
        >
          {words}
        </Button>
      ))}
    </span>
  );
}

function FigureBar({ view }: { view: EditorView }) {
  const { session } = useTitle();
  const file = useRef<HTMLInputElement>(null);
  const at = figureAt(view);
  if (!at) return null;
  const { attrs } = at.node;
  const set = (name: string, value: unknown): void => {
    const now = figureAt(view);
    if (now && now.node.attrs[name] !== value)
      view.dispatch(view.state.tr.setNodeAttribute(now.pos, name, value));
  };
  const words = (name: 'alt' | 'credit' | 'link', label: string, width: string) => (
    <input
      key={name}
      aria-label={label}
      placeholder={label}
      defaultValue={attrs[name] as string}
      className={`${field} ${width} ${name === 'alt' && !attrs.alt ? 'border-ochre' : ''}`}
      onBlur={(e) => set(name, e.target.value.trim())}
      onKeyDown={(e) => e.key === 'Enter' && (set(name, e.currentTarget.value.trim()), view.focus())}
    />
  );
  const replace = async (chosen: File | undefined): Promise<void> => {
    const picture = chosen && (await takeIn(session, chosen));
    if (picture) set('picture', picture.id);
  };
  return (
    <span className="flex shrink-0 items-center gap-1.5" role="group" aria-label="Picture">
      {words('alt', 'Alternative text', 'w-48')}
      {words('credit', 'Credit', 'w-24')}
      {words('link', 'Link', 'w-24')}
      <label className="flex items-center gap-1.5 text-[13px] whitespace-nowrap">
        Width
        <input
          type="range"
          min={10}
          max={100}
          step={5}
          value={Number(attrs.width)}
          disabled={fillsPages(at.node)}
          aria-label="Width, as a share of the measure"
          className="w-20"
          onChange={(e) => set('width', Number(e.target.value))}
        />
        {Number(attrs.width)} %
      </label>
      <select
        aria-label="Position of the picture"
        className={field}
        value={attrs.place as string}
        onChange={(e) => set('place', e.target.value)}
      >
        <option value="here">in the text</option>
        <option value="head">at the head of a page</option>
        <option value="foot">at the foot of a page</option>
        <option value="page">on its own page</option>
        <option value="edges">over a page’s edges</option>
        <option value="spread">over two pages</option>
      </select>
      {attrs.place === 'here' ? (
        <select
          aria-label="Text beside the picture"
          title={
            Number(attrs.width) > WIDEST_BESIDE
              ? `Text can run beside pictures up to ${WIDEST_BESIDE} % of the measure`
              : undefined
          }
          disabled={Number(attrs.width) > WIDEST_BESIDE}
          className={field}
          value={attrs.beside as string}
          onChange={(e) => set('beside', e.target.value)}
        >
          <option value="none">no text beside it</option>
          <option value="left">at the left of text</option>
          <option value="right">at the right of text</option>
        </select>
      ) : attrs.place !== placeOf(at.node) ? (
        <span className="text-[13px] whitespace-nowrap text-ink-soft">
          within the margins, to leave room for the caption
        </span>
      ) : null}
      <select
        aria-label="Outline of the picture"
        className={field}
        value={attrs.mask as string}
        onChange={(e) => set('mask', e.target.value)}
      >
        <option value="none">whole</option>
        <option value="oval">oval</option>
        <option value="arch">arched</option>
      </select>
      <Button className="h-7 px-2 text-[13px]" onClick={() => file.current?.click()}>
        Another file
      </Button>
      <input
        ref={file}
        type="file"
        accept="image/png,image/jpeg,image/gif"
        className="hidden"
        aria-label="File of the picture"
        onChange={(e) => {
          const chosen = e.target.files?.[0];
          e.target.value = '';
          void replace(chosen);
        }}
      />
    </span>
  );
}

/** Places a link can lead to: sections, and their subheads. */
function placesOf(book: Book): { target: string; name: string }[] {
  const headings = headingsOf(book.sections, book);
  return book.sections.flatMap((s) => {
    const subheads: { target: string; name: string }[] = [];
    s.content.forEach((x) => {
      if (x.type.name === 'subhead')
        subheads.push({ target: `${s.id}#${x.attrs.id as string}`, name: `\u2003${x.textContent}` });
    });
    return [{ target: s.id, name: headings.get(s.id)?.label ?? '' }, ...subheads];
  });
}

const KINDS = { web: 'To the web', place: 'To a place in the book', shop: 'To a book in the shops' } as const;

function TellingBar({ view, name, onDone }: { view: EditorView; name: Telling; onDone: () => void }) {
  const { book } = useBook();
  const at = markAt(view.state, name);
  const [kind, setKind] = useState<keyof typeof KINDS>(
    (at?.mark.attrs.kind as keyof typeof KINDS | undefined) ?? 'web',
  );
  const given = (at?.mark.attrs.target ?? at?.mark.attrs.term ?? at?.mark.attrs.tag ?? '') as string;
  const stretch = stretchOf(view.state, name);
  const selected = stretch ? view.state.doc.textBetween(stretch.from, stretch.to, ' ') : '';
  const [value, setValue] = useState(given || (name === 'indexed' ? selected : ''));
  const [wrong, setWrong] = useState('');
  const put = (): void => {
    const v = value.trim();
    const fault = faultOf(name, kind, v);
    setWrong(fault);
    if (fault) return;
    const attrs: Record<string, string> =
      name === 'link'
        ? {
            kind,
            target:
              kind === 'web' && !/^(https?|mailto):/i.test(v)
                ? `https://${v}`
                : kind === 'shop'
                  ? bareIsbn(v)
                  : v,
          }
        : name === 'indexed'
          ? { term: v }
          : { tag: v };
    const tr = setTelling(view.state, name, attrs);
    if (tr) view.dispatch(tr);
    onDone();
    view.focus();
  };
  const takeAway = (): void => {
    const tr = setTelling(view.state, name, null);
    if (tr) view.dispatch(tr);
    onDone();
    view.focus();
  };
  if (!stretch)
    return (
      <span className="text-[13px] text-ink-soft">Select the words first, or place the cursor in one.</span>
    );
  const label = { link: 'Link', indexed: 'Index entry', language: 'Language of these words' }[name];
  return (
    <form
      className="flex items-center gap-2 text-[13px]"
      aria-label={label}
      onSubmit={(e) => {
        e.preventDefault();
        put();
      }}
      onKeyDown={(e) => e.key === 'Escape' && (onDone(), view.focus())}
    >
      <span className="max-w-52 truncate">
        {label}: <em className="font-serif">{selected}</em>
      </span>
      {name === 'link' ? (
        <select
          aria-label="Kind of link"
          className={field}
          value={kind}
          onChange={(e) => (setKind(e.target.value as keyof typeof KINDS), setValue(''))}
        >
          {Object.entries(KINDS).map(([k, words]) => (
            <option key={k} value={k}>
              {words}
            </option>
          ))}
        </select>
      ) : null}
      {name === 'link' && kind === 'place' ? (
        <select
          aria-label="Place"
          className={`${field} w-64`}
          value={value}
          onChange={(e) => setValue(e.target.value)}
        >
          <option value="">Choose a place</option>
          {placesOf(book).map((p) => (
            <option key={p.target} value={p.target}>
              {p.name}
            </option>
          ))}
        </select>
      ) : (
        <input
          autoFocus={!given}
          aria-label={
            name === 'link'
              ? kind === 'web'
                ? 'Address'
                : 'ISBN of the book'
              : name === 'indexed'
                ? 'Entry'
                : 'Language tag'
          }
          placeholder={
            name === 'link'
              ? kind === 'web'
                ? 'https://…'
                : 'ISBN of the book'
              : name === 'indexed'
                ? 'tides: neap'
                : 'fr, de, la …'
          }
          className={`${field} w-64 ${wrong ? 'border-rubric' : ''}`}
          value={value}
          onChange={(e) => setValue(e.target.value)}
        />
      )}
      <Button type="submit" className="h-7 px-2">
        {at ? 'Change' : 'Put it'}
      </Button>
      {at ? (
        <Button kind="quiet" className="h-7 px-2" onClick={takeAway}>
          Remove
        </Button>
      ) : null}
      {wrong ? (
        <span className="text-rubric">{wrong}</span>
      ) : name === 'link' && kind === 'shop' ? (
        <span
          className="text-[13px] whitespace-nowrap text-ink-soft"
          title="The link is stored by ISBN. Files not made for an outlet show the words without a link."
        >
          Each outlet’s own ebook leads to the book there.
        </span>
      ) : null}
    </form>
  );
}

function faultOf(name: Telling, kind: keyof typeof KINDS, value: string): string {
  if (value === '') return 'Enter a destination, or remove the link.';
  if (name === 'language') {
    try {
      Intl.getCanonicalLocales(value);
    } catch {
      return 'Use a language tag, such as fr, de-AT or la.';
    }
  }
  if (name === 'link' && kind === 'web' && /\s/.test(value)) return 'A web address can’t contain spaces.';
  if (name === 'link' && kind === 'shop' && isbnFault(value)) return 'This isn’t a valid ISBN.';
  return '';
}
