/**
 * Checks an ebook as it is being emended, beside the window: loaded whole once, then followed edit by edit. Works out
 * what mending it comes to, too.
 */
import type { Finding } from '@pagina/core/base';
import { checkEpub, keptBetween, mend, mendThese } from '@pagina/core/check';
import {
  applyChanges,
  askedOf,
  copyOf,
  openEmended,
  partDifferences,
  type AskedChange,
  type Emended,
  type PartChange,
  type PartDifference,
  type TextEdit,
} from '@pagina/core/emend';
import { EBOOK_OUTLETS } from '@pagina/core/trade';

/** What is to be mended: one finding, all of a rule, or everything. */
export type Wanted = { what: 'finding'; finding: Finding } | { what: 'rule'; rule: string } | { what: 'all' };
export interface Mending {
  steps: { label: string; differences: PartDifference[] }[];
  asked: AskedChange[];
  /** Findings before and after. */
  before: number;
  after: number;
  /** Pages whose words and files whose bytes would be other than before. The author is told of them. */
  other: string[];
}
type ToWorker =
  | { type: 'load'; address: string }
  | { type: 'edits'; edits: TextEdit[] }
  | { type: 'mend'; id: number; address: string; wanted: Wanted; moment: string };
export type FromEbookWorker =
  | { type: 'findings'; findings: Finding[] }
  | { type: 'mending'; id: number; mending: Mending | { message: string } };

/** Rest before a check, in milliseconds. */
const REST = 250;
let state: Emended | null = null;
let timer: ReturnType<typeof setTimeout> | undefined;
const post = (m: FromEbookWorker): void => postMessage(m);

function check(): void {
  if (!state) return;
  const checked = checkEpub(copyOf(state), EBOOK_OUTLETS);
  const refused = (message: string): Finding[] => [{ rule: 'zip/unreadable', severity: 'blocker', message }];
  post({ type: 'findings', findings: checked.ok ? checked.value : refused(checked.refusal.message) });
}

const fetched = async (address: string): Promise<Uint8Array> =>
  new Uint8Array(await (await fetch(address)).arrayBuffer());

/** Whether a finding of a fresh check is the one that was shown. */
const isSame = (a: Finding, b: Finding): boolean =>
  a.rule === b.rule &&
  a.file === b.file &&
  a.line === b.line &&
  a.column === b.column &&
  a.message === b.message;

/** The mends, step by step, from the ebook as the server has it. */
function mendingOf(bytes: Uint8Array, wanted: Wanted, moment: string): Mending | { message: string } {
  const opened = openEmended(bytes);
  if (!opened.ok) return opened.refusal;
  let now = opened.value;
  const checked = checkEpub(copyOf(now));
  if (!checked.ok) return checked.refusal;
  const present =
    wanted.what === 'finding' ? checked.value.find((f) => isSame(f, wanted.finding)) : undefined;
  if (wanted.what === 'finding' && !present) return { message: 'The ebook no longer has this fault.' };
  const made =
    present !== undefined
      ? mend(now, [present], moment)
      : mendThese(
          now,
          moment,
          (f) => wanted.what === 'all' || (wanted.what === 'rule' && f.rule === wanted.rule),
        );
  if (!made.ok) return made.refusal;
  const steps: Mending['steps'] = [];
  const changes: PartChange[] = [];
  for (const step of 'steps' in made.value ? made.value.steps : [made.value]) {
    const applied = applyChanges(now, step.changes);
    if (!applied.ok) return applied.refusal;
    steps.push({ label: step.label, differences: partDifferences(now, applied.value, step.changes) });
    changes.push(...step.changes);
    now = applied.value;
  }
  const asked = askedOf(changes);
  if (!asked || asked.length === 0)
    return { message: 'This can’t be mended automatically. Choose what is right yourself.' };
  const after = checkEpub(copyOf(now));
  const { words, files } = keptBetween(bytes, copyOf(now));
  return {
    steps,
    asked,
    before: checked.value.length,
    after: after.ok ? after.value.length : checked.value.length,
    other: [...words, ...files],
  };
}

addEventListener('message', ({ data }: MessageEvent<ToWorker>) => {
  if (data.type === 'load') {
    void fetched(data.address)
      .then((bytes) => {
        const opened = openEmended(bytes);
        state = opened.ok ? opened.value : null;
        check();
      })
      .catch(() => undefined);
    return;
  }
  if (data.type === 'mend') {
    const { id, address, wanted, moment } = data;
    void fetched(address)
      .then((bytes) => mendingOf(bytes, wanted, moment))
      .catch(() => ({ message: 'Pagina can’t be reached just now. Try again in a moment.' }))
      .then((mending) => post({ type: 'mending', id, mending }));
    return;
  }
  if (!state) return;
  const applied = applyChanges(state, data.edits);
  // Another window was in between: the ebook will be loaded again.
  if (!applied.ok) return;
  state = applied.value;
  clearTimeout(timer);
  timer = setTimeout(check, REST);
});
