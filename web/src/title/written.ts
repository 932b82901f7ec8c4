/**
 * The text of one section as it is written in: its editor state, and which steps of it are not known to be saved.
 *
 * A request may be lost on the way there or its answer on the way back. So every request has a name, and one whose fate
 * is unknown is sent again with exactly the same steps, before anything else, until its fate is known.
 */
import { collab, receiveTransaction, sendableSteps } from 'prosemirror-collab';
import { EditorState, type Plugin } from 'prosemirror-state';
import { Step, type ReplaceStep } from 'prosemirror-transform';
import type { Node } from 'prosemirror-model';
import { schema } from '@pagina/core/book';
import { freshIds, shortId } from './ids';

/** A request that holds the first `steps` of the unsaved steps. */
interface Named {
  request: string;
  steps: number;
  /** It has left, and nobody knows what became of it. */
  flown: boolean;
}
export interface Batch {
  steps: unknown[];
  request: string;
  earlier: string[];
}
/** Names of batches that were only noted, never sent: the last of them may be what the browser kept. */
const NOTED = 2;

export class Written {
  state: EditorState;
  readonly draw = new Set<(s: EditorState) => void>();
  /** How many steps have been settled so far: saved, or lost with their place. */
  settled = 0;
  /** Why the server refuses what is unsaved here; null when it does not. */
  refused: string | null = null;
  private names: Named[] = [];
  private readonly plugins: Plugin[];

  constructor(
    doc: Node | undefined,
    plugins: Plugin[],
    private readonly client: string,
  ) {
    this.plugins = [...plugins, freshIds, collab({ version: 0, clientID: client })];
    this.state = EditorState.create({ schema, doc, plugins: this.plugins });
  }

  /** Begins again with a text that the server has. Answers the state. */
  reset(doc: Node): EditorState {
    this.names = [];
    this.refused = null;
    this.settled += this.unsaved;
    return EditorState.create({ schema, doc, plugins: this.plugins });
  }

  /** How many steps are not known to be saved. */
  get unsaved(): number {
    return sendableSteps(this.state)?.steps.length ?? 0;
  }

  /**
   * The unsaved steps as a request; null when there are none. `upTo` limits how many; where the fate of an earlier request
   * is unknown, that one is answered again. `all`: everything at once, for a page that is going away.
   */
  batch({ upTo = Infinity, all = false }: { upTo?: number; all?: boolean } = {}): Batch | null {
    const sendable = sendableSteps(this.state)?.steps ?? [];
    const open = all ? undefined : this.names.find((n) => n.flown);
    const count = Math.min(open?.steps ?? upTo, sendable.length);
    if (count === 0) return null;
    let named = this.names.find((n) => n.steps === count);
    if (!named) {
      named = { request: shortId(), steps: count, flown: false };
      this.names.push(named);
      const noted = this.names.filter((n) => !n.flown).slice(0, -NOTED);
      this.names = this.names.filter((n) => !noted.includes(n));
    }
    const { request } = named;
    return {
      steps: sendable.slice(0, count).map((s) => s.toJSON() as unknown),
      request,
      earlier: this.names.filter((n) => n.request !== request && n.steps <= count).map((n) => n.request),
    };
  }
  /** A batch has left. */
  flew(request: string): void {
    for (const n of this.names) if (n.request === request) n.flown = true;
  }
  /** The server has said no to a batch, or that it is behind: it has not been saved. */
  landed(request: string): void {
    for (const n of this.names) if (n.request === request) n.flown = false;
  }

  /** Whether requests of these names brought steps that stand here unsaved. */
  knows(requests: readonly string[]): boolean {
    return this.names.some((n) => requests.includes(n.request));
  }
  /** Steps of this window that are now known to be saved. Answers the state after them. */
  confirm(stepsJson: readonly unknown[], requests: readonly string[]): EditorState {
    const steps = stepsJson.map((j) => Step.fromJSON(schema, j));
    const clients = steps.map(() => this.client);
    this.names = this.names
      .filter((n) => !requests.includes(n.request))
      .map((n) => ({ ...n, steps: n.steps - steps.length }))
      .filter((n) => n.steps > 0);
    this.settled += steps.length;
    return this.state.apply(receiveTransaction(this.state, steps, clients));
  }
  /** Steps that others have saved. Answers the state after them. */
  receive(stepsJson: readonly unknown[]): EditorState {
    const steps = stepsJson.map((j) => Step.fromJSON(schema, j));
    const before = this.unsaved;
    const state = this.state.apply(
      receiveTransaction(
        this.state,
        steps,
        steps.map(() => 'server'),
        { mapSelectionBackward: true },
      ),
    );
    // Steps whose place is gone are dropped: names that counted them would count wrong.
    const lost = before - (sendableSteps(state)?.steps.length ?? 0);
    this.settled += lost;
    if (lost > 0) this.names = this.names.filter((n) => n.flown);
    return state;
  }

  /** The words that the unsaved steps bring. */
  words(): string {
    const steps = (sendableSteps(this.state)?.steps ?? []) as readonly Partial<ReplaceStep>[];
    return steps.map((s) => s.slice?.content.textBetween(0, s.slice.content.size, '\n') ?? '').join('');
  }
}
