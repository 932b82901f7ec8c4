/** Pictures that nobody has described. */
import { descendants, type XmlElement } from '../../base';
import { isOlder, type EpubSubject } from './subject';

export const isPresentation = (e: XmlElement): boolean => /^(presentation|none)$/.test(e.attrs.role ?? '');

/** Pictures of which nothing is said, and that do not say that they only decorate. */
export const undescribed = (s: EpubSubject): { file: string; img: XmlElement }[] =>
  s.documents.flatMap((d) =>
    (d.root ? descendants(d.root, 'img') : [])
      // XHTML 1.1 has no roles: there, nothing to be said is all that a decoration can say of itself.
      .filter(
        (img) =>
          img.attrs.alt === undefined || (img.attrs.alt.trim() === '' && !isOlder(s) && !isPresentation(img)),
      )
      .map((img) => ({ file: d.path, img })),
  );
