/** Findings of one part, by their place in its source. */
import type { Finding } from '@pagina/core/base';
import { offsetAt } from '@pagina/core/base';
import type { SourceFault } from './SourceEditor';

export const faultsIn = (findings: readonly Finding[] | null, path: string, text: string): SourceFault[] =>
  (findings ?? []).flatMap((f) =>
    f.file === path
      ? [{ at: offsetAt(text, f.line ?? 1, f.column ?? 1), severity: f.severity, message: f.message }]
      : [],
  );
