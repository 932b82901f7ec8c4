/** Why something didn't reach an outlet, in words. */
/** What went wrong, in a sentence; `again` when trying later may help, after as many milliseconds as the outlet asks for. */
export class NotSent extends Error {
  constructor(
    message: string,
    readonly again: boolean,
    readonly after = 0,
  ) {
    super(message);
  }
}

export const tooLate = (limit: number): NotSent =>
  new NotSent(`The outlet did not answer within ${Math.round(limit / 1000)} seconds.`, true);
export const unreachable = (): NotSent => new NotSent('The outlet can’t be reached.', true);
export const unreadable = (): NotSent => new NotSent('The outlet’s answer can’t be read.', true);
export const tooLong = (): NotSent => new NotSent('The outlet’s answer is far too long to be one.', false);
export const wrongKey = (): NotSent =>
  new NotSent('The outlet doesn’t accept the key of your account. Enter it again in Imprint.', false);
