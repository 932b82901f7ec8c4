'use client';
/** A page of an earlier file beside the page as it is set now, with the lines marked that differ. */
import { useMemo, type ReactNode } from 'react';
import { linesChanged, type Impression, type Match } from '@pagina/core/proof';
import type { Product } from '@pagina/data';
import { FilePage } from './FilePage';

const SAID: Record<Match['how'], string> = {
  same: 'The same as in the earlier file.',
  moved: 'The words and lines are the same; only the folio, the running head or the position has changed.',
  changed: 'Changed lines are marked.',
  added: 'A new page.',
  removed: 'The book no longer has this page.',
};

export function BeforeAndNow({
  match,
  file,
  before,
  now,
  inColour,
  sheet = false,
  width,
  height,
  children,
}: {
  match: Match;
  file: Product;
  before: Impression;
  now: Impression;
  /** Whether the file is in printing inks, which a screen can only come near to. */
  inColour: boolean;
  /** Sheets are shown as a whole, not trimmed. */
  sheet?: boolean;
  /** Of a page, in pixels. */
  width: number;
  height: number;
  /** Draws the page as it is now, with these lines marked. */
  children: (page: number, lines: readonly number[]) => ReactNode;
}) {
  const [was, is] = [
    match.before === null ? undefined : before.views[match.before],
    match.now === null ? undefined : now.views[match.now],
  ];
  const lines = useMemo(
    () => (was && is && was.mark !== is.mark ? linesChanged(was, is) : { out: [], in: [] }),
    [was, is],
  );
  const pictures = match.how === 'changed' && lines.out.length === 0 && lines.in.length === 0;
  return (
    <div className="mx-auto w-max">
      <p role="status" className="pb-1 text-center text-[13px] text-ink-soft" data-how={match.how}>
        {inColour ? 'The earlier file is in printing inks, so its colours look different on screen. ' : null}
        {pictures ? 'The words are the same; a picture, a rule or a style has changed.' : SAID[match.how]}
      </p>
      <div className="flex gap-5">
        {was && match.before !== null ? (
          <FilePage
            sha256={file.sha256}
            page={match.before}
            view={was}
            called={`Page ${was.label || match.before + 1} of the earlier file`}
            lines={lines.out}
            saying="Lines that are different now"
            width={width}
            height={height}
            across={before.width}
            sheet={sheet}
          />
        ) : (
          <Missing width={width} height={height} words="No page of the earlier file matches this one." />
        )}
        {match.now !== null ? (
          children(match.now, lines.in)
        ) : (
          <Missing width={width} height={height} words="No page of the book matches this one now." />
        )}
      </div>
    </div>
  );
}

const Missing = ({ width, height, words }: { width: number; height: number; words: string }) => (
  <p
    className="grid place-items-center border border-dashed border-rule p-6 text-center text-ink-soft"
    style={{ width: width + 2, height: height + 2 }}
  >
    {words}
  </p>
);
