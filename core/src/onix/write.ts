/**
 * A title as an ONIX for Books 3.0 message with reference names: a product an edition. The order of elements is that of the
 * format specification, from memory; a test holds messages against that structure by a validator of its own.
 */
import { amountString, escapeXml, type Money } from '../base';
import { trimOf } from '../design';
import { marketFor } from '../trade';
import type { Book, Edition } from '../book';
import {
  AUDIENCE_CODE,
  authorsLine,
  bareIsbn,
  descriptionHtml,
  isMarkedUp,
  plainDescription,
  sortNameOf,
  type BookRecord,
  type Contributor,
} from '../record';
import { CONTRIBUTOR, EPUB_FILE, RELATION_CODE, formOf, languageCode } from './codes';

export interface OnixOptions {
  /** A moment in ISO form, to the second: when the message is sent. */
  sent: string;
  /** Pages of a print edition by its id, as far as they are known. */
  pages?: Readonly<Record<string, number>>;
  /** One edition alone, and what its record is sent for (list 1: '03' told, '04' changed, '05' to be deleted). */
  only?: { edition: string; notification: '03' | '04' | '05' };
}

/** Millimetres of a length in thousandths of a point. */
const millimetres = (mp: number): string => String(Math.round((mp * 25.4) / 72_000));

/** An element with text; nothing for an empty one. */
const el = (name: string, text: string | number | null): string =>
  text === null || text === '' ? '' : `<${name}>${escapeXml(String(text))}</${name}>`;
const group = (name: string, ...parts: readonly string[]): string => {
  const inner = parts.join('');
  return inner === '' ? '' : `<${name}>${inner}</${name}>`;
};

export function writeOnix(book: Book, { sent, pages = {}, only }: OnixOptions): string {
  const stamp = sent.replace(/[-:]/g, '').replace(/\.\d+/, '').slice(0, 16);
  const { record } = book;
  const sender = record.publisher || record.imprint || authorsLine(record) || 'The author';
  const products = book.editions
    .filter((e) => (only ? e.id === only.edition : e.form !== 'sample'))
    .map((e) => productOf(book, e, pages[e.id] ?? null, sent.slice(0, 10), only?.notification));
  return [
    '<?xml version="1.0" encoding="UTF-8"?>\n',
    '<ONIXMessage release="3.0" xmlns="http://ns.editeur.org/onix/3.0/reference">',
    group('Header', group('Sender', el('SenderName', sender)), el('SentDateTime', stamp)),
    ...products,
    '</ONIXMessage>\n',
  ].join('');
}

/** `day` is that on which the message is sent, in ISO form. */
function productOf(
  book: Book,
  edition: Edition,
  pages: number | null,
  day: string,
  notification = '03',
): string {
  const { record } = book;
  const out = record.published <= day;
  return group(
    'Product',
    el('RecordReference', `${book.id}.${edition.id}`),
    el('NotificationType', notification),
    identifier(edition, `${book.id}.${edition.id}`),
    group('DescriptiveDetail', ...descriptive(record, edition, pages)),
    group('CollateralDetail', described(record.description), texts('02', record.shortDescription)),
    group('PublishingDetail', ...publishing(record, out)),
    group('RelatedMaterial', ...related(book, edition), ...others(record, edition)),
    group('ProductSupply', supply(record, edition, out)),
  );
}

/** List 5: an ISBN-13, else a number of the sender's own. */
function identifier({ isbn }: Edition, own: string): string {
  const digits = bareIsbn(isbn);
  return digits
    ? group('ProductIdentifier', el('ProductIDType', '15'), el('IDValue', digits))
    : group('ProductIdentifier', el('ProductIDType', '01'), el('IDTypeName', 'Pagina'), el('IDValue', own));
}

function descriptive(record: BookRecord, edition: Edition, pages: number | null): string[] {
  const { form, detail } = formOf(edition);
  const trim = edition.form === 'print' ? trimOf(edition.trim) : null;
  const measure = (type: string, value: number): string =>
    group(
      'Measure',
      el('MeasureType', type),
      el('Measurement', millimetres(value)),
      el('MeasureUnitCode', 'mm'),
    );
  return [
    el('ProductComposition', '00'),
    el('ProductForm', form),
    ...(detail ? [el('ProductFormDetail', EPUB_FILE), el('ProductFormDetail', detail)] : []),
    ...(trim ? [measure('01', trim.height), measure('02', trim.width)] : []),
    ...(edition.form === 'print' ? [] : [el('EpubTechnicalProtection', '00')]),
    collection(record.series, record.volume, '10'),
    collection(record.collection, '', '11'),
    group(
      'TitleDetail',
      el('TitleType', '01'),
      group(
        'TitleElement',
        el('TitleElementLevel', '01'),
        el('TitleText', record.title || 'Untitled'),
        el('Subtitle', record.subtitle),
      ),
    ),
    ...record.contributors.map(contributor),
    ...(record.contributors.length === 0 ? ['<NoContributor/>'] : []),
    el('EditionType', record.editionType),
    el('EditionNumber', record.editionNumber),
    el('EditionStatement', record.editionStatement),
    group('Language', el('LanguageRole', '01'), el('LanguageCode', languageCode(record.language))),
    pages === null
      ? ''
      : group('Extent', el('ExtentType', '00'), el('ExtentValue', pages), el('ExtentUnit', '03')),
    ...record.subjects.map((code, i) =>
      group(
        'Subject',
        i === 0 ? '<MainSubject/>' : '',
        el('SubjectSchemeIdentifier', '93'),
        el('SubjectCode', code),
      ),
    ),
    record.keywords.length === 0
      ? ''
      : group(
          'Subject',
          el('SubjectSchemeIdentifier', '20'),
          el('SubjectHeadingText', record.keywords.join('; ')),
        ),
    group('Audience', el('AudienceCodeType', '01'), el('AudienceCodeValue', AUDIENCE_CODE[record.audience])),
    ages(record),
  ];
}

/** List 148: a publisher's series ('10'), or an editorial collection of the house ('11'). */
function collection(name: string, number: string, type: string): string {
  if (!name) return '';
  return group(
    'Collection',
    el('CollectionType', type),
    group(
      'TitleDetail',
      el('TitleType', '01'),
      group('TitleElement', el('TitleElementLevel', '02'), el('PartNumber', number), el('TitleText', name)),
    ),
  );
}

const contributor = (c: Contributor, i: number): string =>
  group(
    'Contributor',
    el('SequenceNumber', i + 1),
    el('ContributorRole', CONTRIBUTOR[c.role]),
    el('PersonName', c.name),
    el('PersonNameInverted', sortNameOf(c)),
    el('BiographicalNote', c.life),
  );

/** List 30: interest age in years; list 31: from, to. */
function ages({ ages: { from, to } }: BookRecord): string {
  const end = (precision: string, value: number | null): string =>
    value === null ? '' : el('AudienceRangePrecision', precision) + el('AudienceRangeValue', value);
  if (from === null && to === null) return '';
  return group('AudienceRange', el('AudienceRangeQualifier', '17'), end('03', from), end('04', to));
}

const texts = (type: string, text: string): string =>
  text === ''
    ? ''
    : group('TextContent', el('TextType', type), el('ContentAudience', '00'), el('Text', text));

/** One with markup is XHTML within the message (list 34: '05'). */
function described(text: string): string {
  if (!isMarkedUp(text)) return texts('03', plainDescription(text));
  const inner = descriptionHtml(text);
  return group(
    'TextContent',
    el('TextType', '03'),
    el('ContentAudience', '00'),
    `<Text textformat="05">${inner}</Text>`,
  );
}

/** `out` where the book has appeared (list 64: forthcoming or active). */
function publishing(record: BookRecord, out: boolean): string[] {
  const { imprint, place, published, year, territories } = record;
  const publisher = record.publisher || imprint || authorsLine(record);
  const holder = record.copyrightHolder || authorsLine(record);
  return [
    group('Imprint', el('ImprintName', imprint)),
    publisher
      ? group(
          'Publisher',
          el('PublishingRole', '01'),
          el('PublisherName', publisher),
          record.web ? group('Website', el('WebsiteRole', '01'), el('WebsiteLink', record.web)) : '',
        )
      : '',
    el('CityOfPublication', place),
    el('PublishingStatus', out ? '04' : '02'),
    published
      ? group('PublishingDate', el('PublishingDateRole', '01'), el('Date', published.replace(/-/g, '')))
      : '',
    year && holder
      ? group(
          'CopyrightStatement',
          el('CopyrightYear', year),
          group('CopyrightOwner', el('PersonName', holder)),
        )
      : '',
    group(
      'SalesRights',
      el('SalesRightsType', '01'),
      group(
        'Territory',
        territories === null
          ? el('RegionsIncluded', 'WORLD')
          : el('CountriesIncluded', territories.join(' ')),
      ),
    ),
  ];
}

/** ISBNs of related titles: that of the same form, else the other's. */
const others = ({ related: all }: BookRecord, { form }: Edition): string[] =>
  all.flatMap(({ relation, print, ebook }) => {
    const isbn = form === 'print' ? print || ebook : ebook || print;
    return isbn
      ? [
          group(
            'RelatedProduct',
            el('ProductRelationCode', RELATION_CODE[relation]),
            group('ProductIdentifier', el('ProductIDType', '15'), el('IDValue', bareIsbn(isbn))),
          ),
        ]
      : [];
  });

/** List 51: the same content in print ('13' from an ebook) or electronically ('27' from print). */
function related(book: Book, edition: Edition): string[] {
  return book.editions
    .filter((e) => e.id !== edition.id && e.form !== 'sample' && e.isbn !== '')
    .filter((e) => (e.form === 'print') !== (edition.form === 'print'))
    .map((e) =>
      group(
        'RelatedProduct',
        el('ProductRelationCode', edition.form === 'print' ? '27' : '13'),
        identifier(e, e.id),
      ),
    );
}

/** List 58: the recommended price, with tax where readers see it so; an edition without one is not yet priced (list 57). */
function supply(record: BookRecord, edition: Edition, out: boolean): string {
  const home: Money | null = edition.form === 'print' ? edition.price : record.price;
  const prices = edition.form === 'print' ? [home] : [home, ...record.prices];
  const each = prices.flatMap((p) =>
    p
      ? [
          group(
            'Price',
            el('PriceType', marketFor(p.currency)?.included === false ? '01' : '02'),
            el('PriceAmount', amountString(p)),
            el('CurrencyCode', p.currency),
          ),
        ]
      : [],
  );
  return group(
    'SupplyDetail',
    group(
      'Supplier',
      el('SupplierRole', '01'),
      el('SupplierName', record.publisher || record.imprint || authorsLine(record) || 'The author'),
    ),
    el('ProductAvailability', out ? '20' : '10'),
    ...(each.length > 0 ? each : [el('UnpricedItemType', '02')]),
  );
}
