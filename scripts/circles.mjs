/** Import circles: files that, by way of others, import themselves. Types count: a circle of types is one of ideas. */
import { readFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';

const IMPORT = /^\s*(?:import|export)\b[^'";]*?from\s*'(\.[^']*)'|import\(\s*'(\.[^']*)'\s*\)/gm;

/** `files` are paths from `root`. Answers each circle as the files on it, sorted. */
export function circles(root, files) {
  const known = new Set(files);
  const edges = new Map(
    files.map((file) => {
      const text = readFileSync(join(root, file), 'utf8');
      const targets = [...text.matchAll(IMPORT)].flatMap((m) => {
        const path = resolve('/', dirname(file), m[1] ?? m[2]).slice(1);
        const found = [`${path}.ts`, `${path}.tsx`, `${path}/index.ts`].find((p) => known.has(p));
        return found ? [found] : [];
      });
      return [file, targets];
    }),
  );
  // Strongly connected components (R. E. Tarjan, SIAM Journal on Computing 1, 1972).
  const found = [];
  const index = new Map();
  const low = new Map();
  const stack = [];
  const visit = (v) => {
    index.set(v, index.size);
    low.set(v, index.get(v));
    stack.push(v);
    for (const w of edges.get(v) ?? []) {
      if (!index.has(w)) {
        visit(w);
        low.set(v, Math.min(low.get(v), low.get(w)));
      } else if (stack.includes(w)) low.set(v, Math.min(low.get(v), index.get(w)));
    }
    if (low.get(v) !== index.get(v)) return;
    const component = stack.splice(stack.indexOf(v));
    if (component.length > 1 || edges.get(v)?.includes(v)) found.push(component.sort());
  };
  for (const file of files) if (!index.has(file)) visit(file);
  return found;
}
