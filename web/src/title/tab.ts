/**
 * Who this window is. Its name lasts over reloads, so that undo goes on where it was, and is held by a lock as long as
 * the window is open, so that other windows know that it is. Locks: Web Locks API (W3C).
 */
import { shortId } from './ids';

const KEY = 'pagina/tab';
const LOCK = 'pagina/tab/';

const locks = (): LockManager | undefined => (typeof navigator === 'undefined' ? undefined : navigator.locks);

/** Takes the lock of a name for as long as the window is open; false where another window holds it. */
function hold(name: string): Promise<boolean> {
  const manager = locks();
  if (!manager) return Promise.resolve(true);
  return new Promise((resolve) => {
    void manager.request(LOCK + name, { ifAvailable: true }, (lock) => {
      resolve(lock !== null);
      return lock === null ? undefined : new Promise<never>(() => undefined);
    });
  });
}

/** The window's name. A window that was duplicated has its twin's name in store and gets one of its own. */
let name: Promise<string> | null = null;
export function tabName(): Promise<string> {
  name ??= (async () => {
    const before = sessionStorage.getItem(KEY);
    if (before && (await hold(before))) return before;
    const fresh = shortId();
    sessionStorage.setItem(KEY, fresh);
    await hold(fresh);
    return fresh;
  })();
  return name;
}

/** Names of the other windows of this browser that are open. */
export async function otherTabs(own: string): Promise<string[]> {
  const held = (await locks()?.query())?.held ?? [];
  return held.flatMap(({ name: lock }) =>
    lock?.startsWith(LOCK) && lock !== LOCK + own ? [lock.slice(LOCK.length)] : [],
  );
}
