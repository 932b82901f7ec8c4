/**
 * Hears from the server which titles have changed. A browser opens at most six connections to a server, so all its
 * windows share one stream: the window that holds a lock has it and tells the others. Windows out of sight hold none.
 */
interface Pulse {
  at: number;
  titles: string[];
}

const NAME = 'pagina/pulse';
const followers = new Map<string, Set<() => void>>();
let at = 0;
let channel: BroadcastChannel | null = null;
/** Ends the stream, or the wait for it. */
let leave: (() => void) | null = null;

function hear(pulse: Pulse): void {
  at = Math.max(at, pulse.at);
  for (const title of pulse.titles) for (const f of followers.get(title) ?? []) f();
}

function listen(): () => void {
  const stream = new EventSource(`/api/events?since=${at}`);
  stream.onmessage = ({ data }: MessageEvent<string>) => {
    const pulse = JSON.parse(data) as Pulse;
    channel?.postMessage(pulse);
    hear(pulse);
  };
  return () => stream.close();
}

function join(): void {
  if (leave) return;
  if (typeof navigator === 'undefined' || !navigator.locks) {
    leave = listen();
    return;
  }
  const stop = new AbortController();
  let release = (): void => stop.abort();
  leave = () => release();
  navigator.locks
    .request(NAME, { signal: stop.signal }, () => {
      const close = listen();
      return new Promise<void>((done) => {
        release = () => {
          close();
          done();
        };
      });
    })
    .catch(() => undefined);
}
function part(): void {
  leave?.();
  leave = null;
}

const isHidden = (): boolean => typeof document !== 'undefined' && document.visibilityState === 'hidden';
function look(): void {
  if (isHidden()) return part();
  join();
  // What happened meanwhile was told to nobody here.
  for (const set of followers.values()) for (const f of set) f();
}

/** Calls `changed` whenever something of the title has changed, or may have. Answers how to stop. */
export function followTitle(title: string, changed: () => void): () => void {
  if (followers.size === 0) {
    if (typeof document !== 'undefined') {
      document.addEventListener('visibilitychange', look);
      channel = new BroadcastChannel(NAME);
      channel.onmessage = ({ data }: MessageEvent<Pulse>) => hear(data);
    }
    if (!isHidden()) join();
  }
  const set = followers.get(title) ?? new Set();
  followers.set(title, set.add(changed));
  return () => {
    set.delete(changed);
    if (set.size === 0) followers.delete(title);
    if (followers.size > 0) return;
    part();
    channel?.close();
    channel = null;
    if (typeof document !== 'undefined') document.removeEventListener('visibilitychange', look);
  };
}
