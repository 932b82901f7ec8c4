/** What a wholesaler takes out of an ONIX for Books 3.0 message with reference names (from memory of the format specification). */
import { elementsOf, inside, type Element } from './xml';

export interface OnixProduct {
  /** The sender's own name for the product. */
  record: string;
  /** List 1: 03 and 04 for what is told, 05 to delete. */
  notification: string;
  isbn: string;
  title: string;
  subtitle: string;
  contributors: { role: string; name: string; inverted: string }[];
  language: string;
  description: string;
  subjects: string[];
  keywords: string;
  audience: string;
  series: string;
  edition: string;
  pages: string;
  imprint: string;
  published: string;
  /** Codes of territories, or WORLD. */
  territories: string[];
  price: string;
  currency: string;
}

/** The one product of a message; a sentence where there is none, or more, or what is there can't be read. */
export function productIn(xml: string): OnixProduct | { fault: string } {
  let all: Element[];
  try {
    all = elementsOf(xml);
  } catch (e) {
    return { fault: `The message is not well-formed: ${(e as Error).message.split('\n')[0] ?? ''}` };
  }
  const message = all[0];
  if (message?.name !== 'ONIXMessage' || message.attrs.release !== '3.0')
    return { fault: 'This is no ONIX 3.0 message.' };
  const products = all.filter((e) => e.name === 'Product');
  const [product] = products;
  if (!product || products.length > 1)
    return { fault: `The message has ${products.length} products; we take one.` };
  const its = (name: string): Element[] => inside(all, product, name);
  const one = (name: string, within: Element | undefined = product): string =>
    (within ? inside(all, within, name)[0]?.all.trim() : '') ?? '';
  /** Of the groups of a name, the first in which an element has this text. */
  const group = (name: string, element: string, text: string): Element | undefined =>
    its(name).find((g) => inside(all, g, element).some((e) => e.all.trim() === text));
  const title = its('TitleElement').find((t) => one('TitleElementLevel', t) === '01');
  const series = its('TitleElement').find((t) => one('TitleElementLevel', t) === '02');
  const area = its('Territory')[0];
  return {
    record: one('RecordReference'),
    notification: one('NotificationType'),
    isbn: one('IDValue', group('ProductIdentifier', 'ProductIDType', '15')),
    title: one('TitleText', title),
    subtitle: one('Subtitle', title),
    contributors: its('Contributor').map((c) => ({
      role: one('ContributorRole', c),
      name: one('PersonName', c),
      inverted: one('PersonNameInverted', c),
    })),
    language: one('LanguageCode'),
    description: one('Text', group('TextContent', 'TextType', '03')),
    subjects: its('Subject')
      .filter((s) => one('SubjectSchemeIdentifier', s) === '93')
      .map((s) => one('SubjectCode', s)),
    keywords: one('SubjectHeadingText', group('Subject', 'SubjectSchemeIdentifier', '20')),
    audience: one('AudienceCodeValue'),
    series: one('TitleText', series),
    edition: one('EditionType'),
    pages: one('ExtentValue'),
    imprint: one('ImprintName'),
    published: one('Date', group('PublishingDate', 'PublishingDateRole', '01')),
    territories: [...one('CountriesIncluded', area).split(' '), one('RegionsIncluded', area)].filter(Boolean),
    price: one('PriceAmount'),
    currency: one('CurrencyCode'),
  };
}
