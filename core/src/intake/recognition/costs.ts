/**
 * What the readings of a manuscript cost and earn, in one table. A reading is a sequence of headings; the best one earns
 * most. Units are free: 1 is about what one sign of a heading (bold type, say) is worth.
 */
export const COSTS = {
  /** What a line by itself says for being a heading with a number. */
  line: {
    /** "Chapter", "Part" and their like. */
    labelled: 3,
    outlined: 3,
    numberAlone: -0.6,
    numberAndTitle: -0.4,
    /** Each point of how much it stands out (`looks`). */
    look: 0.7,
    sentence: -2.5,
    /** A title that begins with a small letter, after a number without a word. */
    small: -1.5,
    long: -1.2,
    /** A line of the typed contents says the same. */
    inContents: 2.5,
    doubt: -0.6,
  },
  /** What the step from one number to the next says. */
  step: {
    next: 2.6,
    unread: 1.4,
    again: -1.6,
    /** For each number left out, up to `gapMost`. */
    gap: -0.9,
    gapMost: -4,
    /** From any number to 1 with a part between. */
    afresh: 1.2,
    afreshWithoutPart: -3,
    back: -5,
    /** Fewer than `nearWords` between two numbers: a list, not chapters. */
    near: -3.2,
    alike: 0.7,
  },
  /** The first number of a sequence. */
  start: { one: 1.5, each: -0.5, most: -3 },
  /** A sequence that earns no more than this is none. */
  least: 1.2,
} as const;

/** Words between two headings below which they are lines of a list. */
export const NEAR_WORDS = 25;
