/** References between the files of a container. */

/** A part of an address with its escapes decoded; as written where they can’t be, as in `#100%`. */
export function percentDecoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}

/** A reference seen from a file of the container, as path and fragment; null for one that leaves the container. */
export function resolve(from: string, href: string): { path: string; fragment: string } | null {
  if (/^[a-z][a-z0-9+.-]*:/i.test(href) || href.startsWith('//')) return null;
  const [pathPart = '', fragment = ''] = href.split('#');
  const decoded = percentDecoded(pathPart);
  if (decoded === '') return { path: from, fragment };
  const parts = decoded.startsWith('/') ? [] : from.split('/').slice(0, -1);
  for (const p of decoded.split('/')) {
    if (p === '..') parts.pop();
    else if (p !== '.' && p !== '') parts.push(p);
  }
  return { path: parts.join('/'), fragment };
}

/** A path of the container as a file of it refers to it; segments are percent-encoded (RFC 3986 §2.1). */
export function reference(
  from: string,
  { path, fragment = '' }: { path: string; fragment?: string },
): string {
  const hash = fragment ? `#${fragment}` : '';
  if (path === from && hash) return hash;
  const own = from.split('/').slice(0, -1);
  const to = path.split('/');
  let shared = 0;
  while (shared < own.length && shared < to.length - 1 && own[shared] === to[shared]) shared++;
  const up = own.slice(shared).map(() => '..');
  // An apostrophe would end an attribute that is written between apostrophes.
  const down = to.slice(shared).map((s) => encodeURIComponent(s).replaceAll("'", '%27'));
  return [...up, ...down].join('/') + hash;
}
