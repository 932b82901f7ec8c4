'use client';
/** The keyboard shortcuts, in one list ("?"). */
import { Dialog } from '@/ui/Dialog';

const SHORTCUTS: [where: string, keys: [keys: string, what: string][]][] = [
  [
    'Everywhere',
    [
      ['Ctrl+K', 'Go to a section, station or action'],
      ['Ctrl+Z', 'Undo'],
      ['Ctrl+Shift+Z or Ctrl+Y', 'Redo'],
      ['?', 'Show this list'],
    ],
  ],
  [
    'Running order',
    [
      ['↑ ↓', 'Select the section above or below'],
      ['Shift+↑ ↓', 'Extend the selection'],
      ['Alt+↑ ↓', 'Move the sections'],
      ['Alt+→ ←', 'Move them into the part above, or out of it'],
      ['F2', 'Rename'],
      ['Delete', 'Delete'],
    ],
  ],
  [
    'Manuscript',
    [
      ['Ctrl+I', 'Emphasis'],
      ['Ctrl+B', 'Strong'],
      ['Ctrl+Shift+K', 'Small caps'],
      ['Ctrl+. or Ctrl+,', 'Superior or inferior'],
      ['Ctrl+L', 'Link'],
      ['Ctrl+Alt+N', 'Note'],
      ['Ctrl+Alt+M', 'From a note to its call, and back'],
      ['Ctrl+Shift+X', 'Index entry'],
      ['Ctrl+\\', 'Clear formatting'],
      ['Ctrl+Shift+Enter', 'Fit the line to the measure'],
      ['Ctrl+F', 'Find and replace'],
    ],
  ],
];

export function Shortcuts({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Dialog title="Keyboard shortcuts" open={open} onOpenChange={onOpenChange}>
      {SHORTCUTS.map(([where, keys]) => (
        <section key={where}>
          <h3 className="column-head mt-4 mb-1">{where}</h3>
          <dl className="grid grid-cols-[220px_1fr]">
            {keys.map(([k, what]) => (
              <div key={k} className="contents">
                <dt className="border-t border-rule py-1">{k}</dt>
                <dd className="border-t border-rule py-1 text-ink-soft">{what}</dd>
              </div>
            ))}
          </dl>
        </section>
      ))}
    </Dialog>
  );
}
