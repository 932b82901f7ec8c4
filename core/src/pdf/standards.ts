/**
 * What makes a PDF a file of a standard: PDF/X-1a:2003 (ISO 15930-4) and PDF/X-4 (ISO 15930-7) for printers, with an
 * output intent; the metadata of a file for the screen. Quoted from memory of the standards' tables.
 */
import { PDFHexString, PDFName, PDFString, type PDFContext, type PDFDict, type PDFRef } from 'pdf-lib';
import { escapeXml } from '../base';
import { greyProfile, GREY_CONDITION } from './grey-profile';

/** `plain` claims no standard; `screen` has bookmarks, links, tags and colour, which a press has no use for. */
export type PdfKind = 'x-1a' | 'x-4' | 'plain' | 'screen';

/** PDF version that a file says: the oldest that has all that is in it. */
export const VERSION: Record<PdfKind, string> = { 'x-1a': '1.4', plain: '1.4', 'x-4': '1.6', screen: '1.7' };

const FOUR_INKS = 'Four inks, by the profile in this file';

/** A printer's file must carry a date (ISO 15930-4 §6.10): a book without one has this. */
const NO_DATE = '2000-01-01';
/** "2026-03-01" → 2026-03-01T00:00:00Z. */
function moment(iso: string): string {
  const n = (iso || NO_DATE).replace(/\D/g, '').padEnd(14, '0').slice(0, 14);
  const [y, mo, d, h, mi, s] = [n.slice(0, 4), ...(n.slice(4).match(/../g) as string[])];
  return `${y}-${mo}-${d}T${h}:${mi}:${s}Z`;
}
/** The same as PDF writes it (ISO 32000-1 §7.9.4): D:20260301000000Z. */
const pdfMoment = (iso: string): string => `D:${moment(iso).replace(/[-:T]/g, '')}`;

export interface Marks {
  kind: PdfKind;
  title: string;
  author: string;
  language: string;
  /** ISO date; '' for none. */
  date: string;
  /** 32 hexadecimal digits. */
  id: string;
  /** An ICC profile of four inks; null where the file is in black alone. */
  profile: Uint8Array | null;
}

/** Puts a kind's marks into the document information and the catalog. */
export function mark(context: PDFContext, catalog: PDFDict, info: PDFDict, m: Marks): void {
  const printed = m.kind === 'x-1a' || m.kind === 'x-4';
  if (m.title || printed) info.set(PDFName.of('Title'), PDFHexString.fromText(m.title || 'Untitled'));
  if (m.author) info.set(PDFName.of('Author'), PDFHexString.fromText(m.author));
  if (m.date || printed) {
    info.set(PDFName.of('CreationDate'), PDFString.of(pdfMoment(m.date)));
    info.set(PDFName.of('ModDate'), PDFString.of(pdfMoment(m.date)));
  }
  if (m.kind === 'x-1a') {
    info.set(PDFName.of('GTS_PDFXVersion'), PDFString.of('PDF/X-1a:2003'));
    catalog.set(PDFName.of('OutputIntents'), context.obj([intent(context, null)]));
  }
  if (m.kind === 'x-4') {
    const profile = m.profile
      ? context.register(context.flateStream(m.profile, { N: 4 }))
      : context.register(context.stream(greyProfile(), { N: 1 }));
    const condition = m.profile ? FOUR_INKS : GREY_CONDITION;
    catalog.set(PDFName.of('OutputIntents'), context.obj([intent(context, { profile, condition })]));
  }
  if (m.kind === 'x-4' || m.kind === 'screen')
    catalog.set(PDFName.of('Metadata'), context.register(metadata(context, m)));
}

/**
 * The printing that a file is meant for. PDF/X-1a may name a condition of the ICC's registry and leave the profile out
 * (§6.9); PDF/X-4 carries a profile: in black a grey one that the house makes itself, in colour the one by which the
 * pictures were turned.
 */
function intent(context: PDFContext, own: { profile: PDFRef; condition: string } | null): PDFRef {
  const dict = context.obj({ Type: 'OutputIntent', S: 'GTS_PDFX' });
  const put = (key: string, text: string): void => dict.set(PDFName.of(key), PDFString.of(text));
  if (own) {
    put('OutputConditionIdentifier', 'Custom');
    put('Info', own.condition);
    put('OutputCondition', own.condition);
    dict.set(PDFName.of('DestOutputProfile'), own.profile);
  } else {
    put('OutputConditionIdentifier', 'FOGRA52');
    put('OutputCondition', 'Offset on uncoated paper, ISO 12647-2:2013');
    put('Info', 'Offset on uncoated paper, ISO 12647-2:2013');
    put('RegistryName', 'http://www.color.org');
  }
  return context.register(dict);
}

/** An XMP packet (ISO 16684-1) that says what the document information says. */
function metadata(context: PDFContext, m: Marks) {
  const at = moment(m.date);
  const uuid = `uuid:${m.id.slice(0, 8)}-${m.id.slice(8, 12)}-${m.id.slice(12, 16)}-${m.id.slice(16, 20)}-${m.id.slice(20, 32)}`;
  const x = m.kind === 'x-4' ? '<pdfxid:GTS_PDFXVersion>PDF/X-4</pdfxid:GTS_PDFXVersion>\n' : '';
  const author = m.author
    ? `<dc:creator><rdf:Seq><rdf:li>${escapeXml(m.author)}</rdf:li></rdf:Seq></dc:creator>\n`
    : '';
  const packet = `<?xpacket begin="\ufeff" id="W5M0MpCehiHzreSzNTczkc9d"?>
<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">
<rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:xmp="http://ns.adobe.com/xap/1.0/" xmlns:xmpMM="http://ns.adobe.com/xap/1.0/mm/" xmlns:pdf="http://ns.adobe.com/pdf/1.3/" xmlns:pdfxid="http://www.npes.org/pdfx/ns/id/">
<dc:format>application/pdf</dc:format>
<dc:title><rdf:Alt><rdf:li xml:lang="x-default">${escapeXml(m.title || 'Untitled')}</rdf:li></rdf:Alt></dc:title>
${author}<dc:language><rdf:Bag><rdf:li>${escapeXml(m.language)}</rdf:li></rdf:Bag></dc:language>
<xmp:CreateDate>${at}</xmp:CreateDate>
<xmp:ModifyDate>${at}</xmp:ModifyDate>
<xmp:MetadataDate>${at}</xmp:MetadataDate>
<xmp:CreatorTool>Pagina</xmp:CreatorTool>
<xmpMM:DocumentID>${uuid}</xmpMM:DocumentID>
<xmpMM:VersionID>1</xmpMM:VersionID>
<xmpMM:RenditionClass>default</xmpMM:RenditionClass>
<pdf:Producer>Pagina</pdf:Producer>
<pdf:Trapped>False</pdf:Trapped>
${x}</rdf:Description></rdf:RDF></x:xmpmeta>
<?xpacket end="w"?>`;
  return context.stream(new TextEncoder().encode(packet), { Type: 'Metadata', Subtype: 'XML' });
}
