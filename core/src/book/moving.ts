/** Steps in a text moved over what others did there meanwhile. */
import { Mapping, Step } from 'prosemirror-transform';
import { schema } from './schema';

/** A step of others, and the index of an earlier one among them that it takes back. */
export interface Moved {
  step: unknown;
  mirrors?: number;
}

/**
 * Steps that were made against an older text, moved over what has happened since (`over`, in order): the way of
 * prosemirror-collab, done on the server. The own steps are first undone in the mapping, then what others did is done,
 * then the own steps again, each mirrored to its undoing so that positions inside own text survive; so do positions
 * in text that others took away and put back. Steps whose place is gone are counted in `lost`.
 */
export function moveSteps(
  stepsJson: readonly unknown[],
  over: readonly Moved[],
): { steps: unknown[]; lost: number } {
  const own = stepsJson.map((j) => Step.fromJSON(schema, j));
  const mapping = new Mapping();
  for (const step of [...own].reverse()) mapping.appendMap(step.getMap().invert());
  for (const { step, mirrors } of over)
    mapping.appendMap(
      Step.fromJSON(schema, step).getMap(),
      mirrors === undefined ? undefined : own.length + mirrors,
    );
  const steps: unknown[] = [];
  let lost = 0;
  own.forEach((step, i) => {
    const moved = step.map(mapping.slice(own.length - i));
    if (!moved) {
      lost++;
      return;
    }
    steps.push(moved.toJSON());
    mapping.appendMap(moved.getMap(), own.length - i - 1);
  });
  return { steps, lost };
}
