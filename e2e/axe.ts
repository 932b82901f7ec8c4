/** axe-core (Deque) run in a page: WCAG 2.2 A and AA rules. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from 'playwright-core';

const source = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

/** What fades in has the contrast of its last moment. */
async function settled(): Promise<void> {
  const frame = (): Promise<unknown> => new Promise((r) => requestAnimationFrame(r));
  await frame().then(frame);
  const ending = (): Animation[] =>
    document
      .getAnimations()
      .filter((a) => a.effect?.getComputedTiming().endTime !== Infinity && a.playState === 'running');
  for (let now = ending(); now.length > 0; now = ending()) {
    await Promise.allSettled(now.map((a) => a.finished));
    await frame();
  }
}

/** The criteria of levels A and AA. */
export const WCAG = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];

export class AxeBuilder {
  constructor(private readonly page: Page) {}
  /** Violations as "rule: element"; of the rules with these tags. */
  async violations(tags: readonly string[] = WCAG): Promise<string[]> {
    await this.page.evaluate(settled);
    await this.page.evaluate(source);
    return this.page.evaluate(
      async (runOnly) => {
        const axe = (
          window as unknown as {
            axe: { run(o: object): Promise<{ violations: { id: string; nodes: { target: string[] }[] }[] }> };
          }
        ).axe;
        const { violations } = await axe.run({ runOnly });
        return violations.flatMap((v) => v.nodes.map((n) => `${v.id}: ${n.target.join(' ')}`));
      },
      [...tags],
    );
  }
}
