/** A manuscript as it was before its tracked changes. */
import { withoutDocxChanges } from './docx-changes';
import { formatOf } from './formats';
import { withoutOdtChanges } from './odt-changes';
import { withoutRtfChanges } from './rtf-changes';

/** The same bytes for a format that has none. */
export function withoutTrackedChanges(bytes: Uint8Array, name: string): Uint8Array {
  switch (formatOf(bytes, name)) {
    case 'docx':
      return withoutDocxChanges(bytes);
    case 'odt':
      return withoutOdtChanges(bytes);
    case 'rtf':
      return withoutRtfChanges(bytes);
    default:
      return bytes;
  }
}
