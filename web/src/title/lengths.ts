'use client';
/** Lengths on a page as the imprint measures them. Sizes of type are always in points. */
import { inchString, mmString, type Mp } from '@pagina/core/base';
import { useBook } from './context';

export interface Lengths {
  /** Whether lengths of an edition with that trim are given in millimetres. */
  metric: (trim: string) => boolean;
  /** A length that goes with no trim, such as a spine; several with × between. */
  say: (...lengths: Mp[]) => string;
}

export function useLengths(): Lengths {
  const { units } = useBook().imprint;
  return {
    metric: (trim) => (units === 'trim' ? /mm|cm/i.test(trim) : units === 'mm'),
    say: (...lengths) =>
      units === 'in'
        ? `${lengths.map(inchString).join(' × ')} in`
        : `${lengths.map((l) => Number(mmString(l)).toFixed(1)).join(' × ')} mm`,
  };
}
