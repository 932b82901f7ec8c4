/** An ONIX for Books 3.0 message with reference names, into a record. */
import {
  amountFrom,
  done,
  escapeXml,
  readXml,
  refused,
  textOf,
  type Money,
  type Outcome,
  type XmlElement,
} from '../base';
import {
  AUDIENCE_CODE,
  AUDIENCES,
  bareIsbn,
  contributor,
  descriptionDoc,
  descriptionText,
  EDITION_TYPES,
  isbnFault,
  isSubjectCode,
  type BookRecord,
  type EditionType,
} from '../record';
import type { Carried, CarriedEdition } from './carried';
import { formFrom, languageFrom, roleOf } from './codes';

const children = (el: XmlElement | undefined, name: string): XmlElement[] =>
  (el?.children ?? []).filter((c): c is XmlElement => typeof c !== 'string' && c.name === name);
const child = (el: XmlElement | undefined, name: string): XmlElement | undefined => children(el, name)[0];
/** Text of an element on the way down from one. */
function at(el: XmlElement | undefined, ...path: readonly string[]): string {
  const found = path.reduce<XmlElement | undefined>((e, name) => child(e, name), el);
  return found ? textOf(found).trim() : '';
}

/** XHTML within the message keeps its elements; HTML in a text is recognised by the record. */
function describedIn(el: XmlElement | undefined): string {
  if (!el?.children.some((c) => typeof c !== 'string')) return el ? textOf(el).trim() : '';
  const markup = (nodes: XmlElement['children']): string =>
    nodes
      .map((n) => (typeof n === 'string' ? escapeXml(n) : `<${n.name}>${markup(n.children)}</${n.name}>`))
      .join('');
  return descriptionText(descriptionDoc(markup(el.children)));
}

/** Errors: `onix/unread`, `onix/short-tags`, `onix/none`. */
export function readOnix(xml: string): Outcome<Carried> {
  const { root } = readXml(xml);
  if (!root) return refused('onix/unread', 'The file is no XML that can be read.');
  if (root.name === 'ONIXmessage')
    return refused('onix/short-tags', 'The message uses short tags. Ask for it with reference names.');
  const products = root.name === 'ONIXMessage' ? children(root, 'Product') : [];
  const first = products[0];
  if (!first) return refused('onix/none', 'The file is no ONIX message with a product in it.');
  const title = titleOf(first);
  // A message may carry a whole list: the editions of the first title are taken.
  const own = products.filter((p) => titleOf(p) === title);
  const record = recordFrom(first);
  const ebook = own.find((p) => editionFrom(p).form !== 'print');
  const prices = ebook ? pricesOf(ebook) : [];
  if (prices[0]) Object.assign(record, { price: prices[0], prices: prices.slice(1) });
  return done({
    record,
    editions: own.map(editionFrom),
    unread: [
      ...new Set(products.filter((p) => !own.includes(p)).map((p) => `another title, “${titleOf(p)}”`)),
    ],
  });
}

function titleElement(product: XmlElement): XmlElement | undefined {
  const details = children(child(product, 'DescriptiveDetail'), 'TitleDetail');
  return child(details.find((d) => at(d, 'TitleType') === '01') ?? details[0], 'TitleElement');
}
const nameIn = (el: XmlElement | undefined): string =>
  at(el, 'TitleText') || [at(el, 'TitlePrefix'), at(el, 'TitleWithoutPrefix')].filter(Boolean).join(' ');
const titleOf = (product: XmlElement): string => nameIn(titleElement(product));

function isbnOf(product: XmlElement): string {
  const ids = children(product, 'ProductIdentifier');
  const isbn = ids.find((i) => ['15', '03'].includes(at(i, 'ProductIDType')));
  const digits = bareIsbn(at(isbn, 'IDValue'));
  return isbnFault(digits) === null ? digits : '';
}

/** Retail prices with tax before those without. */
function pricesOf(product: XmlElement): Money[] {
  const found = children(child(product, 'ProductSupply'), 'SupplyDetail')
    .flatMap((s) => children(s, 'Price'))
    .sort((a, b) => Number(at(b, 'PriceType') === '02') - Number(at(a, 'PriceType') === '02'))
    .flatMap((p) => {
      const currency = at(p, 'CurrencyCode');
      return /^[A-Z]{3}$/.test(currency) ? (amountFrom(at(p, 'PriceAmount'), currency) ?? []) : [];
    });
  return found.filter((p, i) => found.findIndex((q) => q.currency === p.currency) === i);
}

function editionFrom(product: XmlElement): CarriedEdition {
  const detail = child(product, 'DescriptiveDetail');
  const details = children(detail, 'ProductFormDetail').map((d) => textOf(d).trim());
  return {
    form: formFrom(at(detail, 'ProductForm'), details),
    isbn: isbnOf(product),
    price: pricesOf(product)[0] ?? null,
  };
}

/** Fields that the message says something of. */
function recordFrom(product: XmlElement): Partial<BookRecord> {
  const d = child(product, 'DescriptiveDetail');
  const p = child(product, 'PublishingDetail');
  const record: Partial<BookRecord> = {};
  const put = <K extends keyof BookRecord>(key: K, value: BookRecord[K] | '' | null | undefined): void => {
    if (value !== '' && value !== null && value !== undefined) record[key] = value as BookRecord[K];
  };
  put('title', titleOf(product));
  put('subtitle', at(titleElement(product), 'Subtitle'));
  for (const c of children(d, 'Collection')) {
    const el = child(child(c, 'TitleDetail'), 'TitleElement');
    if (at(c, 'CollectionType') === '11') put('collection', nameIn(el));
    else {
      put('series', nameIn(el));
      put('volume', at(el, 'PartNumber'));
    }
  }
  const people = children(d, 'Contributor').flatMap((c) => {
    const name =
      at(c, 'PersonName') ||
      [at(c, 'NamesBeforeKey'), at(c, 'KeyNames')].filter(Boolean).join(' ') ||
      at(c, 'CorporateName');
    const role = roleOf(at(c, 'ContributorRole'));
    return name
      ? [
          {
            ...contributor(name, role),
            sortName: at(c, 'PersonNameInverted'),
            life: at(c, 'BiographicalNote'),
          },
        ]
      : [];
  });
  if (people.length > 0) record.contributors = people;
  const type = at(d, 'EditionType') as EditionType;
  if (EDITION_TYPES.includes(type)) record.editionType = type;
  const number = at(d, 'EditionNumber');
  if (/^[1-9]\d{0,2}$/.test(number)) record.editionNumber = Number(number);
  put('editionStatement', at(d, 'EditionStatement'));
  const language = children(d, 'Language').find((l) => at(l, 'LanguageRole') === '01');
  put('language', languageFrom(at(language, 'LanguageCode')));
  const subjects = children(d, 'Subject');
  const codes = subjects
    .filter((s) => at(s, 'SubjectSchemeIdentifier') === '93')
    .map((s) => at(s, 'SubjectCode'));
  if (codes.some(isSubjectCode)) record.subjects = [...new Set(codes.filter(isSubjectCode))];
  const words = at(
    subjects.find((s) => at(s, 'SubjectSchemeIdentifier') === '20'),
    'SubjectHeadingText',
  );
  if (words)
    record.keywords = words
      .split(';')
      .map((k) => k.trim())
      .filter(Boolean);
  const audience = at(
    children(d, 'Audience').find((a) => at(a, 'AudienceCodeType') === '01'),
    'AudienceCodeValue',
  );
  put(
    'audience',
    AUDIENCES.find((a) => AUDIENCE_CODE[a] === audience),
  );
  const ages = agesFrom(child(d, 'AudienceRange'));
  if (ages) record.ages = ages;
  for (const t of children(child(product, 'CollateralDetail'), 'TextContent')) {
    if (at(t, 'TextType') === '03') put('description', describedIn(child(t, 'Text')));
    if (at(t, 'TextType') === '02') put('shortDescription', at(t, 'Text'));
  }
  put('imprint', at(p, 'Imprint', 'ImprintName'));
  const publisher = at(p, 'Publisher', 'PublisherName');
  if (publisher !== record.imprint) put('publisher', publisher);
  put('web', at(p, 'Publisher', 'Website', 'WebsiteLink'));
  put('place', at(p, 'CityOfPublication'));
  const date = /^(\d{4})(\d\d)(\d\d)/.exec(
    at(
      children(p, 'PublishingDate').find((x) => at(x, 'PublishingDateRole') === '01'),
      'Date',
    ),
  );
  if (date) record.published = `${date[1]}-${date[2]}-${date[3]}`;
  put('year', at(p, 'CopyrightStatement', 'CopyrightYear').slice(0, 4));
  put(
    'copyrightHolder',
    at(p, 'CopyrightStatement', 'CopyrightOwner', 'PersonName') ||
      at(p, 'CopyrightStatement', 'CopyrightOwner', 'CorporateName'),
  );
  const territory = child(child(p, 'SalesRights'), 'Territory');
  const countries = at(territory, 'CountriesIncluded')
    .split(/\s+/)
    .filter((c) => /^[A-Z]{2}$/.test(c));
  if (countries.length > 0) record.territories = countries;
  else if (at(territory, 'RegionsIncluded') === 'WORLD') record.territories = null;
  return record;
}

function agesFrom(range: XmlElement | undefined): BookRecord['ages'] | null {
  if (!range || at(range, 'AudienceRangeQualifier') !== '17') return null;
  const values = children(range, 'AudienceRangeValue').map((v) => Number(textOf(v)));
  const precisions = children(range, 'AudienceRangePrecision').map((v) => textOf(v).trim());
  const of = (...codes: string[]): number | null => {
    const n = values[precisions.findIndex((c) => codes.includes(c))];
    return n !== undefined && Number.isInteger(n) && n >= 0 && n <= 99 ? n : null;
  };
  const exact = of('01');
  return { from: exact ?? of('03'), to: exact ?? of('04') };
}
