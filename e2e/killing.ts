/** Ends a browser as a power switch would. */
import type { BrowserContext } from '@playwright/test';
import { readFileSync, readdirSync } from 'node:fs';

/** Ends every process of the browser of that profile at once. */
export async function killBrowser(profile: string, context: BrowserContext): Promise<void> {
  for (const pid of readdirSync('/proc').filter((name) => /^\d+$/.test(name)))
    try {
      if (readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(profile))
        process.kill(Number(pid), 'SIGKILL');
    } catch {
      // It is gone already.
    }
  await context.close().catch(() => undefined);
}
