import { openNovel } from './bench/open-novel';
import { makeEbook } from './make/src/ebook';
import { readManuscript } from './core/src/intake';
const b=openNovel(); const id = b.editions.find((e) => e.form === 'reflow')!.id;
const made = await makeEbook(b, id, { pictures: () => null, print: null }); if(!made.ok) throw 1;
const i=await readManuscript(made.value.bytes,'n.epub'); if(!i.ok) throw 1;
i.value.book.sections.forEach((s,k)=>{const a=s.content.textContent,c=b.sections[k]!.content.textContent; if(a!==c){let n=0;while(a[n]===c[n])n++; console.log(k,s.title,JSON.stringify(a.slice(n-40,n+80)),'|',JSON.stringify(c.slice(n-40,n+80)));}});
console.log(i.value.setAside.map(s=>s.rule+':'+s.text.slice(0,80)).slice(0,20));
