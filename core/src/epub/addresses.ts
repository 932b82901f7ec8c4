/**
 * Where things of the book have come to stand. While documents are written nobody knows yet in how many files a long section
 * comes, so an address names the section and the id; once all is written it becomes the file that really has that id.
 */

/** A place as it is written until then; nothing else in a file can look like it, since words have no bare quotation marks. */
const ADDRESS = / (href|src)="@(\d+)(?:#([^"]*))?"/g;

/** The address of a section, or of an id in it. `section`: its number in the order of the edition. */
export const addressOf = (section: number, id = ''): string => `@${section}${id && `#${id}`}`;

interface File {
  href: string;
  ids: ReadonlySet<string>;
}

export class Addresses {
  private readonly files = new Map<number, File[]>();

  /** A file of a section, in the order of the text; `href` from the package file. */
  add(section: number, href: string, xhtml: string): void {
    const ids = new Set<string>();
    for (const [, id] of xhtml.matchAll(/ id="([^"]+)"/g)) ids.add(id as string);
    this.files.set(section, [...(this.files.get(section) ?? []), { href, ids }]);
  }

  /** A file and fragment, from the package file; an id that no file has leads to where its section begins. */
  href(address: string): string {
    const [, section = '', id = ''] = /^@(\d+)(?:#(.*))?$/.exec(address) ?? [];
    const files = this.files.get(Number(section)) ?? [];
    const found = id === '' ? undefined : files.find((f) => f.ids.has(id));
    return found ? `${found.href}#${id}` : (files[0]?.href ?? '');
  }

  has(section: number, id: string): boolean {
    return this.files.get(section)?.some((f) => f.ids.has(id)) ?? false;
  }

  /** A file's text with its addresses as a reader follows them from there. */
  settle(xhtml: string, from: string): string {
    const up = '../'.repeat(from.split('/').length - 1);
    const folder = from.replace(/[^/]*$/, '');
    return xhtml.replace(ADDRESS, (_, attribute: string, section: string, id = '') => {
      const href = this.href(addressOf(Number(section), id as string));
      const [file = '', fragment] = href.split('#');
      const same = file === from && fragment !== undefined;
      const path = file.startsWith(folder) ? file.slice(folder.length) : `${up}${file}`;
      return ` ${attribute}="${same ? '' : path}${fragment === undefined ? '' : `#${fragment}`}"`;
    });
  }
}
