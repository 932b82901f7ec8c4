/** Checks an EPUB by EPUB 3.3 (W3C Recommendation) or EPUB 2.0.1 (IDPF), by HTML, CSS and EPUB Accessibility 1.1, rule by rule. */
import { done, type Finding, type Outcome } from '../../base';
import type { EbookOutlet } from '../../trade';
import { runRules, type Rule } from '../rules';
import { ACCESS_RULES } from './access';
import { ALTERNATIVE_RULES } from './alternatives';
import { ARIA_RULES } from './aria';
import { ATTRIBUTE_RULES } from './attributes';
import { CONTAINER_RULES } from './container';
import { ELEMENT_RULES } from './elements';
import { ENTRY_RULES } from './entries';
import { FIXED_RULES } from './fixed';
import { FOREIGN_RULES } from './foreign';
import { LINK_RULES } from './links';
import { MANIFEST_RULES } from './manifest';
import { MEDIA_RULES } from './media';
import { METADATA_RULES } from './metadata';
import { CONTENTS_RULES } from './navigation';
import { NCX_RULES } from './ncx';
import { OLDER_RULES } from './older';
import { OUTLET_RULES } from './outlet';
import { OVERLAY_RULES } from './overlays';
import { PACKAGE_RULES } from './package';
import { REFINEMENT_RULES } from './refinements';
import { RENDITION_RULES } from './rendition';
import { RESOURCE_RULES } from './resources';
import { SCRIPT_RULES } from './scripts';
import { SHEET_RULES } from './sheets';
import { SPINE_RULES } from './spine';
import { STATEMENT_RULES } from './statements';
import { STRUCTURE_RULES } from './structure';
import { STYLE_RULES } from './styles';
import { TEXT_RULES } from './text';
import { XML_RULES } from './wellformed';
import { ZIP_RULES } from './zip';
import { epubSubject, isOlder, type EpubSubject } from './subject';

export const EPUB_RULES: readonly Rule<EpubSubject>[] = [
  ...ZIP_RULES,
  ...CONTAINER_RULES,
  ...XML_RULES,
  ...TEXT_RULES,
  ...PACKAGE_RULES,
  ...METADATA_RULES,
  ...REFINEMENT_RULES,
  ...RENDITION_RULES,
  ...MANIFEST_RULES,
  ...RESOURCE_RULES,
  ...SPINE_RULES,
  ...CONTENTS_RULES,
  ...ENTRY_RULES,
  ...NCX_RULES,
  ...ELEMENT_RULES,
  ...STRUCTURE_RULES,
  ...FOREIGN_RULES,
  ...ATTRIBUTE_RULES,
  ...ARIA_RULES,
  ...LINK_RULES,
  ...SHEET_RULES,
  ...STYLE_RULES,
  ...MEDIA_RULES,
  ...FIXED_RULES,
  ...SCRIPT_RULES,
  ...OVERLAY_RULES,
  ...OLDER_RULES,
  ...ALTERNATIVE_RULES,
  ...ACCESS_RULES,
  ...STATEMENT_RULES,
];

/** By the standards, and by what these outlets ask further. Errors: those of `epubSubject`. */
export function checkEpub(bytes: Uint8Array, outlets: readonly EbookOutlet[] = []): Outcome<Finding[]> {
  const subject = epubSubject(bytes);
  return subject.ok ? done(checkEpubOf(subject.value, outlets)) : subject;
}
export const checkEpubOf = (epub: EpubSubject, outlets: readonly EbookOutlet[] = []): Finding[] => [
  ...runRules(rulesFor(epub), epub),
  ...runRules(OUTLET_RULES, { epub, outlets }),
];

/** Rules of the version that the package is of, and those of accessibility. */
function rulesFor(s: EpubSubject): Rule<EpubSubject>[] {
  const version = isOlder(s) ? 'EPUB 2.0.1' : 'EPUB 3.3';
  return EPUB_RULES.filter(
    ({ profiles }) => !profiles || profiles.includes(version) || profiles.includes('accessibility'),
  );
}

export { OUTLET_RULES } from './outlet';
export { epubSubject, type EpubSubject } from './subject';
