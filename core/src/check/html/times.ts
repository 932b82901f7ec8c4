/** Dates, times, zones and durations as HTML writes them for machines (HTML §2.3.5). */
const DATE =
  /^(\d{4,}-(0[1-9]|1[0-2])(-(0[1-9]|[12]\d|3[01]))?|\d{4,}|\d{4,}-W\d\d|(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01]))$/;
const TIME = /^([01]\d|2[0-3]):[0-5]\d(:[0-5]\d(\.\d{1,3})?)?$/;
const ZONE = /^(Z|[+-]([01]\d|2[0-3]):?[0-5]\d)$/;
const MOMENT =
  /^\d{4,}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])[T ]([01]\d|2[0-3]):[0-5]\d(:[0-5]\d(\.\d{1,3})?)?(Z|[+-]([01]\d|2[0-3]):?[0-5]\d)?$/;
const DURATION =
  /^(P(?=.)(\d+D)?(T(?=.)(\d+H)?(\d+M)?(\d+(\.\d{1,3})?S)?)?|(\s*\d+(\.\d+)?\s*[wdhms]\s*)+)$/i;
export const isTime = (v: string): boolean =>
  DATE.test(v) || TIME.test(v) || ZONE.test(v) || MOMENT.test(v) || DURATION.test(v);
