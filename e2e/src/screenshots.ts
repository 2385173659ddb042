import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { dataFolder } from '@zubrell/server/config';
import { projectFolder } from '@zubrell/server/projectFolder';
import { type Browser, Key, openBrowser } from './browser.ts';

// Takes the pictures in docs/screenshots of the running demo: npm run demo -- --fresh, then this.

const folder = join(projectFolder, 'docs', 'screenshots');
const state: { readonly server: { readonly url: string } } = JSON.parse(
  readFileSync(join(dataFolder(process.env), 'demo.json'), 'utf8'),
);
const browser = await openBrowser(state.server.url);
/** Long enough for data, fonts and toasts to settle. */
const SETTLE = 900;

async function take(name: string): Promise<void> {
  await new Promise((done) => setTimeout(done, SETTLE));
  writeFileSync(join(folder, `${name}.png`), await browser.picture());
}

async function chooseFile(name: string): Promise<void> {
  const input = await browser.find('input[type=file]');
  await input.sendKeys(join(projectFolder, 'demo', 'files', name));
  await browser.see('Preview');
}

/** The address of the pairing view for an open line. */
async function pairingOf(wording: string): Promise<string> {
  const books = new URL(await browser.driver.getCurrentUrl()).pathname.split('/desk')[0];
  const found: { readonly id: string } = await browser.driver.executeAsyncScript(
    `fetch('/api${books}/found-lines?search=${encodeURIComponent(wording)}')
      .then((answer) => answer.json()).then(({ lines }) => arguments[0](lines[0]));`,
  );
  return `${books}/desk/pairing?line=${found.id}`;
}

async function views({ go, press, see, keys, driver }: Browser): Promise<void> {
  await go('/');
  await see('Sign in as Mo Oakes');
  await take('sign-in');
  await press('Sign in as Mo Oakes');
  await see('Fennick Canoe Hire');
  await take('books');
  await press('Larkmoor Kiln Works');
  await see('Continue on the Desk');
  await take('board');
  await press('Desk');
  await see('Hedgerow Cards');
  await take('desk');
  await keys('2');
  await see('its rule contradicts past coding');
  await (await browser.find('button[aria-label^="Open Brindle"]')).click();
  await see('BRINDLE FOODS');
  await keys(Key.ARROW_DOWN);
  await take('desk-check');
  await driver.executeScript("document.documentElement.dataset.bsTheme = 'dark'");
  await take('desk-dark');
  await driver.executeScript("document.documentElement.dataset.bsTheme = 'light'");
  await keys('2');
  await see('another entry fits');
  await go(await pairingOf('NETTLE THREAD LTD'));
  await see('What pairing does');
  await take('pairing');
  await press('Ledger');
  await press('Invoices');
  await press('Invoice 1050');
  await see('Credit note');
  await take('invoices');
  await press('Intake');
  await see('Import history');
  await take('intake');
  await chooseFile('studio-card-april-with-errors.csv');
  const accounts = await browser.find('#goes-to');
  await accounts.sendKeys('Studio');
  await take('intake-preview');
  await press('Cancel');
  await press('Rules');
  await see('coded the same');
  await press('Owner’s groceries');
  await see('you coded differently');
  await see('rule 1, changed');
  await take('rules');
  await press('Habits');
  await press('Tidemark Freight');
  await see('Wordings');
  await take('habits');
  await press('Reports');
  await see('6010 Freight out');
  await take('profit');
  await press('Balance sheet');
  await see('Result of the year');
  await take('balance-sheet');
  await press('Tax return');
  await see('Unexplained');
  await take('tax-return');
  await press('Ledger');
  await press('Freight out');
  await press('TIDEMARK FRT');
  await see('From the bank’s line');
  await take('ledger');
  await press('Statements');
  await see('Studio card');
  await (await browser.find('.statement-list a[href$="/2026-03-08"]')).click();
  await see('What would explain');
  await take('statement');
  await go(
    `${new URL(await driver.getCurrentUrl()).pathname.split('/statements')[0]}/close/2026-03`,
  );
  await see('What closing does');
  await take('close');
  const address = new URL(await driver.getCurrentUrl());
  await go(address.pathname.replace('/close/2026-03', '/settings'));
  await see('Required fields');
  await take('settings');
}

mkdirSync(folder, { recursive: true });
await views(browser);
await browser.close();
