/** A part is renamed or moved to another folder: whatever leads to it, and whatever it leads to, follows. */
import { refused, type Outcome } from '../base';
import { reference } from '../package';
import type { Emended } from './container';
import { Draft, type Emendation } from './draft';
import { rewritten, unused } from './markup';
import { baseOf } from './references';

/** What a path in a container may not be (OCF §4.2.3, §4.1.5). */
function pathFault(path: string): string | null {
  if (path.trim() === '' || path.endsWith('/')) return 'Give the file a name.';
  if (/[\u0000-\u001f\u007f"*:<>?\\|]/.test(path))
    return 'A file name can’t have " * : < > ? \\ | or control characters in it.';
  if (path.startsWith('/') || path.split('/').some((s) => s === '' || s === '.' || s === '..'))
    return 'A folder in this path has no name.';
  if (path.split('/').some((s) => s.endsWith('.'))) return 'A name can’t end in a full stop.';
  if (
    new TextEncoder().encode(path).length > 1_000 ||
    path.split('/').some((s) => new TextEncoder().encode(s).length > 255)
  )
    return 'This name is too long.';
  if (path === 'mimetype' || path.startsWith('META-INF/'))
    return 'That name belongs to the container itself.';
  return null;
}

/** The path under which a part lies already that differs from this one by capitals or accents alone (OCF §4.2.3). */
function alike(e: Emended, path: string, but?: string): string | undefined {
  const folded = (s: string): string => s.normalize('NFC').toLowerCase();
  return [...e.parts.keys()].find((p) => p !== but && folded(p) === folded(path));
}

/** The path, or the same with a number, whichever nothing in the container is like. */
export const freePath = (e: Emended, path: string): string => unused(path, (p) => alike(e, p) !== undefined);

/** Errors: `emend/name`, `emend/taken`, `emend/gone`. */
export function renamePart(e: Emended, path: string, to: string): Outcome<Emendation> {
  if (!e.parts.has(path)) return refused('emend/gone', `“${path}” is no longer in the ebook.`);
  if (path === 'mimetype' || path.startsWith('META-INF/'))
    return refused('emend/name', 'This file belongs to the container and keeps its name.');
  const fault = pathFault(to);
  if (fault) return refused('emend/name', fault);
  const taken = alike(e, to, path);
  if (taken) return refused('emend/taken', `The ebook already has a “${taken}”.`);
  const d = new Draft(e);
  const old = d.package.path;
  // Reading systems disagree about whether the container’s reference to it is percent-encoded.
  if (path === old && /[^A-Za-z0-9._/-]/.test(to))
    return refused(
      'emend/name',
      'The name of the package document can only have the letters a to z, figures, and . _ - in it.',
    );
  const own = (p: string): string => (p === path ? to : p);
  let links = 0;
  d.editReferences((r) => {
    const leads = r.path === path && r.in !== path;
    // From another folder, everything is reached by another way.
    if (!leads && r.in !== path) return [];
    if (leads && r.in !== old) links++;
    const now = reference(baseOf(own(r.in)), { path: own(r.path), fragment: r.fragment });
    // A file that refers to itself may do so by its name.
    const byName = r.in === path && r.path === path && d.text(r.in)[r.from] !== '#' && r.sort === 'attribute';
    return reference(baseOf(r.in), r) === now && !byName ? [] : [rewritten(r, now)];
  });
  d.rename(path, to);
  if (links > 0) d.notes.push(links === 1 ? '1 reference follows it.' : `${links} references follow it.`);
  return d.done('Rename', to);
}
