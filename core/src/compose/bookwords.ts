/** What the text of an edition says that its author did not type: references, numbers of captions, notes of other sections. */
import type { Node } from 'prosemirror-model';
import { noteMarks, notesIn, type Book, type NoteKind, type Section } from '../book';
import type { Interior } from '../design';
import {
  captionLabel,
  captionNumbers,
  notePlaces,
  References,
  referencesIn,
  type CaptionNumber,
  type Heading,
  type Naming,
  type NotePlace,
  type NotePlaces,
  type Reference,
} from '../order';
import type { FlowManners, GatheredNotes } from './blocks';
import type { Labels } from './labels';

/** Where notes stand that are not sent to another section. */
const inside = (place: NotePlace): NotePlace => (place === 'elsewhere' ? 'after' : place);

/** Ids of blocks that may bear a number before their words, by text: asked for in every round. */
const bearers = new WeakMap<Node, readonly string[]>();
function bearersIn(content: Node): readonly string[] {
  let ids = bearers.get(content);
  if (!ids) {
    const found: string[] = [];
    content.descendants((n) => {
      if (n.type.name === 'figure' || n.type.name === 'tableCaption') found.push(n.attrs.id as string);
      return !n.isTextblock;
    });
    bearers.set(content, (ids = found));
  }
  return ids;
}

export class BookWords {
  private readonly references: References;
  private readonly captions: ReadonlyMap<string, CaptionNumber>;
  private readonly noted: NotePlaces;
  private readonly language: string;

  constructor(
    private readonly sections: readonly Section[],
    { record }: Pick<Book, 'record'>,
    naming: Naming,
    interior: Interior,
    private readonly headings: ReadonlyMap<string, Heading>,
  ) {
    this.language = record.language;
    this.noted = notePlaces(sections, interior.notes);
    this.references = new References(sections, naming, this.noted.signs);
    this.captions = captionNumbers(sections, naming);
  }

  /** References of a section that print pages. */
  pagesAsked(section: Section): Reference[] {
    return referencesIn(section.content).filter((r) => r.shows === 'page' || r.shows === 'pages');
  }

  /** Blocks whose pages references ask for. */
  blocksAsked(): string[] {
    return this.sections
      .flatMap((s) => this.pagesAsked(s))
      .flatMap((r) => [...this.references.linesOf(r.target)]);
  }

  /** The words as they are where pages bear these labels. */
  with(labels: Labels): FlowManners['words'] {
    const folios = labels.folios((target) => this.references.linesOf(target));
    return {
      reference: (n) => this.references.says(n.attrs as Reference, folios),
      captionLabel: (id) => this.labelOf(id),
    };
  }

  private labelOf(id: string): string {
    const number = this.captions.get(id);
    return number ? captionLabel(number, this.language) : '';
  }

  /** All of them in a section: while they stay, it is set as it was. */
  in(section: Section, labels: Labels): string[] {
    const references = referencesIn(section.content);
    const numbered = this.captions.size > 0 ? bearersIn(section.content).map((id) => this.labelOf(id)) : [];
    if (references.length === 0) return numbered;
    const folios = labels.folios((target) => this.references.linesOf(target));
    return [...references.map((r) => this.references.says(r, folios)), ...numbered];
  }

  notesOf(section: Section): Pick<FlowManners, 'notes' | 'gathered'> {
    const { gatherer, ...notes } = this.noted;
    if (section.id !== gatherer?.id) return { notes, gathered: [] };
    const gathered = this.sections.flatMap((x): GatheredNotes[] => {
      if (x.id === section.id) return [];
      const own = notesIn(x.content).filter((n) => notes[n.attrs.kind as NoteKind] === 'elsewhere');
      if (own.length === 0) return [];
      const marks = noteMarks(x.content, notes.signs);
      return [
        {
          label: this.headings.get(x.id)?.label ?? '',
          notes: own.map((note) => ({ note, mark: marks.get(note.attrs.id as string) ?? '*' })),
        },
      ];
    });
    // Its own notes stand in it.
    return { notes: { ...notes, foot: inside(notes.foot), end: inside(notes.end) }, gathered };
  }
}
