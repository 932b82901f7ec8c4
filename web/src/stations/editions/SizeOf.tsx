'use client';
/** What an ebook’s size is made of, and what would make it smaller. */
import { useState } from 'react';
import { sizeAdvice, type PartSizes, type PartSort } from '@pagina/core/package';
import { isReflow, type Edition } from '@pagina/core/book';
import type { Product } from '@pagina/data';
import { Button } from '@/ui/Button';
import { sizeInWords } from '@/ui/FileOf';
import { Popover } from '@/ui/Popover';

const NAMES: Record<PartSort, string> = {
  pictures: 'Pictures',
  faces: 'Typefaces',
  text: 'Text and its styles',
  sound: 'Sound and film',
  rest: 'Everything else',
};

export function SizeOf({ product, edition, called }: { product: Product; edition: Edition; called: string }) {
  const [sizes, setSizes] = useState<PartSizes | { message: string } | null>(null);
  const ask = async (): Promise<void> => {
    try {
      const r = await fetch(`/api/files/${product.sha256}/sizes`);
      setSizes((await r.json()) as PartSizes | { message: string });
    } catch {
      setSizes({ message: 'Pagina can’t be reached just now.' });
    }
  };
  const choices = isReflow(edition)
    ? { pictures: edition.pictures, faces: edition.faces }
    : { pictures: null, faces: null };
  return (
    <Popover
      label={`Size of the ${called}`}
      className="w-96 p-3"
      onOpenChange={(open) => {
        if (open) void ask();
      }}
      trigger={
        <Button kind="quiet" className="h-6 px-1 text-[13px]" aria-label={`Size of the ${called}, by part`}>
          By part
        </Button>
      }
    >
      {sizes === null ? (
        <p className="text-ink-soft">Looking into the file …</p>
      ) : 'message' in sizes ? (
        <p className="text-rubric">{sizes.message}</p>
      ) : (
        <div>
          <table className="w-full" aria-label="Size by part">
            <tbody>
              {(Object.entries(sizes.parts) as [PartSort, number][])
                .filter(([, bytes]) => bytes > 0)
                .sort(([, a], [, b]) => b - a)
                .map(([sort, bytes]) => (
                  <tr key={sort} className="border-b border-rule">
                    <th scope="row" className="py-1 text-left font-normal">
                      {NAMES[sort]}
                    </th>
                    <td className="py-1 text-right">{sizeInWords(bytes)}</td>
                    <td className="w-14 py-1 text-right text-ink-soft">
                      {Math.round((bytes * 100) / Math.max(1, sizes.whole))} %
                    </td>
                  </tr>
                ))}
            </tbody>
          </table>
          {sizes.largest.length > 0 ? (
            <p className="mt-2 text-[13px] text-ink-soft">
              Largest pictures:{' '}
              {sizes.largest
                .map((p) => `${p.path.split('/').at(-1) ?? ''} (${sizeInWords(p.bytes)})`)
                .join(', ')}
            </p>
          ) : null}
          {sizeAdvice(sizes, choices).map((line) => (
            <p key={line} className="mt-2">
              {line}
            </p>
          ))}
        </div>
      )}
    </Popover>
  );
}
