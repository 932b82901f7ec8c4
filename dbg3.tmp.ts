import { readManuscript } from './core/src/intake';
import { readFileSync } from 'node:fs';
const f=process.argv[2]!;
const i = await readManuscript(readFileSync(f),f.split('/').pop()!); if(!i.ok) throw 1;
const want=process.argv[3];
for(const g of i.value.guesses){ console.log([g.section.kind,g.section.title,g.section.parent,g.reason,g.score.toFixed(1)].join(' | '));
 g.section.content.forEach(n=>{ const t=n.type.name; if(want==='all'?t!=='paragraph':t===want) console.log('    ',t,n.attrs.align??n.attrs.level??'',JSON.stringify(n.textBetween(0,n.content.size,' / ',x=>x.type.name==='lineBreak'?'⏎':'*').slice(0,160)));});}
if(process.argv[4]) for(const s of i.value.setAside) console.log(s.rule,'|',s.text.slice(0,100));
console.log(i.value.findings.map(f=>f.message));
