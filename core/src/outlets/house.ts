/** The house itself, by which its new titles begin: name, place, web address and device. */
import * as z from 'zod';
import { apply, pictureSchema, type Book, type Change } from '../book';

export const houseSchema = z.object({
  name: z.string().max(200),
  place: z.string().max(200),
  web: z.string().max(500),
  /** The picture by which the house is known, for spine and back. */
  device: pictureSchema.nullable(),
});
export type House = z.infer<typeof houseSchema>;
export const NEW_HOUSE: House = { name: '', place: '', web: '', device: null };

/** What a title would take over from the house: fields of its record that are empty, and a device where its cover has none. */
export function lackingOf(book: Pick<Book, 'record' | 'cover' | 'pictures'>, house: House): Change[] {
  const { record, cover, pictures } = book;
  const fields = {
    ...(record.imprint === '' && house.name ? { imprint: house.name } : {}),
    ...(record.place === '' && house.place ? { place: house.place } : {}),
    ...(record.web === '' && house.web ? { web: house.web } : {}),
  };
  const changes: Change[] = Object.keys(fields).length > 0 ? [{ type: 'set-record', fields }] : [];
  const { device } = house;
  if (device && cover.device === null) {
    const there = pictures.find((p) => p.sha256 === device.sha256);
    const picture = there ?? { ...device, id: `device-${device.sha256?.slice(0, 12) ?? '1'}` };
    if (!there) changes.push({ type: 'add-pictures', pictures: [picture] });
    changes.push({ type: 'set-cover', fields: { device: picture.id } });
  }
  return changes;
}

/** A new title as the house begins it. */
export function withHouse(book: Book, house: House): Book {
  return lackingOf(book, house).reduce<Book>((b, change) => {
    const applied = apply(b, change);
    return applied.ok ? applied.value.book : b;
  }, book);
}
