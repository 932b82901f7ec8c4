export * from './rules';
export * from './epub';
export * from './mends';
export { accessReport, type AccessReport } from './epub/statements';
export * from './pdf';
export * from './agreement';
export * from './book';
export * from './glyphs';
export * from './pages';

import { EPUB_RULES } from './epub';
import { PDF_RULES } from './pdf';
import { ruleRow, type RuleRow } from './rules';

/** Every rule for files, by name. */
export const allRules = (): RuleRow[] =>
  [...EPUB_RULES.map(ruleRow), ...PDF_RULES.map(ruleRow)].sort((a, b) => (a.name < b.name ? -1 : 1));
