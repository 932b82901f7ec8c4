/** What a copyright page says about the book. */
import { isbnsIn, type IsbnsFound } from './isbns';

export interface CopyrightFacts extends IsbnsFound {
  /** Of the copyright; '' where none is given. */
  year: string;
  holder: string;
  /** Who publishes it. */
  imprint: string;
}

const LINE =
  /(?:copyright|urheberrecht|derechos de autor|\u00a9|\(c\))[\s:,]*(?:\u00a9|\(c\))?\s*(?:(?:text|für den text|du texte)[\s:,]*)?((?:\d{4}(?:\s*[,\u2013-]\s*)?)+)?[\s,]*(?:by |bei |von |par |de |por |di )?\s*([^\n]*)/i;
const PUBLISHED =
  /^(?:(?:first )?published (?:in \d{4} |in [\p{L} ]+ )?(?:in \d{4} )?by|an imprint of|verlegt (?:bei|von)|erschienen (?:bei|im)|publié par|publicado por|pubblicato da|uitgegeven door)\s+(.{2,80}?)(?:,? (?:in )?\d{4})?[.,]?$/imu;
/** Where the holder’s name is over: at what usually follows in the same line, or at the end of a sentence. */
const RIGHTS =
  /(?:\s+(?:isbn|(?:first )?published|printed|edited|cover)\b|(?<=\p{L}{3})[.;] ).*$|[.,;]?\s*(?:all rights reserved|alle rechte vorbehalten|tous droits réservés|todos los derechos reservados|tutti i diritti riservati).*$/iu;

export function copyrightFacts(text: string): CopyrightFacts {
  const m = LINE.exec(text);
  const years = [...(m?.[1] ?? '').matchAll(/\d{4}/g)].map((y) => y[0]);
  // "© Ada Marsh, 2026", with the year behind the name.
  const behind = /^(.*?)[\s,(]+(\d{4})\)?[.,]?$/.exec((m?.[2] ?? '').replace(RIGHTS, '').trim());
  const holder = (behind && years.length === 0 ? (behind[1] as string) : (m?.[2] ?? ''))
    .replace(RIGHTS, '')
    .replace(/[\s.,;]+$/, '')
    .trim();
  const wordy = holder.split(/\s+/).length > 8 || /\b(?:page|notice|law|act|holder|owner)\b/i.test(holder);
  return {
    ...isbnsIn(text),
    year: years.at(-1) ?? (years.length === 0 ? (behind?.[2] ?? '') : ''),
    holder: wordy ? '' : holder,
    imprint: PUBLISHED.exec(text)?.[1]?.trim() ?? '',
  };
}
