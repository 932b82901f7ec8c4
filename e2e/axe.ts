/** axe-core (Deque) run in a page: WCAG 2.2 A and AA rules. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from 'playwright-core';

const source = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

export class AxeBuilder {
  constructor(private readonly page: Page) {}
  /** Violations as "rule: element". */
  async violations(): Promise<string[]> {
    await this.page.evaluate(source);
    return this.page.evaluate(async () => {
      const axe = (
        window as unknown as {
          axe: { run(o: object): Promise<{ violations: { id: string; nodes: { target: string[] }[] }[] }> };
        }
      ).axe;
      const { violations } = await axe.run({ runOnly: ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'] });
      return violations.flatMap((v) => v.nodes.map((n) => `${v.id}: ${n.target.join(' ')}`));
    });
  }
}
