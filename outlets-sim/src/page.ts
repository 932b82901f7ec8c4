/** The desk as a page: the shops' day, their weather, and the keys of the account there. */
import { WEATHERS, type House } from './house';
import { SHOPS } from './names';
import type { Reply } from './http';
import { endedMonths } from './sales';
import { SHOPS_OPEN } from './shops';
import { escaped } from './xml';

const STYLE =
  'body{font:15px/1.5 sans-serif;color:#20242a;background:#f5f1e8;max-width:760px;margin:40px auto;padding:0 16px}table{border-collapse:collapse;width:100%}td,th{border-top:1px solid #8a8374;padding:6px 8px;text-align:left;vertical-align:top}code{user-select:all;overflow-wrap:anywhere}';
const SCRIPT = `const say = (body) => fetch('/desk', { method: 'POST', body: JSON.stringify(body) }).then(() => location.reload());
document.querySelectorAll('select').forEach((s) => s.addEventListener('change', () => say({ shop: s.name, weather: s.value })));
document.querySelectorAll('button').forEach((b) => b.addEventListener('click', () => say({ days: Number(b.value) })));`;

/** Where Shelfmoor's files are brought, and the fingerprint of its host. */
export interface SftpDoor {
  port: number;
  fingerprint: string;
}

/** Reports of the months that have ended, for those who fetch them by hand. */
function salesOf(house: House): string {
  const months = endedMonths(house);
  if (months.length === 0)
    return '<h2>Sales reports</h2><p>The first one comes when the month has ended.</p>';
  const rows = months.map((month) => {
    const links = SHOPS.map((id) => `<a href="/sales/${id}/${month}">${SHOPS_OPEN[id].name}</a>`);
    return `<tr><th scope="row">${month}</th><td>${links.join(', ')}</td></tr>`;
  });
  return `<h2>Sales reports</h2><table><tbody>${rows.join('')}</tbody></table>`;
}

export function pageOf(house: House, { port, fingerprint }: SftpDoor): Reply {
  const rows = SHOPS.map((id) => {
    const key = id === 'shelfmoor' ? `${house.accounts[id]}@${fingerprint}` : house.accounts[id];
    const options = WEATHERS.map(
      (w) => `<option${w === house.weatherAt(id) ? ' selected' : ''}>${w}</option>`,
    ).join('');
    const { name } = SHOPS_OPEN[id];
    return `<tr><th scope="row">${name}</th><td><code>${escaped(key)}</code></td><td><select name="${id}" aria-label="Weather at ${name}">${options}</select></td><td>${house.booksAt(id).length}</td></tr>`;
  });
  const body = `<!doctype html><html lang="en"><meta charset="utf-8"><title>Simulated outlets</title><style>${STYLE}</style>
<h1>Simulated outlets</h1>
<p>These shops are invented and run on this computer. Copy the key of an account into Pagina’s Imprint page to connect it.</p>
<p>It is ${house.dateOf(house.day)}, day ${house.day}. <button value="1">Advance one day</button> <button value="7">Advance seven days</button></p>
<table><thead><tr><th>Outlet</th><th>Key of your account</th><th>Its connection today</th><th>Books</th></tr></thead><tbody>${rows.join('')}</tbody></table>
<p>Shelfmoor is reached over SFTP at port ${port}.</p>${salesOf(house)}<script>${SCRIPT}</script></html>`;
  return { status: 200, headers: { 'Content-Type': 'text/html; charset=utf-8' }, body };
}
