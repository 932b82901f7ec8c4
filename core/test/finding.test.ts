/** Findings in the order in which people go through them. */
import { expect, it } from 'vitest';
import { bySeverity, type Finding } from '../src/base';

const f = (severity: Finding['severity'], message: string, more: Partial<Finding> = {}): Finding => ({
  rule: 'x/y',
  severity,
  message,
  ...more,
});

it('worst first, and each file from its beginning to its end', () => {
  const findings = [
    f('note', '6'),
    f('blocker', '2', { file: 'b', line: 9, column: 4 }),
    f('caution', '5', { file: 'a', line: 1 }),
    f('blocker', '4'),
    f('blocker', '1', { file: 'b', line: 9, column: 2 }),
    f('blocker', '3', { file: 'b', line: 10, column: 1 }),
  ];
  expect(
    bySeverity(findings)
      .map((x) => x.message)
      .join(''),
  ).toBe('123456');
});
