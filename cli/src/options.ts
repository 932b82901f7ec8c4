/** The options of all commands. */
export const OPTIONS = {
  out: { type: 'string' },
  json: { type: 'boolean' },
  edition: { type: 'string' },
  interior: { type: 'string' },
  trim: { type: 'string' },
  title: { type: 'string' },
  author: { type: 'string' },
  language: { type: 'string' },
  isbn: { type: 'string' },
  cover: { type: 'string' },
  date: { type: 'string' },
  report: { type: 'string' },
  mend: { type: 'string' },
  rules: { type: 'boolean' },
  outlet: { type: 'string' },
  binding: { type: 'string' },
} as const;
export type Options = {
  [K in keyof typeof OPTIONS]?: (typeof OPTIONS)[K]['type'] extends 'boolean' ? boolean : string;
};
