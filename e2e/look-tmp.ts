import { chromium } from '@playwright/test';
import { serve } from '../server/src/serve';
import { CHROMIUM } from './chromium';
const ending = new AbortController();
const base = await serve(0, ending.signal);
const browser = await chromium.launch(CHROMIUM);
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.on('pageerror', (e) => console.log('ERR', e.message));
page.setDefaultTimeout(90000);
await page.goto(base);
for (const [i, name] of ['Lid knob', 'Puffed skep', 'Springs of a lid', 'Pair of stand legs'].entries()) {
  await page.getByLabel(`Open ${name}`).click();
  await page.locator('aside [data-result]').first().waitFor();
  await page.waitForTimeout(9000);
  await page.screenshot({ path: `/tmp/look/d${i}.png` });
  await page.getByRole('link', { name: 'Shelf' }).click();
}
await browser.close(); ending.abort(); process.exit(0);
