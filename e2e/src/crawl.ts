import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { dataFolder } from '@zubrell/server/config';
import axe from 'axe-core';
import { type Browser, Key, openBrowser } from './browser.ts';

// Goes to every screen of the running demo and opens every dialog, and names what is wrong with any of them:
// npm run demo, then this; with --dark in the dark theme. Nothing is changed in the demo but what opening alone does.

const state: { readonly server: { readonly url: string } } = JSON.parse(
  readFileSync(join(dataFolder(process.env), 'demo.json'), 'utf8'),
);
const browser = await openBrowser(state.server.url);
/** Long enough for data, fonts and dialogs to settle. */
const SETTLE = 700;
/** So many times more it is waited for what is still fetched: what stays so is found wrong. */
const MOST_ROUNDS = 10;

/** How long the first screen may take, in milliseconds. */
const PATIENCE = 30_000;

/** A place to look at, and how to get there from the screen before. */
type Place = readonly [name: string, go: (browser: Browser) => Promise<unknown>];

const press =
  (...buttons: readonly string[]) =>
  async (on: Browser): Promise<void> => {
    for (const button of buttons) await on.press(button);
  };
const keys =
  (...pressed: readonly string[]) =>
  async (on: Browser): Promise<void> => {
    for (const key of pressed) await on.keys(key);
  };

function places(books: string): readonly Place[] {
  const at =
    (path: string) =>
    (on: Browser): Promise<void> =>
      on.go(`${books}/${path}`);
  const then =
    (path: string, more: (on: Browser) => Promise<unknown>) =>
    async (on: Browser): Promise<void> => {
      await at(path)(on);
      await settle();
      await more(on);
    };
  return [
    ['all books', (on) => on.go('/')],
    ['account', (on) => on.go('/account')],
    ['board', at('board')],
    ['jump to', then('board', keys(Key.chord(Key.CONTROL, 'k')))],
    ['desk, ready', at('desk?lane=ready')],
    ['desk, keys', then('desk?lane=ready', keys('?'))],
    ['desk, sweep', then('desk?lane=ready', keys('w'))],
    ['desk, exclude', then('desk?lane=ready', keys(Key.ARROW_DOWN, 'x'))],
    ['desk, ask', then('desk?lane=ready', keys(Key.ARROW_DOWN, 'q'))],
    ['desk, split', then('desk?lane=ready', keys(Key.ARROW_DOWN, Key.ARROW_RIGHT, 's'))],
    ['desk, proof', then('desk?lane=ready', press('why?'))],
    ['desk, not yet at the bank', then('desk?lane=ready', press('Not yet at the bank'))],
    ['desk, check', at('desk?lane=check')],
    ['desk, blank', at('desk?lane=blank')],
    ['desk, asked', at('desk?lane=asked')],
    ['desk, decided', then('desk?lane=decided', keys(Key.ARROW_DOWN))],
    ['intake', at('intake')],
    ['batch', then('intake', openFirst('a[href*="/intake/"]'))],
    ['batch, take back', press('Undo import')],
    ['rules', at('rules')],
    ['rules, import', then('rules', press('Import'))],
    ['rule', then('rules', openFirst('a[href*="/rules/"], .rule-row button'))],
    ['habits', at('habits')],
    ['habit', then('habits', press('Tidemark Freight'))],
    ['profit and loss', at('reports')],
    ['profit and loss, figure', then('reports', openFirst('.report-table button'))],
    ['balance sheet', at('reports/balance-sheet')],
    ['balance sheet, figure', openFirst('.report-table button')],
    ['trial balance', at('reports/trial-balance')],
    ['cash', at('reports/cash')],
    ['cash, figure', openFirst('.report-table button')],
    ['receivables', at('reports/receivables')],
    ['statement of account', at('reports/customer')],
    ['payables', at('reports/payables')],
    ['payables, figure', openFirst('.report-table button')],
    ['by payee', at('reports/payees')],
    ['by payee, figure', openFirst('.report-table button')],
    ['by cost centre', at('reports/cost-centres')],
    ['by job', at('reports/jobs')],
    ['costs to recharge', at('reports/recharges')],
    ['owners’ money', at('reports/owners')],
    ['owners’ money, figure', openFirst('.report-table button')],
    ['clients’ money', at('reports/client-money')],
    ['clients’ money, figure', openFirst('.report-table button')],
    ['hand over', at('reports/hand-over')],
    ['general ledger', at('reports/general-ledger')],
    ['journal', at('reports/journal')],
    ['tax return', at('reports/tax')],
    ['tax return, figure', openFirst('.report-table button')],
    ['suspense', at('reports/suspense')],
    ['statements by state', at('reports/statements')],
    ['coding record', at('reports/coding')],
    ['statements', at('statements')],
    ['statements, cycle', then('statements', press('Change cycle'))],
    ['statement', then('statements', openFirst('.statement-list a'))],
    ['statement, closing balance', press('57,142.86')],
    ['statement of a card', then('statements', openFirst('a[href$="/2026-03-08"]'))],
    ['statement, by cardholder', press('By cardholder')],
    ['cardholder, name', press('Change name')],
    ['close', at('close/2026-03')],
    ['close, sample', at('close/2026-03?sample=open')],
    ['ledger', at('ledger')],
    ['ledger, account', then('ledger', press('Freight out'))],
    ['ledger, merge', press('Merge')],
    ['entries', at('ledger/entries')],
    ['entries, new', then('ledger/entries', press('New'))],
    ['entries, paid privately', then('ledger/entries', press('New', 'Cost paid privately'))],
    ['recurring', at('ledger/recurring')],
    ['recurring, new', press('New recurring journal')],
    ['bills', at('ledger/bills')],
    ['bills, new', then('ledger/bills', press('New'))],
    ['bills, import', then('ledger/bills', press('Import bills'))],
    ['invoices', at('ledger/invoices')],
    ['exchange rates', at('ledger/exchange-rates')],
    ['exchange rates, import', then('ledger/exchange-rates', press('Import rates'))],
    ['ledger, dollar account', then('ledger', press('Dollar account'))],
    ['payees', at('ledger/payees')],
    ['payees, terms', then('ledger/payees', press('Set terms'))],
    ['payees, own accounts', then('ledger/payees', press('Own accounts'))],
    ['ledger, clients’ money', then('ledger', press('Commission deposits'))],
    ['tax codes', at('ledger/tax-codes')],
    ['tax codes, new', then('ledger/tax-codes', press('New tax code'))],
    ['history', at('history')],
    ['settings', at('settings')],
    ['access record', then('record', press('Check for changes'))],
    ['questions', at('questions')],
  ];
}

const openFirst = (css: string) => async (on: Browser) => (await on.find(css)).click();

/** Waits a moment, and then for what is still fetched. */
async function settle(): Promise<void> {
  const pause = () => new Promise((done) => setTimeout(done, SETTLE));
  const isWaiting = () =>
    browser.driver.executeScript<boolean>("return document.querySelector('.waiting') !== null");
  await pause();
  for (let round = 0; round < MOST_ROUNDS && (await isWaiting()); round += 1) await pause();
}

/** What is wrong with what the browser shows now. */
async function wrong(): Promise<string[]> {
  const { driver } = browser;
  const logs = await driver.manage().logs().get('browser');
  const said = logs
    .filter(({ level }) => level.name === 'SEVERE')
    .map(({ message }) => `console: ${message.slice(0, 200)}`);
  const width: number = await driver.executeScript('return document.documentElement.scrollWidth');
  const wide = width > 1280 ? [`${width} pixels wide`] : [];
  const alerts: string[] = await driver.executeScript(
    "return [...document.querySelectorAll('.error-note')].map((note) => note.textContent)",
  );
  await driver.executeScript(axe.source);
  const found: axe.Result[] = await driver.executeAsyncScript(
    'const done = arguments[arguments.length - 1];' +
      'axe.run().then(({ violations }) => done(violations));',
  );
  return [
    ...said,
    ...wide,
    ...alerts.map((text) => `error: ${text}`),
    ...found.map(
      ({ id, nodes }) => `${id}, ${nodes.length} times: ${nodes[0]?.html.slice(0, 200)}`,
    ),
  ];
}

/** Where a dialog is open: it closes at the first Esc, and the focus goes back to where it was. */
async function leaveDialog({ driver, keys: send }: Browser): Promise<string[]> {
  const isOpen = () =>
    driver.executeScript<boolean>('return document.querySelector("[role=dialog]") !== null');
  if (!(await isOpen())) return [];
  await send(Key.ESCAPE);
  await settle();
  if (await isOpen()) return ['Esc does not close it'];
  const isLost: boolean = await driver.executeScript(
    'return document.activeElement === null || document.activeElement === document.body',
  );
  return isLost ? ['the focus is lost after it'] : [];
}

async function crawl({ go, see, press: pressOn, driver }: Browser): Promise<number> {
  await go('/');
  await see('Sign in as Mo Oakes');
  const theme = process.argv.includes('--dark') ? 'dark' : 'light';
  await driver.executeScript(`localStorage.setItem('zubrell-theme', '${theme}')`);
  await pressOn('Sign in as Mo Oakes');
  await see('Fennick Canoe Hire');
  await pressOn('Larkmoor Kiln Works');
  // The list of books may say what the Board does: the address tells that the Board is there.
  await driver.wait(async () => (await driver.getCurrentUrl()).endsWith('/board'), PATIENCE);
  await see('Needs you');
  const { pathname } = new URL(await driver.getCurrentUrl());
  let faults = 0;
  for (const [name, open] of places(pathname.replace(/\/board$/, ''))) {
    const failed = await open(browser).then(
      () => [],
      (error: Error) => [`not reached: ${error.message.split('\n')[0]}`],
    );
    await settle();
    const found = [...failed, ...(await wrong()), ...(await leaveDialog(browser))];
    faults += found.length;
    process.stdout.write(`${name}: ${found.length === 0 ? 'well' : ''}\n`);
    for (const each of found) process.stdout.write(`  ${each}\n`);
  }
  return faults;
}

process.exitCode = (await crawl(browser)) === 0 ? 0 : 1;
await browser.close();
