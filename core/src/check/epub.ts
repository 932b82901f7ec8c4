/** Checks an EPUB, by the rules of EPUB 3.3 (W3C Recommendation, 2023) or of EPUB 2.0.1 (IDPF, 2010), cited one by one. */
import { done, type Finding, type Outcome } from '../base';
import { ACCESS_RULES } from './epub-access';
import { CONTENT_RULES } from './epub-content';
import { OLDER_RULES } from './epub-older';
import { PACKAGE_RULES } from './epub-package';
import { epubSubject, type EpubSubject } from './epub-subject';
import { runRules, type Rule } from './rules';

const RULES: Rule<EpubSubject>[] = [...PACKAGE_RULES, ...CONTENT_RULES, ...ACCESS_RULES, ...OLDER_RULES];

export function checkEpub(bytes: Uint8Array): Outcome<Finding[]> {
  const subject = epubSubject(bytes);
  return subject.ok ? done(runRules(RULES, subject.value)) : subject;
}

export { epubSubject, type EpubSubject };
export type { Breach } from './rules';
