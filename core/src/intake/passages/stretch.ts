import type { ListNumbers } from '../../base';

/** Blocks of a section that belong together and are more than running text. */
export interface Stretch {
  form: 'letter' | 'verse' | 'quotation' | 'list' | 'inset';
  /** From this block of the section, up to but not with that one. */
  from: number;
  to: number;
  /** The block that says whose it is; part of the stretch. */
  source?: number;
  /** Of a typed list. */
  ordered?: boolean;
  start?: number;
  numbers?: ListNumbers;
}
