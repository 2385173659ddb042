import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ofxFile } from '@zubrell/server/testing/files';
import axe from 'axe-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Browser, Key, openBrowser } from './browser.ts';
import { startTestServer, type TestServer } from './testServer.ts';

let server: TestServer;
let browser: Browser;

beforeAll(async () => {
  server = await startTestServer();
  browser = await openBrowser(server.url);
});
afterAll(async () => {
  await browser?.close();
  await server?.stop();
});

const folder = mkdtempSync(join(tmpdir(), 'zubrell files '));

function file(name: string, content: string): string {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
}

const march = file(
  'march.ofx',
  ofxFile(
    [
      { date: '2026-03-03', amount: '-48.50', text: 'CRD PUR TIDEMARK FRT 20318' },
      { date: '2026-03-06', amount: '-39.20', text: 'CRD PUR TIDEMARK FRT 20344' },
      { date: '2026-03-17', amount: '-41.70', text: 'CRD PUR TIDEMARK FRT 20391' },
      { date: '2026-03-20', amount: '640.00', text: 'NETTLE AND THREAD' },
    ],
    '1510.60',
  ),
);
const torn = file(
  'torn.csv',
  'Date;Details;Amount\n03.03.2026;Clay;-1,50\n31.02.2026;Parcel locker;-6,90\n',
);

/** Everything is explained, to the cent. */
async function seeProved(): Promise<void> {
  await browser.see('Unexplained 0.00 ✓');
}

/** Nothing on the page that would keep people with a screen reader out. */
async function expectAccessible(): Promise<void> {
  await browser.driver.executeScript(axe.source);
  const found: axe.Result[] = await browser.driver.executeAsyncScript(
    'const done = arguments[arguments.length - 1];' +
      'axe.run().then(({ violations }) => done(violations));',
  );
  const serious = found.filter(({ impact }) => impact === 'serious' || impact === 'critical');
  expect(serious.map(({ id, nodes }) => `${id}: ${nodes[0]?.html}`)).toEqual([]);
}

async function chooseFile(path: string): Promise<void> {
  const input = await browser.find('input[type=file]');
  await input.sendKeys(path);
}

describe('from a bank file to proved books and back', () => {
  it('makes the first user and new books', async () => {
    await browser.go('/');
    await browser.see('You are the first.');
    await expectAccessible();
    await browser.type('Set-up code', server.setUpCode);
    await browser.type('Your name', 'Mo Oakes');
    await browser.type('E-mail address', 'mo@larkmoor.example');
    await browser.type('Password', 'clay and glaze');
    await browser.press('Begin');
    await browser.see('No books yet');
    await browser.press('New books');
    await browser.type('Name of the business', 'Larkmoor Kiln Works');
    await browser.press('Create books');
    await browser.see('Set up Larkmoor Kiln Works');
    await browser.press('Import a file');
    await browser.see('No files imported yet.');
  });

  it('refuses a torn file with its place, and keeps nothing of it', async () => {
    await chooseFile(torn);
    await browser.see('31 February doesn’t exist.');
    await browser.see('Row 3');
    await browser.press('Cancel');
    await browser.see('No files imported yet.');
  });

  it('imports a file into a bank account made for it, with its opening balance', async () => {
    await chooseFile(march);
    await browser.see('Preview');
    await expectAccessible();
    await browser.type('Name', 'Everyday');
    await browser.press('Create bank account');
    await browser.see('The opening balance of 1,000.00 on 02 Mar is posted with it.');
    await browser.press('Import 4 lines');
    await browser.see('Tidemark FRT');
    await seeProved();
    await expectAccessible();
  });

  it('codes and posts a stack with the keyboard alone', async () => {
    await browser.keys('p');
    await browser.find('input[aria-label=Payee]');
    await browser.keys('Tidemark Freight', Key.ENTER);
    await browser.see('Created payee Tidemark Freight');
    await browser.find('input[aria-label=Account]');
    await browser.keys('freight', Key.ENTER);
    await browser.find('input[aria-label=Tax]');
    await browser.keys('20', Key.ENTER);
    await browser.see('Post the 3 lines');
    await browser.keys(Key.ENTER);
    await browser.see('Posted 3 lines of Tidemark Freight to 6010 Freight out');
    await browser.seeNoMore('Tidemark FRT');
    await seeProved();
  });

  it('shows them in the register, each entry with its legs and its line', async () => {
    await browser.press('Ledger');
    await browser.press('Freight out');
    await browser.see('107.84');
    await expectAccessible();
    await browser.press('CRD PUR TIDEMARK FRT 20318');
    await browser.see('From the bank’s line');
    await browser.see('8.08');
    await expectAccessible();
  });

  it('brings nothing in when the same file comes again', async () => {
    await browser.press('Intake');
    await chooseFile(march);
    await browser.see('Every line of this file is already imported.');
    await browser.press('Mark as imported');
    await browser.see('has no new lines');
  });

  it('takes the posting back, with its coding as a draft, and does it again', async () => {
    await browser.press('History');
    await browser.press('Undo: Posted 3 lines of Tidemark Freight to 6010 Freight out');
    await browser.see('Undid: Posted 3 lines of Tidemark Freight to 6010 Freight out');
    await expectAccessible();
    await browser.press('Desk');
    await browser.find('[role=treegrid]');
    await browser.keys('3');
    await browser.see('Account: 6010 Freight out');
    await browser.see('Tax: 20 %');
    await seeProved();
    await browser.shift('z');
    await browser.see('Redid: Posted 3 lines of Tidemark Freight to 6010 Freight out');
    await browser.seeNoMore('Account: 6010 Freight out');
    await seeProved();
  });

  it('keeps no real line out of the books, and says why', async () => {
    await browser.see('Nettle And Thread');
    await browser.keys('x');
    await browser.see('No other line of this account has the same amount within a month.');
    await browser.see('No open line of the opposite amount corrects this one.');
    await expectAccessible();
    await browser.keys(Key.ESCAPE);
    await browser.seeNoMore('No open line of the opposite amount corrects this one.');
    await browser.see('Nettle And Thread');
    await seeProved();
  });

  it('connects the bank, with its consent, and fetches what came since', async () => {
    await browser.press('Intake');
    await browser.press('Connect Wick & Alder');
    await browser.see('It can’t move money.');
    await browser.type('Customer', 'mo');
    await browser.type('Secret', 'clay');
    await browser.press('Sign in');
    await browser.see('which accounts?');
    await browser.press('Allow');
    await browser.see('1 new of 1 line; the balance agrees');
    await browser.see('1 announced, not booked yet');
    await expectAccessible();
    await browser.press('Board');
    await browser.see('feed of 08 Apr');
    await expectAccessible();
  });

  it('enters an invoice, pairs the line that pays it with it, and gives both back', async () => {
    await browser.press('Ledger');
    await browser.press('Invoices');
    await browser.press('New invoice');
    await browser.see('Enter');
    await expectAccessible();
    const customer = await browser.find('input[aria-label="Customer"]');
    await customer.sendKeys('Nettle and Thread', Key.ENTER);
    await browser.see('Created payee Nettle and Thread');
    await browser.type('Number', '1042');
    await (await browser.find('input[aria-label="Account of line 1"]')).sendKeys('4010', Key.ENTER);
    await (await browser.find('input[aria-label="Amount of line 1"]')).sendKeys('646.80', Key.TAB);
    await browser.press('Save invoice');
    await browser.see('Entered invoice 1042');
    await browser.press('Desk');
    await browser.find('[role=treegrid]');
    await browser.keys('3');
    await browser.see('Why it is Blank');
    await browser.see('Nettle And Thread');
    await browser.keys('=');
    await browser.see('Near misses');
    await expectAccessible();
    // The bank moved 6.80 less than the invoice comes to: a fee, say.
    await browser.keys(Key.SPACE);
    await browser.see('Off by 6.80');
    await (await browser.find('.difference label:last-of-type input')).click();
    await browser.see('Use it as a last resort');
    await browser.press('Pair with invoice 1042');
    await browser.see('the rest coded');
    await seeProved();
    await browser.keys('5');
    await browser.see('= Invoice 1042');
    await browser.press('Undo pairing');
    await browser.see('Reopened 1 line');
    await seeProved();
    await browser.press('Ledger');
    await browser.press('Invoices');
    await browser.press('Invoice 1042');
    await browser.press('Void invoice');
    await browser.see('Voided invoice 1042');
  });

  it('makes a rule of a line, tries it on all lines, applies it, and takes it back', async () => {
    await browser.press('Desk');
    await browser.find('[role=treegrid]');
    await browser.keys('3');
    await browser.see('Why it is Blank');
    await browser.see('Nettle And Thread');
    await browser.keys('r');
    await browser.see('still open');
    await browser.see('the account is missing');
    await expectAccessible();
    await (await browser.find('input[aria-label=Account]')).sendKeys('sales of goods', Key.ENTER);
    await browser.press('Save rule');
    await browser.see('it takes 1 line still open');
    await expectAccessible();
    await browser.press('Desk');
    await browser.find('[role=treegrid]');
    await browser.keys('1');
    await browser.see('Nettle And Thread');
    await browser.see('matches.');
    await browser.press('Rules');
    await browser.press('Habits');
    await browser.press('Tidemark Freight');
    await browser.see('Correct lines of this habit');
    await expectAccessible();
    await browser.press('Reports');
    await browser.see('Profit and loss');
    await browser.press('Balance sheet');
    await browser.see('the same as liabilities and equity');
    await expectAccessible();
    await browser.press('Coding record');
    await browser.see('Kept, of proposals seen');
    await expectAccessible();
    await browser.control('z');
    await browser.see('Undid: ');
  });

  it('asks somebody, who joins by a link, answers, and sees nothing else', async () => {
    await browser.press('Desk');
    await browser.find('[role=treegrid]');
    await browser.keys('3');
    await browser.see('Why it is Blank');
    await browser.see('Nettle And Thread');
    await browser.keys('q');
    await browser.see('Who to ask');
    await browser.type('Who to ask', 'Ina Soltveit');
    await browser.see('can’t sign in yet');
    await browser.keys(Key.ENTER);
    await browser.see('Asked Ina Soltveit about 1 line');
    const address = new URL(await browser.driver.getCurrentUrl());
    await browser.go(address.pathname.replace('/desk', '/settings'));
    await browser.see('Required fields');
    await expectAccessible();
    await browser.type('Invite', 'Ina Soltveit');
    await browser.press('Create invitation');
    const field = await browser.find('.secret-link input');
    const link = new URL((await field.getAttribute('value')) ?? '');
    await browser.driver.manage().deleteAllCookies();
    await browser.go(link.pathname);
    await browser.see('to answer questions about');
    await expectAccessible();
    await browser.type('E-mail address', 'ina@soltveit.example');
    await browser.type('Password', 'stoneware bowl');
    await browser.press('Join');
    await browser.see('Questions for you');
    await browser.see('What was this for?');
    await expectAccessible();
    await (await browser.find('textarea')).sendKeys('A wedding list.');
    await browser.press('Send answer');
    await browser.see('Answered, not settled yet');
    await browser.go(address.pathname);
    await browser.see('As client you can’t do this here');
    await browser.driver.manage().deleteAllCookies();
    await browser.go('/sign-in');
    await browser.see('Sign in');
    await browser.type('E-mail address', 'mo@larkmoor.example');
    await browser.type('Password', 'clay and glaze');
    await browser.press('Sign in');
    await browser.see('Larkmoor Kiln Works');
    await browser.go(`${address.pathname}?lane=check`);
    await browser.see('Answers received');
  });

  it('agrees a statement, closes the month with what is accepted in words, and takes it back', async () => {
    await postOpenLines();
    await browser.press('Statements');
    await browser.see('2026');
    await (await browser.find('a[href$="/2026-03-31"]')).click();
    await browser.see('In the period');
    await expectAccessible();
    const says = () => browser.find('[title="Change the closing balance"]');
    await (await says()).click();
    const field = await browser.find('#closing-balance');
    await field.sendKeys(Key.chord(Key.CONTROL, 'a'), '1.500,60', Key.ENTER);
    await browser.see('Off by 10.00');
    await browser.see('What would explain 10.00');
    await browser.seeNoMore('as the bank’s statement says');
    await (await says()).click();
    await browser.press('Use the balance from the file or feed');
    await browser.see('Ready to agree');
    await browser.press('Agree statement');
    await browser.see('Agreed');
    await browser.press('Board');
    await (await browser.find('a[href$="/close/2026-03"]')).click();
    await browser.see('Sign-off');
    await expectAccessible();
    await browser.press('Open statement');
    await browser.see('In the period');
    await browser.press('Close March 2026');
    await (await browser.find('#closing-note')).sendKeys('The receipts are on paper.');
    await browser.press('Close March 2026');
    await browser.see('March 2026 is closed.');
    await browser.press('Undo');
    await browser.see('Undid: Closed March 2026');
    await browser.seeNoMore('March 2026 is closed.');
  });
});

/** Posts what the tests before have left open, as a bookkeeper in another window would. */
async function postOpenLines(): Promise<void> {
  const open: number = await browser.driver.executeAsyncScript(`
    const done = arguments[arguments.length - 1];
    const api = '/api' + location.pathname.split('/').slice(0, 3).join('/');
    const ask = async (path, body) => (await fetch(api + path, body && {
      method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body),
    })).json();
    (async () => {
      const { id: accountId } = (await ask('/setup')).accounts.find(({ code }) => code === '6010');
      const part = { accountId, taxCodeId: null, share: { kind: 'rest' }, tax: null };
      for (const lane of ['ready', 'check', 'blank', 'asked']) {
        const coding = { payeeId: null, parts: [part], note: null };
        await ask('/lines/post', { target: { lane, scope: {} }, coding, isNew: true, seenStep: 1e9 });
      }
      const { ready, check, blank, asked } = await ask('/lanes');
      done(ready + check + blank + asked);
    })().catch((error) => done(String(error)));`);
  expect(open).toBe(0);
}
