/** The book as it comes in parcels: texts that are not sent again keep their identity, and so what was worked out for them. */
import { contentFromJson, type Book, type Section } from '@pagina/core/book';
import type { BookSent } from './messages';

export class Received {
  private texts = new Map<string, Section['content']>();

  take({ sections, ...meta }: BookSent): Book {
    const before = this.texts;
    this.texts = new Map();
    const whole = sections.map((s) => {
      const content = s.content === null ? before.get(s.id) : contentFromJson(s.content);
      if (!content) throw new Error('the text of a section was not sent');
      this.texts.set(s.id, content);
      return { ...s, content };
    });
    return { ...meta, sections: whole };
  }
}
