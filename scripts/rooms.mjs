/** The import table of the house (scripts/house.json), as a lint rule: who may import whom. */
import { readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
const house = JSON.parse(readFileSync(join(root, 'scripts/house.json'), 'utf8'));
const rowOf = new Map(house.rooms.flatMap((row, i) => row.map((room) => [room, i])));
/** What core never touches: a platform, the network, the clock, chance. */
const OUTSIDE_CORE = /^(node:|react|next|fs$|path$|crypto$|@libsql|drizzle)/;

/** A sentence when the import breaks the table, else null. `file` and a relative `source` are resolved from the root. */
export function breach(file, source) {
  const from = relative(root, file).split('/');
  const pkg = from[0];
  if (!(pkg in house.packages) || from.includes('test')) return null;
  const inCore = pkg === 'core' && from[1] === 'src';
  if (inCore && OUTSIDE_CORE.test(source)) return `core may not import ${source}`;
  let target = null;
  if (source.startsWith('@pagina/')) target = source.slice('@pagina/'.length).split('/');
  else if (source.startsWith('.')) {
    const path = relative(root, resolve(dirname(file), source)).split('/');
    target = path[1] === 'src' ? [path[0], path[2], ...path.slice(3)] : [path[0]];
    if (path[0] === pkg && !inCore) return null;
  }
  if (!target || !(target[0] in house.packages)) return null;
  if (target[0] !== pkg) {
    if (!house.packages[pkg].includes(target[0])) return `${pkg} may not import ${target[0]}`;
    if (source.startsWith('.')) return `${target[0]} is entered by its name, not by a path`;
    return null;
  }
  if (!inCore) return null;
  const room = from[2];
  const other = target[1];
  if (room === other) return innerBreach(room, from.slice(3), target.slice(2));
  if (!rowOf.has(other)) return null;
  if (!rowOf.has(room)) return `the room ${room} is not in the table`;
  if (rowOf.get(other) >= rowOf.get(room))
    return `the room ${room} may import only from rooms above it, not from ${other}`;
  if (target.length > 2 && !(target.length === 3 && target[2] === 'index'))
    return `the room ${other} is entered by its index`;
  return null;
}

/** The same within a room that has inner rooms: paths from the room. Files beside the inner rooms put them together. */
function innerBreach(room, from, to) {
  const rows = house.inner[room];
  if (!rows) return null;
  const row = (path) => rows.findIndex((r) => r.includes(path[0]));
  if (row(to) < 0)
    return row(from) < 0 ? null : `the inner room ${room}/${from[0]} may not import what puts it together`;
  if (from[0] === to[0]) return null;
  if (row(from) >= 0 && row(to) >= row(from))
    return `the inner room ${room}/${from[0]} may import only from inner rooms above it, not from ${to[0]}`;
  if (to.length > 1 && to[1] !== 'index') return `the inner room ${room}/${to[0]} is entered by its index`;
  return null;
}

export const rooms = {
  meta: { type: 'problem', schema: [], messages: { breach: 'House: {{why}}.' } },
  create(context) {
    const look = (node) => {
      const why = node.source && breach(context.filename, node.source.value);
      if (why) context.report({ node: node.source, messageId: 'breach', data: { why } });
    };
    return {
      ImportDeclaration: look,
      ExportNamedDeclaration: look,
      ExportAllDeclaration: look,
      ImportExpression: (n) => n.source.type === 'Literal' && look(n),
    };
  },
};
