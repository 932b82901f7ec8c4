/** The stations of a title's route, and which findings wait at each. */
import type { Finding } from '@pagina/core/base';

export const STATIONS: { key: string; name: string; waits: (f: Finding) => boolean }[] = [
  {
    key: 'order',
    name: 'Running order',
    waits: (f) =>
      /^book\/(no-title-page|no-copyright-page|empty-section|untitled-chapter|doubled-number)/.test(f.rule),
  },
  {
    key: 'manuscript',
    name: 'Manuscript',
    waits: (f) => /^(book\/(no-alt|placeholder)|type\/)/.test(f.rule),
  },
  { key: 'design', name: 'Design', waits: () => false },
  { key: 'proof', name: 'Proof', waits: () => false },
  { key: 'record', name: 'Record', waits: (f) => f.rule.startsWith('agree/') },
  { key: 'editions', name: 'Editions', waits: () => false },
  { key: 'outlets', name: 'Outlets', waits: () => false },
];
