import { chromium } from 'playwright-core';
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox','--disable-gpu','--no-first-run','--disable-background-networking','--disable-component-update','--disable-sync'] });
const p = await b.newPage({ viewport: { width: 1280, height: 800 } });
const S = process.argv[2].split(',');
for (const f of S) {
  await p.goto('http://localhost:4310/titles');
  await p.setInputFiles('input[aria-label="Manuscript file"]', f);
  await p.waitForURL(/\/order$/, { timeout: 60000 });
  await p.waitForSelector('[data-intake]');
  await p.waitForTimeout(700);
  const n = f.split('/').pop();
  await p.screenshot({ path: `/tmp/shots/${n}.png` });
  if (process.argv[3] === 'text') {
    await p.getByRole('button', { name: 'Accept the order' }).click();
    await p.waitForTimeout(500);
    await p.screenshot({ path: `/tmp/shots/${n}-order.png` });
    const id = new URL(p.url()).pathname.split('/')[2];
    await p.goto(`http://localhost:4310/titles/${id}/manuscript`);
    await p.waitForTimeout(2500);
    await p.screenshot({ path: `/tmp/shots/${n}-text.png` });
  }
}
await b.close();
