import { readManuscript } from './core/src/intake';
const i = await readManuscript(new TextEncoder().encode('---\ntitle: "Saltings"\nauthor: Ada Marsh\n---\n\n# The Boat\n\nText *here*[^1] and **there**.\n\n## Sub\n\n1. a\n2. b\n\n> Quote\n\n---\n\n| a | b |\n|---|---|\n| c | d |\n\n# Second\n\nEnd.\n\n[^1]: A note.\n'),'a.md'); if(!i.ok) throw 1;
console.log(i.value.guesses.map(g=>[g.section.kind,g.section.title,g.reason, g.section.content.toString()]), i.value.setAside);
