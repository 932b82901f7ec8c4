/** Ids in a file: valid, and each given once, whatever the book calls its blocks. */

/** A name as XML and every reader's style sheets take it (XML 1.0 §2.3, without the colon). */
const NAME = /^[A-Za-z_][\w.-]*$/;
/** Ids that the files themselves give. */
const OWN = /^(heading|toc|toc-heading|page-.*|call-.*|note-.*)$/;

/** The id under which a block of the book stands in its file. */
export const idIn = (block: string): string =>
  NAME.test(block) && !OWN.test(block)
    ? block
    : `b-${[...block].map((c) => (/[A-Za-z0-9]/.test(c) ? c : `_${(c.codePointAt(0) as number).toString(16)}`)).join('')}`;

/** Gives the ids of one file. */
export class Ids {
  private readonly given = new Set<string>();

  /** An `id` attribute; '' for a block without an id, or with one that is given already. */
  attribute(block: string): string {
    return block === '' ? '' : this.own(idIn(block));
  }
  /** The same for an id that the file makes itself. */
  own(id: string): string {
    if (this.given.has(id)) return '';
    this.given.add(id);
    return ` id="${id}"`;
  }
}
