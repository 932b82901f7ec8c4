export * from './rules';
export * from './epub';
export * from './mends';
export { accessReport, type AccessReport } from './epub/statements';
export * from './pdf';
export * from './accepted';
export { letters, type Letters } from './letters';
export { bookMendLabel, mendBook } from './book/mends';
export { checkFileAgreement, epubFacts, pdfFacts, type FileFacts } from './fileagreement';
export { checkHeld, HELD_RULES, type HeldSubject } from './held';
export { checkListing, listedValue, LISTING_RULES, type ListingSubject } from './listing';
export { checkPlacing, PLACING_RULES, type PlacedAt, type PlacingSubject } from './placing';
export { checkBook, checkPages, inOrder, pagesFacts, type PagesFacts } from './book';

import { FILE_RULES } from './fileagreement';
import { BOOK_RULES, PAGES_RULES, SECTION_RULES } from './book';
import { EPUB_RULES, OUTLET_RULES } from './epub';
import { COVER_FILE_RULES, PAGES_FILE_RULES, PDF_RULES, PRINTED_RULES } from './pdf';
import { HELD_RULES } from './held';
import { LISTING_RULES } from './listing';
import { PLACING_RULES } from './placing';
import { ruleRow, type RuleRow } from './rules';

/** Every rule, by name. */
export const allRules = (): RuleRow[] =>
  [
    ...SECTION_RULES.map(ruleRow),
    ...BOOK_RULES.map(ruleRow),
    ...PAGES_RULES.map(ruleRow),
    ...FILE_RULES.map(ruleRow),
    ...LISTING_RULES.map(ruleRow),
    ...HELD_RULES.map(ruleRow),
    ...PLACING_RULES.map(ruleRow),
    ...EPUB_RULES.map(ruleRow),
    ...OUTLET_RULES.map(ruleRow),
    ...PDF_RULES.map(ruleRow),
    ...PRINTED_RULES.map(ruleRow),
    ...COVER_FILE_RULES.map(ruleRow),
    ...PAGES_FILE_RULES.map(ruleRow),
  ].sort((a, b) => (a.name < b.name ? -1 : 1));
