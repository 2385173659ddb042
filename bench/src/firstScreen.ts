import { existsSync, statSync } from 'node:fs';
import { join } from 'node:path';
import type { Browser } from '@zubrell/e2e/browser';
import { clockFixedAt } from '@zubrell/server/clock';
import { projectFolder } from '@zubrell/server/projectFolder';
import { makeBenchBooks } from './benchBooks.ts';
import { inBrowser } from './inBrowser.ts';

const AIM = 200;
const WEB = join(projectFolder, 'web', 'dist');
const services = { clock: clockFixedAt('2026-04-08') };

/** What a browser that has nothing yet has to load before each of the first screens stands, compressed. */
export async function firstScreen(): Promise<string> {
  const books = await makeBenchBooks();
  const { database, booksId, actor } = books;
  try {
    return await inBrowser(
      { ...services, database },
      actor.userId,
      async ({ browser, headers }) => {
        const [name = '', value = ''] = headers.cookie.split('=');
        const screens = [
          ['signing in', '/sign-in', 'Password'],
          ['the list of books', '/', 'Larkmoor Kiln Works'],
          ['the Board', `/books/${booksId}/board`, 'Import a bank or card file'],
          ['the Desk', `/books/${booksId}/desk`, 'Ready'],
        ] as const;
        const said: string[] = [];
        for (const [screen, path, sign] of screens) {
          await browser.driver.manage().deleteAllCookies();
          if (path !== '/sign-in') await browser.driver.manage().addCookie({ name, value });
          await browser.go(path);
          await browser.see(sign);
          const { code, fonts } = await loaded(browser);
          const met = code < AIM ? 'met' : 'NOT MET';
          said.push(
            `  ${screen}: ${code.toFixed(0)} kB (aim: under ${AIM})  ${met}, and ${fonts.toFixed(0)} kB of fonts`,
          );
        }
        return `compressed code and styles of the first screens\n${said.join('\n')}\n`;
      },
    );
  } finally {
    await books.drop().catch(() => undefined);
  }
}

/** What the page that stands was made of, in kilobytes: as the server keeps it compressed, and fonts as they are. */
async function loaded({
  driver,
}: Browser): Promise<{ readonly code: number; readonly fonts: number }> {
  const paths: string[] = await driver.executeScript(
    `return performance.getEntriesByType('resource').map(({ name }) => new URL(name).pathname)`,
  );
  const sizes = { code: statSync(join(WEB, 'index.html.br')).size, fonts: 0 };
  for (const path of new Set(paths)) {
    if (!path.startsWith('/assets/')) continue;
    const file = join(WEB, path);
    const compressed = `${file}.br`;
    if (existsSync(compressed)) sizes.code += statSync(compressed).size;
    else sizes.fonts += statSync(file).size;
  }
  return { code: sizes.code / 1_000, fonts: sizes.fonts / 1_000 };
}
