import { readRaw } from './core/src/intake/readers';
import { readFileSync } from 'node:fs';
const f=process.argv[2]!;
const r=await readRaw(readFileSync(f),f.split('/').pop()!);
if(!r.ok){console.log(r);process.exit(1)}
const m=r.value;
console.log(JSON.stringify({title:m.title,author:m.author,lang:m.language,dropped:m.dropped,notes:m.notes.length,pics:m.pictures.length,cautions:m.cautions}));
m.blocks.forEach((b,i)=>{ if(b.kind==='table'){console.log(i,'TABLE',b.rows.length);return;}
 const f=[b.style,b.outline?'O'+b.outline:'',b.breakBefore?'PB':'',b.align!=='left'?b.align:'',b.size,b.bold?'B':'',b.italic?'I':'',b.indented?'IND':'',b.list?'L'+b.list.level+(b.list.ordered?'o':'u'):'',b.monospace?'M':'',b.pictures.length?'PIC':'',b.inline.some(n=>n.type.name==='lineBreak')?'BR':''].filter(Boolean).join(' ');
 const t=b.inline.map(n=>n.isText?n.text:n.type.name==='lineBreak'?'⏎':'['+n.type.name+']').join('');
 console.log(i,`{${f}}`,t.length>110?t.slice(0,70)+'…'+t.slice(-30)+` (${t.split(/\s+/).length}w)`:t);
});
