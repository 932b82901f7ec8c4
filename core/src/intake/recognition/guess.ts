import type { HeadingGuess } from '../raw';

/** A heading as it comes out of one of the steps. */
export const guess = (at: number, more: Partial<HeadingGuess>): HeadingGuess => ({
  at,
  kind: 'chapter',
  subhead: 0,
  title: '',
  subtitle: '',
  span: 1,
  label: '',
  numbered: false,
  number: null,
  score: 0,
  reason: '',
  firm: true,
  look: '',
  ...more,
});
