import { messyNovel } from './bench/messy';
import { readManuscript, wordsOfSection } from './core/src/intake';
const messy = await messyNovel({ size: 24, contents: false });
const i = await readManuscript(messy.docx); if(!i.ok) throw 1;
const f=i.value.guesses.map(g=>[g.section.kind,g.section.title,wordsOfSection(g.section),g.reason,g.score.toFixed(1)].join(' | '));
console.log(f.slice(0,60).join('\n')); console.log(f.length, messy.expected.length);
