'use client';
/** The sign-off: what stands in its way, each with the way to it, or who signed which file off and when. */
import Link from 'next/link';
import { format } from 'date-fns';
import { toast } from 'sonner';
import { inSentence } from '@pagina/core/base';
import {
  openComments,
  obstaclesOf,
  obstacleWords,
  type Obstacle,
  type SignOff,
  type Viewed,
} from '@pagina/core/proof';
import { Ended } from '@/stations/editions/Ended';
import { useBook, useTitle } from '@/title/context';
import { useFindings } from '@/title/findings';
import { Button } from '@/ui/Button';
import { FileLink } from '@/ui/FileOf';
import { Progress } from '@/ui/Progress';
import { useOutdated } from './useOutdated';
import { useFileImpression, type Proofing } from './useProofing';

export function SignOffPart({
  what,
  edition,
  proofing,
  unread,
  onGo,
}: {
  what: Viewed;
  edition: { id: string; name: string };
  proofing: Proofing;
  unread: readonly number[];
  onGo: (view: number) => void;
}) {
  const { session } = useTitle();
  const { products, jobs } = useBook();
  const findings = useFindings();
  const file = products.find((p) => p.edition === edition.id) ?? null;
  const impression = useFileImpression(file);
  const called = inSentence(edition.name);
  const last = jobs.find((j) => (j.payload as { edition?: string }).edition === edition.id);
  const making = last && (last.state === 'queued' || last.state === 'running') ? last : null;
  const open = openComments(proofing.comments, edition.id).length;
  const why = useOutdated(file);
  const obstacles = obstaclesOf({
    file,
    outdated: why,
    impression,
    read: proofing.read,
    comments: open,
  });
  const [signed] = proofing.signOffs;
  const current = signed !== undefined && signed.sha256 === file?.sha256 && why === null;
  const cautions = findings.filter((f) => f.severity === 'caution').length;
  const sign = async (): Promise<void> => {
    await session.flush();
    if (!file) return;
    const s = await proofing.sign(file.id);
    if (s)
      toast(`The ${called} is signed off.`, {
        action: { label: 'Undo', onClick: () => void proofing.withdraw(s.id) },
      });
  };
  const makes = !file || obstacles.some((o) => o.kind === 'not made' || o.kind === 'outdated');
  const supplied = file?.fit != null;
  return (
    <section className="space-y-2 px-4 py-3" aria-label="Sign-off">
      <h3 className="column-head">Sign-off</h3>
      {signed ? (
        <>
          <Signed of={signed} current={current} what={what} />
          <Button className="h-7 px-2" onClick={() => void proofing.withdraw(signed.id)}>
            Undo the sign-off
          </Button>
        </>
      ) : null}
      {current ? null : (
        <>
          {file && !impression && file.impression ? (
            <p className="text-ink-soft">Reading the file …</p>
          ) : (
            <ul className="space-y-1.5">
              {obstacles.map((o) => (
                <li key={o.kind} data-obstacle={o.kind}>
                  <span className="text-rubric" aria-hidden>
                    ■{' '}
                  </span>
                  {obstacleWords(o, what)} <Way of={o} unread={unread} onGo={onGo} />
                </li>
              ))}
              {cautions > 0 ? (
                <li>
                  <span className="text-ochre" aria-hidden>
                    ▲{' '}
                  </span>
                  <Link className="underline" href="findings">
                    {cautions === 1 ? '1 caution is' : `${cautions.toLocaleString('en-GB')} cautions are`}{' '}
                    still open.
                  </Link>
                </li>
              ) : null}
            </ul>
          )}
          <div className="flex flex-wrap items-center gap-2">
            {making ? (
              <Progress stage={making.stage} share={making.share} />
            ) : makes && supplied ? (
              <Link className="underline" href="editions">
                Check it again in Editions
              </Link>
            ) : makes ? (
              <Button className="h-7 px-2" onClick={() => void session.make(edition.id)}>
                {file ? 'Make again' : `Make the ${called}`}
              </Button>
            ) : null}
            <Button
              kind="primary"
              className="h-7 px-2"
              disabled={obstacles.length > 0 || making !== null}
              onClick={() => void sign()}
            >
              Sign off the {called}
            </Button>
          </div>
          {makes && !making ? <Ended job={last} /> : null}
          {obstacles.length === 0 && file ? (
            <p className="text-[13px] text-ink-soft">
              {what === 'sheet' ? 'The sheet' : `Every ${what} of this file`} has been read. Once signed off,
              it’s kept and can be sent at any time: {file.name}, SHA-256 {file.sha256.slice(0, 12)}…
            </p>
          ) : null}
        </>
      )}
    </section>
  );
}

function Way({
  of,
  unread,
  onGo,
}: {
  of: Obstacle;
  unread: readonly number[];
  onGo: (view: number) => void;
}) {
  if (of.kind === 'blockers')
    return (
      <Link className="underline" href="editions">
        See Editions
      </Link>
    );
  const first = unread[0];
  if (of.kind !== 'unread' || first === undefined) return null;
  return (
    <button type="button" className="underline" onClick={() => onGo(first)}>
      Read the next one
    </button>
  );
}

function Signed({ of, current, what }: { of: SignOff; current: boolean; what: Viewed }) {
  const { products } = useBook();
  const file = products.find((p) => p.id === of.product);
  return (
    <div data-signed={current ? 'current' : 'earlier'}>
      <p className={current ? 'text-spruce' : ''}>
        {current ? '✓ Signed off' : 'An earlier file was signed off'} {format(of.at, 'd MMM yyyy, HH:mm')}
        {current ? '' : '. You can still send it.'}
      </p>
      <p className="text-[13px] text-ink-soft">
        By the {of.actor}: {of.views.toLocaleString('en-GB')} {of.views === 1 ? what : `${what}s`}, revision{' '}
        {of.revision}, {of.engine > 0 ? `engine version ${of.engine}, ` : null}SHA-256{' '}
        {of.sha256.slice(0, 12)}…
      </p>
      {file ? <FileLink product={file} /> : null}
    </div>
  );
}
