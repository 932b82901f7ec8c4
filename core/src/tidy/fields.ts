/** Texts of a book that stand in no block: titles of sections and words of the record. They are edited like blocks. */
import type { Book, Change } from '../book';
import { stretchesOf, withStretches, type BookRecord } from '../record';
import type { TextEdit } from './edits';

export interface FieldText {
  /** Id of the section whose title it is; '' for the record. */
  section: string;
  /** "title", "subtitle"; in the record a path such as "contributors/0/life". */
  field: string;
  text: string;
}

export function* fieldsOf(book: Book): Generator<FieldText> {
  for (const s of book.sections)
    for (const field of ['title', 'subtitle'] as const)
      if (s[field] !== '') yield { section: s.id, field, text: s[field] };
  yield* recordFields(book.record);
}

function* recordFields(r: BookRecord): Generator<FieldText> {
  const one = (field: string, text: string): FieldText[] =>
    text === '' ? [] : [{ section: '', field, text }];
  for (const field of [
    'title',
    'subtitle',
    'copyrightHolder',
    'editionStatement',
    'ownClause',
    'imprint',
    'place',
  ] as const)
    yield* one(field, r[field]);
  for (const [i, text] of stretchesOf(r.description).entries()) yield* one(`description/${i}`, text);
  for (const [i, c] of r.contributors.entries())
    for (const field of ['name', 'life'] as const) yield* one(`contributors/${i}/${field}`, c[field]);
  for (const field of ['alsoBy', 'keywords'] as const)
    for (const [i, text] of r[field].entries()) yield* one(`${field}/${i}`, text);
}

/** What makes those edits of fields; edits whose text is no longer there are passed over. */
export function changesOfFields(book: Book, edits: readonly TextEdit[]): Change[] {
  const changes: Change[] = [];
  let record: BookRecord = book.record;
  for (const field of fieldsOf(book)) {
    const own = edits.filter((e) => e.field === field.field && e.section === field.section);
    const text = edited(field.text, own);
    if (text === field.text) continue;
    if (field.section === '') record = withField(record, field.field.split('/'), text);
    else changes.push({ type: 'set-section', id: field.section, fields: { [field.field]: text } });
  }
  if (record !== book.record) changes.push({ type: 'set-record', fields: differing(book.record, record) });
  return changes;
}

/** From the end on, so that what comes before keeps its place. */
function edited(text: string, edits: readonly TextEdit[]): string {
  let now = text;
  for (const e of [...edits].sort((a, b) => b.from - a.from))
    if (now.slice(e.from, e.to) === e.was) now = now.slice(0, e.from) + e.by + now.slice(e.to);
  return now;
}

function withField<T>(value: T, [key = '', ...rest]: readonly string[], text: string): T {
  if (key === '') return text as T;
  // Of a description each stretch between its markup is a field.
  if (typeof value === 'string')
    return withStretches(value, (now, i) => (String(i) === key ? text : now)) as T;
  if (Array.isArray(value))
    return value.map((v: unknown, i) => (String(i) === key ? withField(v, rest, text) : v)) as T;
  return { ...value, [key]: withField((value as Record<string, unknown>)[key], rest, text) };
}

const differing = (a: BookRecord, b: BookRecord): Partial<BookRecord> =>
  Object.fromEntries(Object.entries(b).filter(([k, v]) => a[k as keyof BookRecord] !== v));
