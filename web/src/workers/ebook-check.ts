/** Checks an ebook as it is being emended, beside the window: loaded whole once, then followed edit by edit. */
import type { Finding } from '@pagina/core/base';
import { checkEpub } from '@pagina/core/check';
import { applyChanges, copyOf, openEmended, type Emended, type TextEdit } from '@pagina/core/emend';

type ToWorker = { type: 'load'; address: string } | { type: 'edits'; edits: TextEdit[] };

/** Rest before a check, in milliseconds. */
const REST = 250;
let state: Emended | null = null;
let timer: ReturnType<typeof setTimeout> | undefined;

function check(): void {
  if (!state) return;
  const checked = checkEpub(copyOf(state));
  const refused = (message: string): Finding[] => [{ rule: 'zip/unreadable', severity: 'blocker', message }];
  postMessage(checked.ok ? checked.value : refused(checked.refusal.message));
}

addEventListener('message', ({ data }: MessageEvent<ToWorker>) => {
  if (data.type === 'load') {
    void fetch(data.address)
      .then(async (r) => new Uint8Array(await r.arrayBuffer()))
      .then((bytes) => {
        const opened = openEmended(bytes);
        state = opened.ok ? opened.value : null;
        check();
      })
      .catch(() => undefined);
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
