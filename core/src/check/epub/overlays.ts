/** Rules of media overlays (EPUB 3.3 §9; SMIL 3.0). */
import { descendants, type XmlElement } from '../../base';
import { resolve } from '../../package';
import type { Breach, Rule } from '../rules';
import { at, atAttribute, elementsIn, SMIL, tokens, type EpubSubject, type XmlPart } from './subject';

const overlays = (s: EpubSubject): XmlPart[] =>
  s.manifest
    .filter((i) => i.type === SMIL && i.path)
    .flatMap((i) => {
      const part = s.xml(i.path);
      return part?.root ? [part] : [];
    });

const overlay = (
  of: Omit<Rule<EpubSubject>, 'look' | 'profiles'>,
  look: (e: XmlElement, part: XmlPart, s: EpubSubject) => string | [string, string] | null,
): Rule<EpubSubject> => ({
  ...of,
  profiles: ['EPUB 3.3'],
  *look(s): Iterable<Breach> {
    for (const part of overlays(s))
      for (const e of part.elements) {
        const said = look(e, part, s);
        if (said)
          yield typeof said === 'string'
            ? { message: said, ...at(part, e) }
            : { message: said[0], ...atAttribute(part, e, said[1]) };
      }
  },
});

/** Seconds of a clock value (SMIL 3.0, Timing §5.4.3; EPUB 3.3 Appendix on clock values); NaN where it is none. */
export function clock(value: string): number {
  const v = value.trim();
  const full = /^(?:(\d+):)?([0-5]\d):([0-5]\d(?:\.\d+)?)$/.exec(v);
  if (full) return Number(full[1] ?? 0) * 3600 + Number(full[2]) * 60 + Number(full[3]);
  const count = /^(\d+(?:\.\d+)?)(h|min|s|ms)?$/.exec(v);
  if (!count) return NaN;
  const unit: Record<string, number> = { h: 3600, min: 60, s: 1, ms: 0.001 };
  return Number(count[1]) * (unit[count[2] ?? 's'] ?? 1);
}

export const OVERLAY_RULES: Rule<EpubSubject>[] = [
  overlay(
    {
      name: 'overlay/root',
      severity: 'blocker',
      source: 'EPUB 3.3 §9.2.2: smil, version 3.0, of its namespace',
      remedy: 'Write <smil xmlns="http://www.w3.org/ns/SMIL" version="3.0">.',
    },
    (e, part) =>
      e === part.root &&
      (e.name !== 'smil' || e.ns !== 'http://www.w3.org/ns/SMIL' || e.attrs.version !== '3.0')
        ? 'The file isn’t a media overlay.'
        : null,
  ),
  overlay(
    {
      name: 'overlay/shape',
      severity: 'blocker',
      source: 'EPUB 3.3 §9.2.2: head, body, seq, par, text, audio',
      remedy: 'Remove it.',
    },
    (e, part) => {
      const allowed: Record<string, RegExp> = {
        smil: /^(head|body)$/,
        body: /^(seq|par)$/,
        seq: /^(seq|par)$/,
        par: /^(text|audio)$/,
        head: /^(metadata|meta)$/,
      };
      const within = part.parents.get(e);
      const list = within ? allowed[within.name] : undefined;
      return list && !list.test(e.name) ? `“${e.name}” has no place in ${within?.name ?? ''}.` : null;
    },
  ),
  overlay(
    {
      name: 'overlay/nothing',
      severity: 'blocker',
      source: 'EPUB 3.3 §9.2.2: body and seq hold at least one seq or par',
      remedy: 'Add what is read, or remove it.',
    },
    (e) =>
      (e.name === 'body' || e.name === 'seq') && elementsIn(e).length === 0 ? `“${e.name}” is empty.` : null,
  ),
  overlay(
    {
      name: 'overlay/pair',
      severity: 'blocker',
      source: 'EPUB 3.3 §9.2.2.6: par holds one text',
      remedy: 'Name the words that are read.',
    },
    (e) =>
      e.name === 'par' && elementsIn(e).filter((c) => c.name === 'text').length !== 1
        ? 'A par doesn’t name its text.'
        : null,
  ),
  overlay(
    {
      name: 'overlay/words-gone',
      severity: 'blocker',
      source: 'EPUB 3.3 §9.2.2.7: text leads to an element of a content document',
      why: 'Nothing is highlighted while it is read.',
      remedy: 'Link to an id that exists.',
    },
    (e, part, s) => {
      if (e.name !== 'text') return null;
      const to = e.attrs.src ? resolve(part.path, e.attrs.src) : null;
      if (!to) return 'A text element has no src.';
      const d = s.documentAt.get(to.path);
      if (!d) return [`“${e.attrs.src ?? ''}” isn’t a page of the ebook.`, 'src'];
      return to.fragment && d.root && !d.ids.has(to.fragment) && !/^:~:/.test(to.fragment)
        ? [`“#${to.fragment}” isn’t there.`, 'src']
        : null;
    },
  ),
  overlay(
    {
      name: 'overlay/sound-gone',
      severity: 'blocker',
      source: 'EPUB 3.3 §9.2.2.8: audio leads to a sound of the manifest',
      why: 'Nothing is heard.',
      remedy: 'Add the sound.',
    },
    (e, part, s) => {
      if (e.name !== 'audio') return null;
      const src = e.attrs.src ?? '';
      if (/^https?:/i.test(src))
        return s.manifest.some((i) => i.href === src)
          ? null
          : [`“${src}” isn’t listed in the manifest.`, 'src'];
      const to = src ? resolve(part.path, src) : null;
      return to && s.items.get(to.path)?.type.startsWith('audio/') && s.names.has(to.path)
        ? null
        : [`“${src}” isn’t a sound of the ebook.`, 'src'];
    },
  ),
  overlay(
    {
      name: 'overlay/clock',
      severity: 'blocker',
      source: 'EPUB 3.3 §9.2.2.8; SMIL 3.0 clock values',
      remedy: 'Write it as 0:01:30.5 or 90.5s.',
    },
    (e) => {
      const odd =
        e.name === 'audio'
          ? ['clipBegin', 'clipEnd'].find(
              (a) => e.attrs[a] !== undefined && Number.isNaN(clock(e.attrs[a] ?? '')),
            )
          : undefined;
      return odd ? [`“${e.attrs[odd] ?? ''}” is not a time.`, odd] : null;
    },
  ),
  overlay(
    {
      name: 'overlay/backwards',
      severity: 'blocker',
      source: 'EPUB 3.3 §9.2.2.8: clipEnd comes after clipBegin',
      why: 'Nothing is heard.',
      remedy: 'Correct the times.',
    },
    (e) => {
      const [begin, end] = [clock(e.attrs.clipBegin ?? '0s'), clock(e.attrs.clipEnd ?? '')];
      return e.name === 'audio' && e.attrs.clipEnd !== undefined && end <= begin
        ? 'A piece of sound ends before it begins.'
        : null;
    },
  ),
  overlay(
    {
      name: 'overlay/sequence-of',
      severity: 'blocker',
      source: 'EPUB 3.3 §9.2.2.5: seq names what it is said of, by epub:textref',
      remedy: 'Add epub:textref.',
    },
    (e) =>
      e.name === 'seq' && !e.attrs['epub:textref']
        ? 'A sequence doesn’t say which part of the text it reads.'
        : null,
  ),
  {
    name: 'overlay/untold',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §9.3.5.1: a document with an overlay names it by media-overlay',
    why: 'Reading systems don’t find what is read.',
    remedy: 'Add media-overlay to the item of the document.',
    *look(s) {
      const named = new Map<string, Set<string>>();
      const root = s.packageFile?.root;
      for (const e of root ? descendants(root, 'item') : [])
        if (e.attrs['media-overlay'])
          named.set(
            resolve(s.path, e.attrs.href ?? '')?.path ?? '',
            new Set(tokens(e.attrs['media-overlay'])),
          );
      for (const part of overlays(s)) {
        const id = s.items.get(part.path)?.id ?? '';
        const told = new Set<string>();
        for (const e of part.elements) {
          const to = e.name === 'text' && e.attrs.src ? resolve(part.path, e.attrs.src) : null;
          if (to && s.items.has(to.path) && !told.has(to.path) && !named.get(to.path)?.has(id)) {
            told.add(to.path);
            yield {
              message: `“${to.path}” is read in this overlay, but its item doesn’t name the overlay.`,
              ...at(part, e),
            };
          }
        }
      }
    },
  },
  {
    name: 'overlay/duration',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §9.3.5.2: media:duration of each overlay and of the whole',
    why: 'Reading systems can’t show how long it takes.',
    remedy: 'Give the durations.',
    *look(s) {
      if (overlays(s).length === 0) return;
      const said = s.metadata.filter((m) => m.name === 'media:duration');
      if (!said.some((m) => !m.attrs.refines))
        yield { message: 'The package doesn’t say how long its sound is.', file: s.path };
      for (const i of s.manifest)
        if (i.type === SMIL && !said.some((m) => m.attrs.refines?.trim() === `#${i.id}`))
          yield {
            message: `The package doesn’t say how long “${i.href}” is.`,
            file: s.path,
            line: i.line,
            column: i.column,
          };
      for (const m of said)
        if (Number.isNaN(clock(m.value)))
          yield { message: `“${m.value}” is not a duration.`, file: s.path, line: m.line };
    },
  },
];
