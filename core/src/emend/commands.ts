/** Everything that can be done to an ebook but typing, as a value that a window sends and the log keeps. */
import * as z from 'zod';
import { refused, type Outcome } from '../base';
import type { Emended } from './container';
import { contentsFromHeadings, setList } from './contents';
import { addDocument, moveDocument, removeDocument, setLinear } from './documents';
import type { Emendation } from './draft';
import { addFile, removeFile, replaceFile, setAlternative, setCover, type IncomingFile } from './files';
import { divideDocument, joinDocuments } from './joining';
import { changeMetadata, restamp } from './metadata';
import { renamePart } from './renaming';

const path = z.string().min(1).max(2_000);
const words = z.string().max(10_000);
const count = z.number().int().min(0).max(100_000_000);
/** A file that is in the store. */
const file = z.object({ sha256: z.string().regex(/^[0-9a-f]{64}$/), name: z.string().max(300) });

export const commandSchema = z.discriminatedUnion('type', [
  z.object({ type: z.literal('move'), path, before: path.nullable() }),
  z.object({ type: z.literal('linear'), path, linear: z.boolean() }),
  z.object({ type: z.literal('divide'), path, at: count }),
  z.object({ type: z.literal('join'), path }),
  z.object({ type: z.literal('add-document'), after: path, title: words }),
  z.object({ type: z.literal('remove-document'), path }),
  z.object({ type: z.literal('rename'), path, to: path }),
  z.object({
    type: z.literal('list'),
    list: z.enum(['contents', 'landmarks', 'pages']),
    entries: z
      .array(
        z.object({
          from: count.nullable(),
          label: words,
          path: z.string().max(2_000),
          fragment: z.string().max(2_000),
          depth: z.number().int().min(0).max(20),
        }),
      )
      .max(50_000),
  }),
  z.object({ type: z.literal('contents-from-headings'), depth: z.number().int().min(1).max(6) }),
  z.object({
    type: z.literal('metadata'),
    change: z.discriminatedUnion('do', [
      z.object({ do: z.literal('set'), at: count, value: words }),
      z.object({ do: z.literal('add'), name: z.string().regex(/^[A-Za-z][\w.:-]{0,99}$/), value: words }),
      z.object({ do: z.literal('remove'), at: count }),
      z.object({
        do: z.literal('refine'),
        at: count,
        name: z.string().regex(/^[A-Za-z][\w.:-]{0,99}$/),
        value: words,
      }),
    ]),
  }),
  z.object({ type: z.literal('restamp'), moment: z.string().regex(/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\dZ$/) }),
  z.object({ type: z.literal('alternative'), path, offset: count, text: words, decorative: z.boolean() }),
  z.object({ type: z.literal('add-file'), file }),
  z.object({ type: z.literal('replace-file'), path, file }),
  z.object({ type: z.literal('remove-file'), path }),
  z.object({ type: z.literal('cover'), path: path.optional(), file: file.optional() }),
]);
export type Command = z.infer<typeof commandSchema>;

/** The file that a command brings, if it brings one. */
export const fileIn = (c: Command): { sha256: string; name: string } | undefined =>
  'file' in c ? c.file : undefined;

/** What a command comes to. `incoming`: the file that it brings. Errors: those of the commands. */
export function emend(e: Emended, c: Command, incoming: IncomingFile | null): Outcome<Emendation> {
  const missing = refused('emend/gone', 'The file did not arrive. Add it again.');
  switch (c.type) {
    case 'move':
      return moveDocument(e, c.path, c.before);
    case 'linear':
      return setLinear(e, c.path, c.linear);
    case 'divide':
      return divideDocument(e, c.path, c.at);
    case 'join':
      return joinDocuments(e, c.path);
    case 'add-document':
      return addDocument(e, c.after, c.title);
    case 'remove-document':
      return removeDocument(e, c.path);
    case 'rename':
      return renamePart(e, c.path, c.to);
    case 'list':
      return setList(e, c.list, c.entries);
    case 'contents-from-headings':
      return contentsFromHeadings(e, c.depth);
    case 'metadata':
      return changeMetadata(e, c.change);
    case 'restamp':
      return restamp(e, c.moment);
    case 'alternative':
      return setAlternative(e, c.path, c.offset, c);
    case 'add-file':
      return incoming ? addFile(e, incoming) : missing;
    case 'replace-file':
      return incoming ? replaceFile(e, c.path, incoming) : missing;
    case 'remove-file':
      return removeFile(e, c.path);
    case 'cover':
      if (c.path !== undefined) return setCover(e, { path: c.path });
      return incoming ? setCover(e, incoming) : missing;
  }
}
