/**
 * Formulas of Rich Text (specification 1.9.1, "Math"). Their groups are the elements of word files' formulas, each named
 * with an `m` before it; what a group of properties holds is said in text, or by a number behind its word.
 */
import { math, type MathNode } from '../../book';
import { DEEPEST_OMML, formulaOf } from './omml';

/** Styles of a run by the numbers that Rich Text gives them. */
const STYLES = ['p', 'b', 'i', 'bi'];

interface Place {
  node: MathNode;
  own: boolean;
  properties: boolean;
}

export class RtfFormula {
  private readonly root = math('oMath');
  /** The element that each open group stands in, whether the group is that element's own, and within properties. */
  private readonly groups: Place[] = [{ node: this.root, own: true, properties: false }];

  beginGroup(): void {
    this.groups.push({ ...this.now, own: false });
  }

  /** Whether the formula itself has ended with the group. */
  endGroup(): boolean {
    this.groups.pop();
    return this.groups.length === 0;
  }

  private get now(): Place {
    return this.groups.at(-1) as Place;
  }

  word(word: string, param: number | undefined): void {
    const { now } = this;
    const name = /^m[a-zA-Z]+$/.test(word) ? word.slice(1) : '';
    if (!name || name === 'oMath') return;
    if (now.node.name === 'r' && (now.own || !/Pr$/.test(name))) {
      // What a run says of itself stands among its text.
      if (name === 'sty') property(now.node, 'sty', STYLES[param ?? 2] ?? 'i');
      else if (name === 'nor') property(now.node, 'nor', param === 0 ? '0' : '1');
      return;
    }
    if (now.own) return;
    const made = math(name);
    if (this.groups.length < DEEPEST_OMML) now.node.children.push(made);
    if (param !== undefined) made.attrs.val = String(param);
    this.groups[this.groups.length - 1] = {
      node: made,
      own: true,
      properties: now.properties || /Pr$/.test(name),
    };
  }

  text(text: string): void {
    const { node, properties } = this.now;
    if (properties) {
      node.attrs.val = (node.attrs.val ?? '') + text.trim();
      return;
    }
    if (node.name === 'r') return void node.children.push(math('t', [text]));
    // Signs that stand in no run of their own.
    if (text.trim() !== '') node.children.push(math('r', [math('t', [text])]));
  }

  take(): MathNode | null {
    return formulaOf(this.root);
  }
}

function property(run: MathNode, name: string, val: string): void {
  let properties = run.children.find((c): c is MathNode => typeof c !== 'string' && c.name === 'rPr');
  if (!properties) run.children.unshift((properties = math('rPr')));
  properties.children.push(math(name, [], { val }));
}
