/** Pictures: the words that stand in for them. */
import type { Node } from 'prosemirror-model';
import { altOf, showsPicture, type Book } from '../../book';
import type { Rule } from '../rules';
import { atBlock, type BookSubject } from './subject';

/** Names of files and of things in general, which say nothing of what the picture shows. */
const USELESS =
  /^(?:(?:an?|the)\s+)?(?:image|img|picture|photo(?:graph)?|pic|figure|fig\.?|illustration|drawing|graphic|diagram|chart|screenshot|untitled|alt(?:\s*text)?|dsc|dscn|dsc_|placeholder|bild|abbildung|foto|imagen?|immagine|afbeelding)[\s_-]*[\d.()]*$|\.(?:jpe?g|png|gif|tiff?|webp|svg|bmp)$|^[\d\s._-]+$/iu;

interface Shown {
  section: string;
  block: string;
  alt: string;
  node: Node;
}
function picturesIn(book: Book): Shown[] {
  return book.sections.flatMap((s) => {
    const found: Shown[] = [];
    s.content.descendants((n) => {
      if (showsPicture(n)) found.push({ section: s.id, block: n.attrs.id as string, alt: altOf(n), node: n });
    });
    return found;
  });
}

export const FIGURE_RULES: readonly Rule<BookSubject>[] = [
  {
    name: 'figure/no-alt',
    severity: 'caution',
    profiles: ['book', 'accessibility'],
    source: 'WCAG 2.2, 1.1.1 Non-text Content; EPUB Accessibility 1.1 §3.2',
    why: 'Readers who can’t see it get no description, and shops ask for one.',
    remedy: 'Describe it, or mark it as decorative.',
    *look({ book }) {
      for (const { section, block, alt, node } of picturesIn(book))
        if (!node.attrs.decorative && alt === '')
          yield atBlock({ id: section }, { id: block }, 'A picture has no alternative text.');
    },
  },
  {
    name: 'figure/useless-alt',
    severity: 'caution',
    profiles: ['book', 'accessibility'],
    source: 'WCAG 2.2, failure F30: alternatives that are file names or placeholders (from memory)',
    why: 'Readers who can’t see the picture learn nothing from it.',
    remedy: 'Say what it shows, as you would on the telephone.',
    *look({ book }) {
      for (const { section, block, alt, node } of picturesIn(book)) {
        const caption = node.textContent.trim();
        if (alt !== '' && USELESS.test(alt))
          yield atBlock(
            { id: section },
            { id: block },
            `The alternative text “${alt}” doesn’t say what the picture shows.`,
          );
        else if (alt !== '' && caption !== '' && alt === caption)
          yield atBlock(
            { id: section },
            { id: block },
            'The alternative text repeats the caption word for word.',
            undefined,
            {
              why: 'Readers who listen hear the same sentence twice.',
            },
          );
      }
    },
  },
  {
    name: 'figure/missing-file',
    severity: 'caution',
    profiles: ['book'],
    source: 'common practice',
    why: 'A gap prints in its place.',
    remedy: 'Put the picture in again.',
    *look({ book }) {
      const known = new Set(book.pictures.map((p) => p.id));
      for (const { section, block, node } of picturesIn(book)) {
        const picture = node.attrs.picture as string;
        if (picture !== '' && !known.has(picture))
          yield atBlock({ id: section }, { id: block }, 'The file of a picture is missing.');
      }
    },
  },
];
