/**
 * The interiors of the house: eight designs that differ in everything a reader sees. Sizes, leadings and sinks follow
 * common practice for trade books (docs/typesetting.md); names and arrangements are our own.
 */
import type { Design } from '../design';
import { harrow } from './harrow';
import { marram } from './marram';
import { lanthorn } from './lanthorn';
import { pinfold } from './pinfold';
import { rushlight } from './rushlight';
import { saltern } from './saltern';
import { ferrier } from './ferrier';
import { millrace } from './millrace';

export const INTERIORS: Readonly<Record<string, Design>> = {
  Harrow: harrow,
  Marram: marram,
  Lanthorn: lanthorn,
  Pinfold: pinfold,
  Rushlight: rushlight,
  Saltern: saltern,
  Ferrier: ferrier,
  Millrace: millrace,
};
export const INTERIOR_NAMES = Object.keys(INTERIORS);
/** What each is for, in a line. */
export const INTERIOR_NOTES: Readonly<Record<string, string>> = {
  Harrow: 'Quiet and centred, with a drop capital. Novels of any kind.',
  Marram: 'Airy, ranged left, a large figure. Literary fiction, essays.',
  Lanthorn: 'Fine and formal, wide capitals. Romance, historical fiction.',
  Pinfold: 'Dark and square, between rules. Crime, reportage.',
  Rushlight: 'Headings without serifs, notes at section ends. Argument, history.',
  Saltern: 'Ornaments, a four-line capital. Fantasy, old tales.',
  Ferrier: 'Space between paragraphs, ragged, strong subheads. Handbooks.',
  Millrace: 'Quick and plain, spaced capitals. Thrillers, contemporary fiction.',
};
