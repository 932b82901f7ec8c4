/** The library that reads .docx: its document tree, stopped before it becomes HTML. */
import mammoth from 'mammoth';
import type { Zip } from '../../base';

/** The library's tree, as far as it is used here. */
export interface El {
  type: string;
  children?: El[];
  value?: string;
  name?: string;
  href?: string;
  anchor?: string;
  noteType?: string;
  noteId?: string;
  breakType?: string;
  altText?: string;
  contentType?: string;
  readAsBuffer?: () => Promise<Uint8Array>;
  styleId?: string | null;
  styleName?: string | null;
  alignment?: string | null;
  indent?: { start: string | null; end: string | null; firstLine: string | null; hanging?: string | null };
  numbering?: { level: string; isOrdered: boolean } | null;
  isBold?: boolean;
  isItalic?: boolean;
  isStrikethrough?: boolean;
  isUnderline?: boolean;
  commentId?: string;
  authorName?: string;
  comments?: El[];
  colSpan?: number;
  rowSpan?: number;
  isHeader?: boolean;
  isSmallCaps?: boolean;
  isAllCaps?: boolean;
  verticalAlignment?: string;
  font?: string | null;
  fontSize?: number | null;
  body?: El[];
  notes?: { _notes: Record<string, El> };
  checked?: boolean;
}

export const textOfPart = (b: Uint8Array): string => new TextDecoder().decode(b).replace(/^\ufeff/, '');

/** The tree of the part `main`, whose text is `xml`. Throws where a part cannot be read. */
export async function documentTree(zip: Zip, main: string, xml: string): Promise<El> {
  const names = new Set(zip.entries.map((e) => e.name));
  let tree: El | null = null;
  const file = {
    exists: (name: string) => names.has(name),
    // A part that cannot be unpacked is a rejection: thrown at once, it would leave one the library waits for alone.

    read: async (name: string, encoding?: string): Promise<Uint8Array | string> => {
      if (name === main && encoding) return xml;
      const bytes = zip.read(name);
      if (!bytes) throw new Error(`${name} is not in the file`);
      return encoding === 'base64' ? '' : encoding ? textOfPart(bytes) : bytes;
    },
  };
  await mammoth.convertToHtml(
    { file } as never,
    {
      transformDocument: (d: El) => {
        tree = d;
        return { ...d, children: [] };
      },
      externalFileAccess: false,
    } as never,
  );
  if (!tree) throw new Error('there is no document');
  return tree;
}
