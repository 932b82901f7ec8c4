/** The source of rules that stand in no standard. */
export const PRACTICE = 'common practice';
