/** Ebooks in the store: saved, undone, at once by several, over reloads. What a copy holds is read by fflate. */
import { describe, expect, it } from 'vitest';
import { strToU8, unzipSync, zipSync } from 'fflate';
import type { Outcome } from '@pagina/core/base';
import { copyOf, editBetween, textOfPart, type TextEdit } from '@pagina/core/emend';
import {
  collectFiles,
  createEbook,
  EbookCache,
  ebookSteps,
  keepBytes,
  openStore,
  readEbook,
  saveCommand,
  saveTyping,
  storedSize,
  undoEbook,
  type Store,
} from '../src';
import { freshStore, migrations } from './fixtures';

const value = <T>(o: Outcome<T>): T => {
  if (!o.ok) throw new Error(o.refusal.message);
  return o.value;
};
const page = (words: string): Uint8Array =>
  strToU8(
    `<html xmlns="http://www.w3.org/1999/xhtml"><head><title>${words}</title></head><body><p>${words}</p></body></html>`,
  );
const EPUB = zipSync({
  mimetype: [strToU8('application/epub+zip'), { level: 0 }],
  'META-INF/container.xml': strToU8(
    '<container version="1.0" xmlns="urn:oasis:names:tc:opendocument:xmlns:container"><rootfiles><rootfile full-path="b.opf" media-type="application/oebps-package+xml"/></rootfiles></container>',
  ),
  'b.opf': strToU8(
    '<package xmlns="http://www.idpf.org/2007/opf" version="3.0" unique-identifier="u"><metadata xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:identifier id="u">x</dc:identifier><dc:title>T</dc:title><dc:language>en</dc:language></metadata><manifest><item id="a" href="a.xhtml" media-type="application/xhtml+xml"/><item id="b" href="b.xhtml" media-type="application/xhtml+xml"/></manifest><spine><itemref idref="a"/><itemref idref="b"/></spine></package>',
  ),
  'a.xhtml': page('One one'),
  'b.xhtml': page('Two two'),
});

async function kept(): Promise<{ store: Store; id: string; cache: EbookCache }> {
  const store = await freshStore();
  const { sha256 } = await keepBytes(store, EPUB);
  return { store, id: value(await createEbook(store, { name: 'T.epub', sha256 })), cache: new EbookCache() };
}
const textOf = async (store: Store, id: string, path: string): Promise<string> =>
  textOfPart((await readEbook(store, id))?.state as never, path) ?? '';
let names = 0;
const typed = async (
  { store, id, cache }: Awaited<ReturnType<typeof kept>>,
  base: number,
  path: string,
  from: string,
  to: string,
  was?: string,
) => {
  const before = was ?? (await textOf(store, id, path));
  const edits = [editBetween(path, before, before.replace(from, to)) as TextEdit];
  return value(await saveTyping(store, cache, id, { base, client: 'w', request: `r${names++}`, edits }));
};

describe('an ebook that was opened', () => {
  it('is kept with what was typed, over reloads, and undone and redone in order', async () => {
    const e = await kept();
    await typed(e, 0, 'a.xhtml', '<p>One one', '<p>One more');
    await typed(e, 1, 'a.xhtml', 'more', 'thing');
    const r = await saveCommand(e.store, e.cache, e.id, {
      base: 2,
      client: 'w',
      request: 'c1',
      command: { type: 'rename', path: 'a.xhtml', to: 'first.xhtml' },
    });
    expect(value(r).show).toBe('first.xhtml');
    const again = await openStore(e.store.folder, migrations);
    expect(await textOf(again, e.id, 'first.xhtml')).toContain('<p>One thing');
    const fresh = new EbookCache();
    const step = async (redo: boolean): Promise<string | undefined> =>
      value(await undoEbook(again, fresh, e.id, { base: 0, client: 'w', redo }))?.label;
    expect(await ebookSteps(again, e.id)).toEqual({ undo: 'Rename', redo: '' });
    expect([await step(false), await step(false), await step(false), await step(false)]).toEqual([
      'Rename',
      'Edit a.xhtml',
      'Edit a.xhtml',
      undefined,
    ]);
    expect(copyOf((await readEbook(again, e.id))?.state as never)).toEqual(EPUB);
    expect([await step(true), await step(true), await step(true), await step(true)]).toEqual([
      'Edit a.xhtml',
      'Edit a.xhtml',
      'Rename',
      undefined,
    ]);
    expect(await step(false)).toBe('Rename');
    await typed({ ...e, store: again, cache: fresh }, 99, 'b.xhtml', 'Two', '2');
    expect(await step(true)).toBeUndefined();
    expect(await textOf(again, e.id, 'a.xhtml')).toContain('One thing');
  });
  it('keeps what two windows type at once, and says who is behind', async () => {
    const e = await kept();
    const was = await textOf(e.store, e.id, 'a.xhtml');
    expect((await typed(e, 0, 'a.xhtml', '<p>One', '<p>Only', was)).behind).toBe(false);
    const second = await typed(e, 0, 'a.xhtml', 'one</p>', 'one, and more</p>', was);
    expect(second.behind).toBe(true);
    expect(await textOf(e.store, e.id, 'a.xhtml')).toContain('<p>Only one, and more</p>');
    await saveCommand(e.store, e.cache, e.id, {
      base: 2,
      client: 'w',
      request: 'gone',
      command: { type: 'remove-document', path: 'a.xhtml' },
    });
    const late = await typed(e, 2, 'a.xhtml', 'x', 'x', 'x').catch(() => null);
    expect(late).toBeNull();
    const edits: TextEdit[] = [{ op: 'edit', path: 'a.xhtml', at: 0, removed: '', inserted: 'Late' }];
    const lost = value(
      await saveTyping(e.store, e.cache, e.id, { base: 2, client: 'v', request: 'l', edits }),
    );
    expect(lost.lost).toEqual(edits);
  });
  it('is changed once, however often a request comes, and by many at once', async () => {
    const e = await kept();
    const edits: TextEdit[] = [
      { op: 'edit', path: 'a.xhtml', at: 0, removed: '', inserted: '<!-- once -->' },
    ];
    const send = () => saveTyping(e.store, e.cache, e.id, { base: 0, client: 'w', request: 'same', edits });
    value(await send());
    value(await send());
    expect((await textOf(e.store, e.id, 'a.xhtml')).match(/once/g)).toHaveLength(1);
    const other = await openStore(e.store.folder, migrations);
    const caches = [new EbookCache(), new EbookCache()];
    const base = (await readEbook(e.store, e.id))?.row.revision ?? 0;
    await Promise.all(
      Array.from({ length: 12 }, async (_, i) =>
        value(
          await saveTyping(i % 2 ? other : e.store, caches[i % 2] as EbookCache, e.id, {
            base,
            client: `c${i}`,
            request: `m${i}`,
            edits: [{ op: 'edit', path: 'b.xhtml', at: 0, removed: '', inserted: `<!-- ${i}! -->` }],
          }),
        ),
      ),
    );
    const text = await textOf(other, e.id, 'b.xhtml');
    for (let i = 0; i < 12; i++) expect(text).toContain(`<!-- ${i}! -->`);
  });
  it('brings files that are not collected while it needs them', async () => {
    const e = await kept();
    const picture = new Uint8Array([0x89, 0x50, 0x4e, 0x47, ...new Uint8Array(30)]);
    const { sha256 } = await keepBytes(e.store, picture);
    const command = { type: 'cover' as const, file: { sha256, name: 'c.png' } };
    value(await saveCommand(e.store, e.cache, e.id, { base: 0, client: 'w', request: 'x', command }));
    await collectFiles(e.store, Date.now() + 30 * 24 * 3_600_000);
    expect(await storedSize(e.store, sha256)).toBe(picture.length);
    expect(unzipSync(copyOf((await readEbook(e.store, e.id))?.state as never))['c.png']).toEqual(picture);
    const refused = await saveCommand(e.store, e.cache, e.id, {
      base: 1,
      client: 'w',
      request: 'y',
      command: { type: 'add-file', file: { sha256: 'f'.repeat(64), name: 'no.png' } },
    });
    expect(refused).toMatchObject({
      ok: false,
      refusal: { message: 'The file did not arrive. Add it again.' },
    });
  });
});
