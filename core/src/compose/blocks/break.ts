/** What a break between passages shows: the interior's sign or picture, or nothing but a blank row. */
import type { Picture } from '../../book';
import type { Item, PictureItem } from '../lines';
import { maskNumber } from './mask';
import type { Setter } from './setter';
import { displayed } from './stack';

/** What a break shows at a page's edge where the interior has no sign: there a blank line would not be seen. */
const PLAIN_SIGN = '* * *';

/** What stands in its row, and whether it is seen within a page; at an edge it always is. */
export function breakOf(
  s: Setter,
  picture: Picture | undefined,
  ornament: boolean,
): { shown: readonly Item[]; visible: boolean } {
  const { breaks, text } = s.interior;
  const sign = displayed(s, breaks.sign || PLAIN_SIGN, { size: text.size }, 0, 'centre', 'breaks.sign').items;
  return {
    shown: picture ? [ornamentPicture(s, picture)] : sign,
    visible: ornament && (picture !== undefined || breaks.sign !== ''),
  };
}

/** A picture in the place of a break's sign: as high as a line and a half, in the middle of its row. */
function ornamentPicture(s: Setter, picture: Picture): PictureItem {
  const { leading } = s.interior.text;
  const most = Math.round(leading * 1.5);
  const width = Math.min(Math.round(s.measure * 0.4), Math.round((most * picture.width) / picture.height));
  const height = Math.max(1000, Math.round((width * picture.height) / picture.width));
  return {
    kind: 'picture',
    picture: picture.id,
    alt: '',
    mask: maskNumber('none'),
    x: (s.measure - width) >> 1,
    row: 0,
    dy: (leading - height) >> 1,
    width,
    height,
  };
}
