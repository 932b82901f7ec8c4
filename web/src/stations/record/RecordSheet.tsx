'use client';
/** The bibliographic record on one sheet. Each field is kept when it is left; a wrong one says what is wrong with it. */
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { toast } from 'sonner';
import type { Change, Edition } from '@pagina/core/book';
import { bareIsbn, isbnFault, ISBN_FAULTS, type BookRecord, type Contributor } from '@pagina/core/record';
import { TRIMS } from '@pagina/core/design';
import { useBook, useFindings, useTitle } from '@/title/context';
import { shortId } from '@/title/session';
import { Button, Field, input, SeverityMark } from '@/ui/controls';

/** A text field that keeps its words when it is left or Enter is pressed. */
function Text({
  value,
  onKeep,
  area,
  wrong,
  ...rest
}: {
  value: string;
  onKeep: (v: string) => void;
  area?: boolean;
  wrong?: boolean;
  placeholder?: string;
  'aria-label'?: string;
  maxLength?: number;
}) {
  const [now, setNow] = useState(value);
  const typing = useRef(false);
  useEffect(() => {
    if (!typing.current) setNow(value);
  }, [value]);
  const keep = (): void => {
    typing.current = false;
    if (now !== value) onKeep(now.trim());
  };
  const common = {
    value: now,
    onChange: (e: { target: { value: string } }) => {
      typing.current = true;
      setNow(e.target.value);
    },
    onBlur: keep,
    'aria-invalid': wrong || undefined,
    ...rest,
  };
  if (area) return <textarea {...common} rows={5} className={`${input} h-auto py-1.5`} />;
  return (
    <input
      {...common}
      className={`${input} ${wrong ? 'border-rubric' : ''}`}
      onKeyDown={(e) => e.key === 'Enter' && keep()}
    />
  );
}

export function RecordSheet() {
  const { session } = useTitle();
  const { book } = useBook();
  const findings = useFindings().filter((f) => f.rule.startsWith('agree/'));
  const { record } = book;
  const set = (fields: Partial<BookRecord>, label = 'Change the record'): void =>
    void session.change({ type: 'group', label, changes: [{ type: 'set-record', fields }] });
  const field = (
    name: 'title' | 'subtitle' | 'imprint' | 'place' | 'year' | 'copyrightHolder' | 'language',
  ) => ({
    value: record[name],
    onKeep: (v: string) =>
      set({ [name]: v }, `Change the ${name === 'copyrightHolder' ? 'copyright holder' : name}`),
  });
  const authors = record.contributors.filter((c) => c.role === 'author');
  const setAuthors = (list: Contributor[]): void =>
    set(
      { contributors: [...list, ...record.contributors.filter((c) => c.role !== 'author')] },
      'Change the authors',
    );
  const setEdition = (e: Edition, fields: Partial<Edition>): void =>
    void session.change({
      type: 'group',
      label: `Change the ${e.name.toLowerCase()}`,
      changes: [{ type: 'set-edition', id: e.id, fields }],
    });
  const languageIsTag = isTag(record.language);
  return (
    <div className="h-full overflow-auto">
      <div className="mx-auto grid max-w-[1180px] grid-cols-[minmax(0,1fr)_minmax(0,1fr)_300px] gap-x-10 gap-y-5 px-6 py-6">
        <Group title="The book">
          <Field
            label="Title"
            hint={record.title.length > 150 ? 'Very long titles are cut short in shops.' : undefined}
          >
            <Text {...field('title')} />
          </Field>
          <Field label="Subtitle">
            <Text {...field('subtitle')} />
          </Field>
          {[...authors, { name: '', role: 'author' as const, sortName: '' }].map((a, i) => (
            <Field
              key={i}
              label={i === 0 ? 'Author' : i === authors.length ? 'Another author' : `Author ${i + 1}`}
            >
              <Text
                value={a.name}
                onKeep={(name) =>
                  setAuthors([
                    ...authors.slice(0, i),
                    ...(name ? [{ ...a, name }] : []),
                    ...authors.slice(i + 1),
                  ])
                }
              />
            </Field>
          ))}
          <Field
            label="Language"
            hint={
              languageIsTag
                ? new Intl.DisplayNames(['en'], { type: 'language' }).of(record.language)
                : 'Write it as a tag: en-GB, fr, de-AT.'
            }
          >
            <Text {...field('language')} wrong={!languageIsTag} />
          </Field>
          <Field label="Description" hint={`${record.description.length.toLocaleString('en-GB')} characters`}>
            <Text
              area
              value={record.description}
              onKeep={(description) => set({ description }, 'Change the description')}
            />
          </Field>
          <Field label="Keywords" hint={`${record.keywords.length} of them, with commas between`}>
            <Text
              value={record.keywords.join(', ')}
              onKeep={(v) =>
                set(
                  {
                    keywords: [
                      ...new Set(
                        v
                          .split(',')
                          .map((k) => k.trim())
                          .filter(Boolean),
                      ),
                    ],
                  },
                  'Change the keywords',
                )
              }
            />
          </Field>
        </Group>
        <div className="space-y-7">
          <Group title="The imprint">
            <Field label="Imprint">
              <Text {...field('imprint')} />
            </Field>
            <div className="grid grid-cols-[1fr_90px] gap-3">
              <Field label="Place">
                <Text {...field('place')} />
              </Field>
              <Field label="Year">
                <Text {...field('year')} maxLength={4} />
              </Field>
            </div>
            <Field label="Copyright holder" hint="The author, when nothing stands here">
              <Text {...field('copyrightHolder')} />
            </Field>
          </Group>
          <Group title="Editions">
            {book.editions.map((e) => {
              const fault = e.isbn ? isbnFault(e.isbn) : null;
              return (
                <div key={e.id} className="space-y-2 border-t border-rule pt-2 first-of-type:border-0">
                  <Field
                    label={`ISBN of the ${e.name.toLowerCase()}`}
                    hint={
                      fault ? (
                        <span className="text-rubric">{ISBN_FAULTS[fault]}</span>
                      ) : e.isbn ? (
                        `${bareIsbn(e.isbn).length} digits, and the last one fits`
                      ) : (
                        'An ISBN of its own, or none'
                      )
                    }
                  >
                    <Text
                      value={e.isbn}
                      wrong={fault !== null}
                      onKeep={(isbn) => setEdition(e, { isbn })}
                      placeholder="978-…"
                    />
                  </Field>
                  {e.form === 'print' ? (
                    <Field label="Trim">
                      <select
                        className={input}
                        value={e.trim}
                        onChange={(x) => setEdition(e, { trim: x.target.value })}
                      >
                        {TRIMS.map((t) => (
                          <option key={t.name}>{t.name}</option>
                        ))}
                      </select>
                    </Field>
                  ) : null}
                </div>
              );
            })}
            <Price record={record} onKeep={(price) => set({ price }, 'Change the price')} />
          </Group>
        </div>
        <div className="space-y-7">
          <Cover />
          <section>
            <h2 className="column-head mb-2">Agreement</h2>
            {findings.length === 0 ? (
              <p className="text-ink-soft">Record, title page and copyright page agree.</p>
            ) : null}
            <ul className="space-y-2">
              {findings.map((f, i) => (
                <li key={i}>
                  <SeverityMark severity={f.severity} /> {f.message}
                </li>
              ))}
            </ul>
          </section>
        </div>
      </div>
    </div>
  );
}

function isTag(tag: string): boolean {
  try {
    return tag !== '' && Intl.getCanonicalLocales(tag).length === 1;
  } catch {
    return false;
  }
}

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="space-y-3">
      <h2 className="border-b border-rule pb-1 font-serif text-[18px]">{title}</h2>
      {children}
    </section>
  );
}

const CURRENCIES = ['GBP', 'USD', 'EUR', 'CAD', 'AUD'];

/** The ebook's list price: typed as money, kept in the currency's smallest unit. */
function Price({ record, onKeep }: { record: BookRecord; onKeep: (p: BookRecord['price']) => void }) {
  const [wrong, setWrong] = useState(false);
  const currency = record.price?.currency ?? 'GBP';
  const keep = (text: string): void => {
    if (text === '') {
      setWrong(false);
      return onKeep(null);
    }
    const m = /^(\d{1,5})(?:[.,](\d{1,2}))?$/.exec(text);
    setWrong(!m);
    if (m) onKeep({ minor: Number(m[1]) * 100 + Number((m[2] ?? '').padEnd(2, '0')), currency });
  };
  return (
    <Field
      label="List price of the ebook"
      hint={wrong ? <span className="text-rubric">Write it like 4.99.</span> : undefined}
    >
      <span className="grid grid-cols-[1fr_90px] gap-3">
        <Text
          value={record.price ? (record.price.minor / 100).toFixed(2) : ''}
          onKeep={keep}
          wrong={wrong}
          placeholder="4.99"
        />
        <select
          aria-label="Currency"
          className={input}
          value={currency}
          onChange={(e) => onKeep({ minor: record.price?.minor ?? 0, currency: e.target.value })}
        >
          {CURRENCIES.map((c) => (
            <option key={c}>{c}</option>
          ))}
        </select>
      </span>
    </Field>
  );
}

function Cover() {
  const { session } = useTitle();
  const { book } = useBook();
  const chooser = useRef<HTMLInputElement>(null);
  const cover = book.pictures.find((p) => p.id === book.record.cover);
  const take = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    const r = await fetch(`/api/titles/${session.id}/pictures`, { method: 'POST', body: file });
    const info = (await r.json()) as {
      message?: string;
      type: 'image/png' | 'image/jpeg' | 'image/gif';
      width: number;
      height: number;
      sha256: string;
    };
    if (!r.ok) return void toast(info.message ?? 'The picture could not be kept.');
    await session.change((b): Change => {
      const id = `cover-${shortId()}`;
      return {
        type: 'group',
        label: 'Change the cover',
        changes: [
          {
            type: 'set-pictures',
            pictures: [
              ...b.pictures,
              {
                id,
                name: file.name,
                type: info.type,
                width: info.width,
                height: info.height,
                sha256: info.sha256,
              },
            ],
          },
          { type: 'set-record', fields: { cover: id } },
        ],
      };
    });
  };
  return (
    <section>
      <h2 className="column-head mb-2">Cover of the ebook</h2>
      <div className="flex gap-4">
        {cover?.sha256 ? (
          <img
            src={`/api/files/${cover.sha256}?type=${cover.type === 'image/jpeg' ? 'jpg' : cover.type.slice(6)}`}
            alt="The cover"
            className="h-48 border border-rule"
          />
        ) : (
          <span className="flex h-48 w-32 items-center justify-center border border-dashed border-edge text-center text-[13px] text-ink-soft">
            No cover yet
          </span>
        )}
        <div className="space-y-2 text-[13px] text-ink-soft">
          {cover ? (
            <p>
              {cover.width} × {cover.height} pixels
              {cover.height < 2500 ? (
                <span className="block text-ochre">Shops like 2,500 pixels of height or more.</span>
              ) : null}
            </p>
          ) : null}
          <Button onClick={() => chooser.current?.click()}>
            {cover ? 'Another picture' : 'Choose a picture'}
          </Button>
          <input
            ref={chooser}
            type="file"
            accept="image/png,image/jpeg"
            className="hidden"
            aria-label="Cover picture"
            onChange={(e) => void take(e.target.files?.[0])}
          />
        </div>
      </div>
    </section>
  );
}
