/**
 * The description of a book with the markup that shops accept. Checked by other hands: parse5 reads the HTML as a browser
 * does (WHATWG HTML), saxes holds it to be well-formed XML, and words are counted in the source.
 */
import fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { parseFragment, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { SaxesParser } from 'saxes';
import { describe, expect, it } from 'vitest';
import { descriptionFor } from '../src/outlets';
import { readOnix, writeOnix } from '../src/onix';
import {
  descriptionDoc,
  descriptionHtml,
  descriptionSchema as s,
  descriptionText,
  isMarkedUp,
  plainDescription,
  stretchesOf,
  withStretches,
} from '../src/record';
import { threeChapters } from './fixtures/books';

const words = (text: string): string[] => text.match(/[\p{L}\p{N}]+/gu) ?? [];
/** Words of HTML as parse5 has them; those of `script` and `style` are no text. */
function wordsOfHtml(html: string): string[] {
  const texts: string[] = [];
  const walk = (n: Tree.Node): void => {
    if ('value' in n) texts.push(n.value);
    if ('tagName' in n && ['br', 'p', 'li'].includes(n.tagName)) texts.push(' ');
    if ('childNodes' in n && !('tagName' in n && ['script', 'style'].includes(n.tagName)))
      n.childNodes.forEach(walk);
  };
  walk(parseFragment(html));
  return words(texts.join(''));
}
function faultsAsXml(html: string): string[] {
  const faults: string[] = [];
  const parser = new SaxesParser();
  parser.on('error', (e) => faults.push(e.message));
  parser.write(`<r>${html}</r>`).close();
  return faults;
}

const text = fc
  .string({ unit: fc.constantFrom('a', 'B', 'é', '漢', ' ', '<', '>', '&', '"', '’', ';', 'p', '/', 'li') })
  .filter((t) => t.trim() !== '')
  .map((t) => t.trim().replace(/\s+/g, ' '));
const span = fc.tuple(text, fc.boolean(), fc.boolean()).map(([t, strong, emphasis]): Node => {
  const marks = [...(strong ? [s.mark('strong')] : []), ...(emphasis ? [s.mark('emphasis')] : [])];
  return s.text(t, marks);
});
const paragraph = fc
  .array(span, { minLength: 1, maxLength: 4 })
  .map((spans) => s.node('paragraph', null, spans));
const list = fc
  .tuple(fc.boolean(), fc.array(paragraph, { minLength: 1, maxLength: 4 }))
  .map(([numbered, items]) =>
    s.node(
      numbered ? 'numberedList' : 'bulletList',
      null,
      items.map((p) => s.node('item', null, [p])),
    ),
  );
const doc = fc
  .array(fc.oneof(paragraph, list), { minLength: 1, maxLength: 5 })
  .map((blocks) => s.node('doc', null, blocks));

describe('a description', () => {
  it('comes back as it was written, whatever its words and markup', () => {
    fc.assert(
      fc.property(doc, (d) => {
        const kept = descriptionText(d);
        expect(descriptionDoc(kept).toJSON()).toEqual(d.toJSON());
        expect(faultsAsXml(descriptionHtml(kept))).toEqual([]);
        expect(wordsOfHtml(descriptionHtml(kept))).toEqual(words(d.textBetween(0, d.content.size, ' ', ' ')));
      }),
      { numRuns: 400 },
    );
  });

  it('loses no word of any text, and keeps a plain one as it is typed', () => {
    fc.assert(
      fc.property(fc.array(text, { minLength: 1, maxLength: 4 }), (lines) => {
        const typed = lines.join('\n\n');
        const kept = descriptionText(descriptionDoc(typed));
        if (!isMarkedUp(typed)) expect(kept).toBe(typed);
        expect(words(plainDescription(kept))).toEqual(isMarkedUp(typed) ? wordsOfHtml(typed) : words(typed));
        expect(descriptionText(descriptionDoc(kept))).toBe(kept);
      }),
      { numRuns: 400 },
    );
  });

  it('keeps words that look like a tag', () => {
    const d = s.node('doc', null, [s.node('paragraph', null, [s.text('Write <em> for emphasis.')])]);
    expect(descriptionText(d)).toBe('<p>Write &lt;em&gt; for emphasis.</p>');
    expect(plainDescription(descriptionText(d))).toBe('Write <em> for emphasis.');
    expect(plainDescription('I <3 books & 1 < 2')).toBe('I <3 books & 1 < 2');
  });

  it('takes of a shop’s HTML what shops accept', () => {
    const pasted =
      '<div class="x"><h2>The <i>Salt</i> Clerk</h2><script>alert(1)</script><p onclick="x">A <b>tide</b><br>turns.' +
      '<ul><li>mud<ul><li>deep</li></ul></li><li><p>carts</p></li></ul>and <a href="javascript:x">after</a></div>';
    expect(descriptionText(descriptionDoc(pasted))).toBe(
      '<p>The <em>Salt</em> Clerk</p><p>A <strong>tide</strong><br/>turns.</p>' +
        '<ul><li>mud</li><li>deep</li><li>carts</li></ul><p>and after</p>',
    );
    expect(plainDescription(pasted)).toBe(
      'The Salt Clerk\n\nA tide\nturns.\n\n• mud\n• deep\n• carts\n\nand after',
    );
  });

  it('goes to an outlet with markup or without, counted as the outlet counts', () => {
    const d = '<p>Mud &amp; <em>carts</em>.</p>';
    expect(descriptionFor({}, d)).toEqual({ text: 'Mud & carts.', counted: 'Mud & carts.' });
    expect(descriptionFor({ markup: 'taken' }, d)).toEqual({ text: d, counted: 'Mud & carts.' });
    expect(descriptionFor({ markup: 'counted' }, d)).toEqual({ text: d, counted: d });
    expect(descriptionFor({ markup: 'taken' }, 'One.\nTwo.').text).toBe('<p>One.</p><p>Two.</p>');
  });

  it('is edited by words without its markup being touched', () => {
    const d = '<p>The p of <strong>strong</strong> p.</p>';
    expect(stretchesOf(d)).toEqual(['The p of ', 'strong', ' p.']);
    expect(withStretches(d, (t) => t.replace(/\bp\b/g, 'q').replace('strong', 'weak'))).toBe(
      '<p>The q of <strong>weak</strong> q.</p>',
    );
  });

  it('travels in ONIX as XHTML (list 34: 05)', () => {
    const book = threeChapters();
    const description = '<p>Mud &amp; <em>carts</em>.</p><ul><li>one</li></ul>';
    const message = writeOnix(
      { ...book, record: { ...book.record, description } },
      { sent: '2026-11-30T10:00:00Z' },
    );
    expect(message).toContain(`<Text textformat="05">${description}</Text>`);
    const read = readOnix(message);
    expect(read.ok && read.value.record.description).toBe(description);
  });
});
