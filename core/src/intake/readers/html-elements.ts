/** What elements and classes of HTML mean for a manuscript. */
import { KINDS, type SectionKind } from '../../book';

export const SKIPPED = new Set(
  'script style head template noscript iframe object embed svg canvas video audio form input button select textarea rt rp del'.split(
    ' ',
  ),
);
export const BLOCKS = new Set(
  'p h1 h2 h3 h4 h5 h6 div section article header footer main nav aside blockquote li ul ol dl dt dd pre figure figcaption hr table caption address center body html hgroup details summary fieldset'.split(
    ' ',
  ),
);
/** What a paragraph inside such an element or class is, as the name of a style; recognition and assembly know these. */
export const STYLES: [RegExp, string][] = [
  [/^(verse|poem|poetry|stanza|lg)$/i, 'Verse'],
  [/^(letter|correspondence)$/i, 'Letter'],
  [/^(attribution|source)$/i, 'Attribution'],
  [/^(caption|figcaption)$/i, 'Caption'],
  [/^mso-?toc\d$|^toc\d?$/i, 'toc'],
  [/^mso-?(quote|intensequote|blocktext)/i, 'Quotation'],
  [/^mso-?title$/i, 'Title'],
  [/^(mso-?)?subtitle$/i, 'Subtitle'],
  [/^mso-?caption$/i, 'Caption'],
];
export const KIND_BY_TYPE = new Map<string, SectionKind>(
  (Object.entries(KINDS) as [SectionKind, (typeof KINDS)[SectionKind]][])
    .filter(([, r]) => !['frontmatter', 'backmatter', 'bodymatter'].includes(r.epubType))
    .reverse()
    .map(([kind, r]) => [r.epubType, kind]),
);
