import { createEvents, type DateArray, type EventAttributes } from 'ics';
import { dayAfter } from '@pagina/core/outlets';
import { problem } from '@/server/answer';
import { allDue, type DueAt } from '@/server/due';
import { route } from '@/server/route';
import { store } from '@/server/store';

export const dynamic = 'force-dynamic';

const partsOf = (day: string): DateArray => {
  const [year = 0, month = 1, date = 1] = day.split('-').map(Number);
  return [year, month, date];
};
const eventOf = ({ title, key, day, words }: DueAt): EventAttributes => ({
  uid: `${title}-${key.replace(/\W+/g, '-')}@pagina`,
  start: partsOf(day),
  end: partsOf(dayAfter(day, 1)),
  title: words,
  transp: 'TRANSPARENT',
});

/** What falls due, for a calendar (iCalendar, RFC 5545). A program that fetches it again finds what has moved. */
export const GET = route(async () => {
  const due = await allDue(await store());
  const { value, error } = createEvents(due.map(eventOf), { calName: 'Pagina', productId: 'pagina' });
  // Without an event the library writes nothing, and a calendar may be empty.
  const empty = 'BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:pagina\r\nEND:VCALENDAR\r\n';
  if (error && due.length > 0) return problem('The calendar can’t be written.', 500);
  return new Response(due.length === 0 ? empty : value, {
    headers: {
      'Content-Type': 'text/calendar; charset=utf-8',
      'Content-Disposition': 'attachment; filename="pagina.ics"',
      'Cache-Control': 'no-store',
    },
  });
});
