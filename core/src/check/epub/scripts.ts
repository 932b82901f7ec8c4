/** Rules of scripts and forms (EPUB 3.3 §6.3.2). */
import type { Rule } from '../rules';
import { isDataBlock } from './resources';
import { at, atAttribute, isHtml, type EpubSubject } from './subject';

export const SCRIPT_RULES: Rule<EpubSubject>[] = [
  {
    name: 'script/remote',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §3.6, §6.3.2; common practice: scripts from the web',
    why: 'Shops refuse it.',
    remedy: 'Remove it.',
    *look(s) {
      for (const d of s.documents)
        for (const e of d.elements)
          if (e.name === 'script' && /^\s*(https?:)?\/\//i.test(e.attrs.src ?? ''))
            yield { message: 'A script would be fetched from the web.', ...atAttribute(d, e, 'src') };
    },
  },
  {
    name: 'script/present',
    severity: 'note',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §6.3.2: support for scripts is optional',
    why: 'Most reading systems don’t run it, and several shops refuse it.',
    remedy: 'Make sure the page works without it, or remove it.',
    *look(s) {
      for (const d of s.documents) {
        const e = d.elements.find((x) => x.name === 'script' && !isDataBlock(x));
        if (e) yield { message: 'The page runs a script.', ...at(d, e) };
      }
    },
  },
  {
    name: 'script/form',
    severity: 'caution',
    source: 'EPUB 3.3 §6.3.2; common practice: forms send to nobody',
    why: 'Whatever readers fill in goes nowhere.',
    remedy: 'Write it as text, or link to a web page.',
    *look(s) {
      for (const d of s.documents) {
        const e = d.elements.find((x) => isHtml(x) && x.name === 'form');
        if (e) yield { message: 'The page has a form.', ...at(d, e) };
      }
    },
  },
];
