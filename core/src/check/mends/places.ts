/** Elements of the package document, and how they are taken away. */
import { elementsNamed, withIndent, type Draft, type Located } from '../../emend';
import { atElements, type Mend } from './mend';

export const metadataOf = (d: Draft): Located | undefined =>
  elementsNamed(d.elements(d.package.path), 'metadata')[0];

/** An element with the white space before it. */
export const gone = (e: Located, text: string) => [{ ...withIndent(text, e), with: '' }];

export const removed: Mend['apply'] = atElements((e, text) => gone(e, text));
