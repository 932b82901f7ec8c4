/**
 * Words that are not saved: what the browser keeps of them while they wait, what windows that are gone have left, and
 * those that have no place to be saved any more (`stranded`), until the author says what becomes of them.
 */
import { sectionToJson, type Section } from '@pagina/core/book';
import type { Backlog, Unsaved } from './backlog';
import { shortId } from './ids';
import type { Line, Saved } from './line';
import { otherTabs } from './tab';
import type { Written } from './written';

export interface Stranded {
  id: string;
  /** Title of the section they were written in. */
  heading: string;
  words: string;
  why: string;
  /** The section as it was written, where this window has it. */
  section: { json: unknown; index: number } | null;
  /** Where it is kept in the browser. */
  kept: { page: string; section: string };
}

interface Surroundings {
  title: string;
  /** Name of this window. */
  client: string;
  backlog: Backlog;
  line: Line;
}
interface Open {
  sections: () => readonly Section[];
  revision: () => number;
  onStranded: (all: readonly Stranded[]) => void;
}

export class Leftovers {
  /** Sections of which the browser keeps something, under the name of this visit to the page. */
  private readonly noted = new Set<string>();
  private readonly page = shortId();
  /** What windows that are gone have left; null until it was looked for. */
  private found: Unsaved[] | null = null;
  private stranded: readonly Stranded[] = [];

  constructor(
    private readonly around: Surroundings,
    private readonly open: Open,
  ) {}

  /** Keeps what is unsaved in the browser, and drops what is saved. */
  note(editors: ReadonlyMap<string, Written>): void {
    const { backlog, title } = this.around;
    for (const [section, e] of editors) {
      if (e.refused !== null) continue;
      const unsaved = this.unsavedOf(section, e);
      if (unsaved) {
        this.noted.add(section);
        void backlog.put(unsaved);
      } else if (this.noted.delete(section)) void backlog.drop(title, this.page, section);
    }
  }
  private unsavedOf(section: string, e: Written): Unsaved | null {
    const batch = e.batch({ all: true });
    if (!batch) return null;
    return {
      ...batch,
      title: this.around.title,
      client: this.around.client,
      page: this.page,
      section,
      heading: this.open.sections().find((s) => s.id === section)?.title ?? '',
      base: this.open.revision(),
      words: e.words(),
      at: Date.now(),
    };
  }

  /** Sends what windows that are gone have left unsaved in this browser. `after` is called when something was saved. */
  async recover(after: () => Promise<unknown>): Promise<'offline' | 'done'> {
    const { backlog, client: own, line, title } = this.around;
    if (!this.found) {
      const alive = new Set(await otherTabs(own));
      this.found = (await backlog.of(title)).filter((u) => u.page !== this.page && !alive.has(u.client));
    }
    for (let u = this.found[0]; u; u = this.found[0]) {
      const { base, client, request, earlier, section, steps } = u;
      const change = { type: 'text', section, steps };
      const body = { base, client, request, earlier, change, final: true };
      const answer = await line.post<Saved>('changes', body);
      if (answer === 'offline') return 'offline';
      this.found.shift();
      const kept = { page: u.page, section };
      if ('message' in answer && u.words.trim() !== '')
        this.add({
          id: request,
          heading: u.heading,
          words: u.words,
          why: answer.message,
          section: null,
          kept,
        });
      else await backlog.drop(title, u.page, section);
      await after();
    }
    return 'done';
  }

  /** What was typed in a section cannot be saved there. Without words in it, it is let go. */
  strand(section: string, e: Written, why: string): void {
    const unsaved = this.unsavedOf(section, e);
    if (!unsaved || unsaved.words.trim() === '') return;
    const { backlog, title } = this.around;
    // Under a name of its own: what is typed there next must not take its place.
    const page = `${this.page}-${unsaved.request}`;
    if (this.noted.delete(section)) void backlog.drop(title, this.page, section);
    void backlog.put({ ...unsaved, page });
    const index = this.open.sections().findIndex((s) => s.id === section);
    const at = this.open.sections()[index];
    this.add({
      id: unsaved.request,
      heading: unsaved.heading,
      words: unsaved.words,
      why,
      section: at ? { json: sectionToJson({ ...at, content: e.state.doc }), index } : null,
      kept: { page, section },
    });
  }
  private add(s: Stranded): void {
    this.stranded = [...this.stranded.filter((x) => x.id !== s.id), s];
    this.open.onStranded(this.stranded);
  }

  /** The author has decided: it is kept no longer. */
  async settle(id: string): Promise<void> {
    const s = this.stranded.find((x) => x.id === id);
    if (!s) return;
    await this.around.backlog.drop(this.around.title, s.kept.page, s.kept.section);
    this.stranded = this.stranded.filter((x) => x !== s);
    this.open.onStranded(this.stranded);
  }
}
