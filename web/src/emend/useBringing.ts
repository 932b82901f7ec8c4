'use client';
/** Files that are dropped or chosen: sent to the server one after the other, each then named by a command. */
import { useCallback } from 'react';
import { toast } from 'sonner';
import { useEbook } from './context';

/** `sort`: how the media types begin that are wanted; `called`: what such a file is, for who brings another. */
export function useBringing(
  sort: string,
  called: string,
): (
  list: readonly File[],
  then: (file: { sha256: string; name: string }) => Promise<unknown>,
) => Promise<void> {
  const { session } = useEbook();
  return useCallback(
    async (list, then) => {
      for (const f of list)
        try {
          const { sha256, name, type } = await session.bring(f);
          if (!type.startsWith(sort)) throw new Error(`“${name}” isn’t ${called}.`);
          await then({ sha256, name });
        } catch (e) {
          toast((e as Error).message, { duration: 8_000 });
        }
    },
    [session, sort, called],
  );
}
