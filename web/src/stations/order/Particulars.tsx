'use client';
/** Beside the ledger: the particulars of the section chosen, and what holds for the whole order. */
import { inSentence } from '@pagina/core/base';
import type { ReactNode } from 'react';
import { toast } from 'sonner';
import {
  kindRule,
  type Numbering,
  type CaptionNumbers,
  type NumberForm,
  type Section,
} from '@pagina/core/book';
import { fromRecordAgain, isListed, writtenOut } from '@pagina/core/order';
import { useBook, useTitle } from '@/title/context';
import { shortId } from '@/title/ids';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { Field } from '@/ui/Field';
import { ScrollArea } from '@/ui/ScrollArea';
import { choicesOf, Select } from '@/ui/Select';
import { SeverityMark } from '@/ui/SeverityMark';
import { Text } from '@/ui/Text';
import { Clauses } from '../record/Clauses';
import type { Actions } from './actions';
import type { RowFacts } from './facts';

const blockId = (): string => `k${shortId()}`;

export function Particulars({
  chosen,
  facts,
  actions,
}: {
  chosen: readonly Section[];
  facts: ReadonlyMap<string, RowFacts>;
  actions: Actions;
}) {
  const [one] = chosen;
  const own = chosen.length === 1 && one ? facts.get(one.id) : undefined;
  return (
    <ScrollArea label="Particulars" className="flex-1" inside="space-y-6 px-4 py-3">
      {one && own ? (
        <OneSection section={one} facts={own} actions={actions} />
      ) : (
        <Many chosen={chosen} facts={facts} actions={actions} />
      )}
      <Numbers />
      <Contents />
    </ScrollArea>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="space-y-2" aria-label={title}>
      <h2 className="border-b border-rule pb-1 font-serif text-[16px]">{title}</h2>
      {children}
    </section>
  );
}

function OneSection({ section: s, facts, actions }: { section: Section; facts: RowFacts; actions: Actions }) {
  const { session } = useTitle();
  const { book, edition } = useBook();
  const rule = kindRule(s.kind);
  const shown = book.editions.find((e) => e.id === edition) ?? book.editions[0];
  return (
    <Part title={facts.heading.label}>
      {rule.opening === 'heading' || s.kind === 'part' ? (
        <div className="space-y-2">
          <Field label="Title">
            <Text
              value={s.title}
              placeholder={facts.heading.title || 'none'}
              onCommit={(title) => void actions.rename(s.id, { title })}
            />
          </Field>
          <Field label="Subtitle">
            <Text value={s.subtitle} onCommit={(subtitle) => void actions.rename(s.id, { subtitle })} />
          </Field>
          {rule.numbered ? (
            <>
              <Checkbox
                label="Shows its number"
                on={s.numbered}
                onSet={(on) => void actions.number([s.id], on)}
              />
              {s.numbered ? (
                <Field label="Number">
                  <Text
                    value={s.number === null ? '' : String(s.number)}
                    placeholder="next in order"
                    onCommit={(typed) => {
                      const number = typed.trim() === '' ? null : Number(typed);
                      if (number !== null && !(Number.isInteger(number) && number >= 1 && number <= 9999))
                        return void toast.error(
                          'Enter a whole number from 1 to 9999, or leave the field empty.',
                        );
                      void actions.ownNumber(s.id, number);
                    }}
                  />
                </Field>
              ) : null}
            </>
          ) : null}
          <Checkbox label="Shows its title" on={s.titled} onSet={(on) => void actions.title([s.id], on)} />
        </div>
      ) : null}
      <Field label="Starts in print">
        <Select
          label="Starts in print"
          className="w-full"
          value={s.starts}
          choices={choicesOf<Section['starts']>({
            usual: `default (${rule.starts === 'any' ? 'on the next page' : 'by its kind or the interior'})`,
            recto: 'on a right-hand page',
            verso: 'on a left-hand page',
            any: 'on the next page',
          })}
          onChoose={(starts) => void actions.starts([s.id], starts)}
        />
      </Field>
      {s.kind === 'contents' ? null : (
        <Checkbox
          label="Listed in the contents"
          on={isListed(s)}
          onSet={(on) => void actions.listed([s.id], on)}
        />
      )}
      {facts.made && shown ? (
        <div className="space-y-1.5 border-l-2 border-spruce pl-2 text-[13px]" data-made={facts.made}>
          {facts.made === 'record' ? (
            <>
              <p>This page is made from the record and updates with it.</p>
              <Button
                className="h-7"
                onClick={() =>
                  void session.change((b) => {
                    const now = b.sections.find((x) => x.id === s.id);
                    return now ? writtenOut(now, b, shown, blockId) : null;
                  })
                }
              >
                Write it by hand
              </Button>
            </>
          ) : (
            <>
              <p>This page was written by hand and no longer updates with the record.</p>
              <Button
                className="h-7"
                onClick={() =>
                  void session.change((b) => {
                    const now = b.sections.find((x) => x.id === s.id);
                    return now ? fromRecordAgain(now, blockId) : null;
                  })
                }
              >
                Make it from the record again
              </Button>
            </>
          )}
        </div>
      ) : null}
      {s.kind === 'copyright-page' && facts.made === 'record' ? <Clauses /> : null}
      {(s.kind === 'about-author' || s.kind === 'also-by') && facts.words === 0 && facts.made === null ? (
        <p className="text-[13px] text-ink-soft">
          {s.kind === 'about-author'
            ? 'Write a short biography in the record and this page is made from it.'
            : 'List the other books in the record and this page is made from them.'}
        </p>
      ) : null}
      <ul className="space-y-1 text-[13px]">
        {facts.findings.map((f, i) => (
          <li key={i}>
            <SeverityMark severity={f.severity} /> {f.message}
          </li>
        ))}
      </ul>
    </Part>
  );
}

function Many({
  chosen,
  facts,
  actions,
}: {
  chosen: readonly Section[];
  facts: ReadonlyMap<string, RowFacts>;
  actions: Actions;
}) {
  const { book } = useBook();
  const of = chosen.length > 0 ? chosen : book.sections;
  const words = of.reduce((n, s) => n + (facts.get(s.id)?.words ?? 0), 0);
  const ids = chosen.map((s) => s.id);
  return (
    <Part title={chosen.length > 0 ? `${chosen.length} sections selected` : 'The whole book'}>
      <p className="text-ink-soft">
        {of.length.toLocaleString('en-GB')} sections, {words.toLocaleString('en-GB')} words
      </p>
      {chosen.length > 0 ? (
        <>
          {chosen.some((s) => kindRule(s.kind).numbered) ? (
            <Checkbox
              label="Show their numbers"
              on={chosen.every((s) => s.numbered)}
              onSet={(on) => void actions.number(ids, on)}
            />
          ) : null}
          <Checkbox
            label="Show their titles"
            on={chosen.every((s) => s.titled)}
            onSet={(on) => void actions.title(ids, on)}
          />
          {book.editions.map((e) => (
            <Checkbox
              key={e.id}
              label={`The ${inSentence(e.name)} carries them`}
              on={chosen.every((s) => !s.leftOut.includes(e.id))}
              onSet={(on) => void actions.carry(ids, e.id, on)}
            />
          ))}
        </>
      ) : (
        <p className="text-[13px] text-ink-soft">
          Select a section to see its particulars; with Shift or Ctrl, several.
        </p>
      )}
    </Part>
  );
}

const FORMS: Record<NumberForm, string> = {
  usual: 'the default for the language',
  words: 'in words: Three',
  arabic: 'in figures: 3',
  roman: 'in roman: III',
};

const CAPTIONS: Record<CaptionNumbers, string> = {
  none: 'not numbered',
  through: 'through the whole book: 7',
  'by-chapter': 'by chapter: 2.3',
};

function Numbers() {
  const { session } = useTitle();
  const { numbering } = useBook().book;
  const set = (fields: Partial<Numbering>): void =>
    void session.change({
      type: 'group',
      label: 'Change the numbers',
      changes: [{ type: 'set-numbering', fields }],
    });
  const form = (which: 'chapters' | 'parts'): ReactNode => (
    <Field label={which === 'chapters' ? 'Chapters' : 'Parts'}>
      <Select
        label={which === 'chapters' ? 'Chapters' : 'Parts'}
        className="w-full"
        value={numbering[which]}
        choices={choicesOf<NumberForm>(FORMS)}
        onChoose={(form) => set({ [which]: form })}
      />
    </Field>
  );
  const captions = (which: 'figures' | 'tables', label: string): ReactNode => (
    <Field label={label}>
      <Select
        label={label}
        className="w-full"
        value={numbering[which]}
        choices={choicesOf<CaptionNumbers>(CAPTIONS)}
        onChoose={(count) => set({ [which]: count })}
      />
    </Field>
  );
  return (
    <Part title="Numbers">
      {form('chapters')}
      <Checkbox
        label="With the word: Chapter Three"
        on={numbering.chapterWord}
        onSet={(chapterWord) => set({ chapterWord })}
      />
      <Field label="Chapters are counted">
        <Select
          label="Chapters are counted"
          className="w-full"
          value={numbering.count}
          choices={choicesOf<Numbering['count']>({
            continuous: 'through the whole book',
            'by-part': 'starting again in every part',
          })}
          onChoose={(count) => set({ count })}
        />
      </Field>
      {form('parts')}
      <Checkbox
        label="With the word: Part III"
        on={numbering.partWord}
        onSet={(partWord) => set({ partWord })}
      />
      {captions('figures', 'Figures')}
      {captions('tables', 'Tables')}
      {numbering.figures === 'none' && numbering.tables === 'none' ? null : (
        <p className="text-[13px] text-ink-soft">
          Only those with a caption are counted. Tidy in Manuscript takes out numbers that were typed before
          captions.
        </p>
      )}
    </Part>
  );
}

function Contents() {
  const { session } = useTitle();
  const { book, edition } = useBook();
  const e = book.editions.find((x) => x.id === edition);
  if (!e) return null;
  // On the edition as it is when its turn comes: two settings made at once are both kept.
  const set = (fields: Partial<typeof e.contents>): void =>
    void session.change((b) => {
      const now = b.editions.find((x) => x.id === e.id);
      return now
        ? {
            type: 'group',
            label: `Change the contents of the ${inSentence(e.name)}`,
            changes: [
              { type: 'set-edition', id: e.id, fields: { contents: { ...now.contents, ...fields } } },
            ],
          }
        : null;
    });
  const parts = book.sections.some((s) => s.kind === 'part');
  const levels = parts
    ? ['Parts', 'Parts and chapters', 'Parts, chapters and subheads']
    : ['Chapters', 'Chapters and subheads', 'Chapters and two levels of subheads'];
  return (
    <Part title={`Contents of the ${inSentence(e.name)}`}>
      <Field label="Heading">
        <Text value={e.contents.heading} placeholder="default" onCommit={(heading) => set({ heading })} />
      </Field>
      <Field label="It lists">
        <Select
          label="It lists"
          className="w-full"
          value={String(e.contents.levels ?? 0)}
          choices={['every section, no subheads', ...levels].map((name, i) => ({ value: String(i), name }))}
          onChoose={(level) => set({ levels: Number(level) || null })}
        />
      </Field>
      <p className="text-[13px] text-ink-soft">
        Its place is its row in the ledger. The ebook’s navigation is the same list.
      </p>
    </Part>
  );
}
