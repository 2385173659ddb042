import type { BooksSetup } from '@zubrell/contract/books';
import type { DeskLine, LaneCounts, Stack } from '@zubrell/contract/desk';
import { proposedCoding } from '@zubrell/core/propose/proposal';
import { daysOf } from '@zubrell/demo/days';
import type { Business } from '@zubrell/demo/scenario/business';
import { lastMonth } from '@zubrell/demo/scenario/files';
import { larkmoor } from '@zubrell/demo/scenario/larkmoor';
import { type MadeLine, makeLines } from '@zubrell/demo/scenario/makeLines';
import { seedBusiness } from '@zubrell/demo/seed';
import { type Browser, By, Key } from '@zubrell/e2e/browser';
import { clockFixedAt } from '@zubrell/server/clock';
import { openReaderPool } from '@zubrell/server/modules/intake/readInThread';
import { makeBenchBooks } from './benchBooks.ts';
import { inBrowser, type Opened } from './inBrowser.ts';
import { sized } from './sized.ts';

/** So many times as much comes in as in the demo, for a month of about 500 lines. */
const BUSIER = sized(3.4, 1);
const FIRST = sized('2025-09', '2026-01');
const AIM = 0.35;

/**
 * A clean month of the demo's studio at its busiest, coded as it really is from the first screen to none
 * open, by keys alone: how many presses a line takes. A chord such as Shift Enter is one press, each letter
 * typed is one.
 */
export async function cleanMonth(): Promise<string> {
  const business = busier();
  const books = await makeBenchBooks();
  const readers = openReaderPool();
  const { database, owner, actor } = books;
  const clock = clockFixedAt('2026-04-08');
  try {
    const { readFile } = readers;
    const booksId = await seedBusiness(
      { database, at: daysOf(owner), actor, readFile },
      business,
      FIRST,
    );
    return await inBrowser({ clock, database }, actor.userId, async ({ url, browser, headers }) => {
      const place = `${url}/api/books/${booksId}`;
      const typist = makeTypist(browser, place, headers, makeLines(business, FIRST, lastMonth));
      await browser.go(`/books/${booksId}/desk?lane=ready`);
      await browser.find('.desk-row.stack');
      const lines = openOf(await typist.lanes());
      const swept = await typist.sweep();
      await typist.lane('2', 'check');
      await typist.lane('3', 'blank');
      const left = openOf(await typist.lanes());
      const each = typist.presses() / lines;
      return (
        `a clean month of ${lines} lines: ${swept} swept, ${typist.presses()} key presses, ` +
        `${each.toFixed(3)} a line (aim: under ${AIM})  ${each < AIM && left === 0 ? 'met' : 'NOT MET'}` +
        `${left === 0 ? '' : `, ${left} still open`}\n`
      );
    });
  } finally {
    await readers.close();
    await books.drop().catch(() => undefined);
  }
}

function busier(): Business {
  const scaled = (most: number) => (most > 2 ? Math.round(most * BUSIER) : most);
  return {
    ...larkmoor,
    oddFiles: () => [],
    patterns: larkmoor.patterns.map((pattern) => {
      const [least, most] = pattern.perMonth;
      return { ...pattern, perMonth: [scaled(least), scaled(most)] as const };
    }),
  };
}

const openOf = ({ ready, check, blank, asked }: LaneCounts) => ready + check + blank + asked;

/** Somebody who codes lines as they really are, by keys, which are counted. */
interface Typist {
  readonly presses: () => number;
  readonly lanes: () => Promise<LaneCounts>;
  /** @returns how many lines were swept */
  readonly sweep: () => Promise<number>;
  /** Goes to a lane by its key and codes all of it. */
  readonly lane: (key: string, lane: 'check' | 'blank') => Promise<void>;
}

function makeTypist(
  browser: Browser,
  place: string,
  headers: Opened['headers'],
  made: readonly MadeLine[],
): Typist {
  let count = 0;
  const get = async <T>(path: string): Promise<T> =>
    (await fetch(`${place}/${path}`, { headers })).json() as Promise<T>;
  const lanes = () => get<LaneCounts>('lanes');
  const truths = new Map(made.map((line) => [`${line.date} ${line.amount} ${line.wording}`, line]));

  async function press(...keys: readonly string[]): Promise<void> {
    count += keys.length;
    for (const key of keys) await browser.keys(key);
  }
  async function pressShift(key: string): Promise<void> {
    count += 1;
    await browser.shift(key);
  }
  const type = (text: string) => press(...text);

  function truthOf({ date, amount, description }: DeskLine): MadeLine['truth'] {
    const line = truths.get(`${date} ${amount} ${description}`);
    if (!line) throw new Error(`nobody knows what ${description} was`);
    return line.truth;
  }

  /** Waits until fewer lines are open than before. */
  async function settled(before: number): Promise<void> {
    for (let look = 0; look < 100; look += 1) {
      if (openOf(await lanes()) < before) {
        await pause(250);
        return;
      }
      await pause(50);
    }
    throw new Error('nothing was posted');
  }

  const isOpen = async (label: string) => {
    const css = `.desk-row.stack.current input[aria-label=${label}]`;
    return (await browser.driver.findElements(By.css(css))).length > 0;
  };

  /** Types into a field of the current stack; opens it by its key where the focus is elsewhere. */
  async function fill(key: string, label: string, text: string): Promise<void> {
    if (!(await isOpen(label))) {
      const isTyping = (await isOpen('Account')) || (await isOpen('Tax'));
      await press(...(isTyping ? [Key.ESCAPE] : []), key);
    }
    await browser.find(`input[aria-label=${label}]`);
    await pause(60);
    await type(text);
    await press(Key.ENTER);
    await pause(120);
  }

  /** What stands in a field of the current stack. */
  async function shown(label: string): Promise<string> {
    const cell = await browser.find(
      `.desk-row.stack.current :is([aria-label^="${label}: "], input[aria-label=${label}])`,
    );
    const name = (await cell.getAttribute('aria-label')) ?? '';
    if (name === label) return (await cell.getAttribute('value')) ?? '';
    return name.slice(label.length + 2).replace(/^empty$/, '');
  }

  /** Makes a payee by the name that is offered for the wording. */
  async function makePayee(): Promise<void> {
    await press('p');
    await browser.find('input[aria-label=Payee]');
    await pause(60);
    await press(Key.ARROW_DOWN, Key.ENTER);
    await browser.see('Made the payee');
    await pause(150);
  }

  /** Codes the current stack, whose lines are all of one kind, and posts it. */
  async function codeStack({ payee, account, tax }: MadeLine['truth']): Promise<void> {
    const { payees } = await get<BooksSetup>('setup');
    if (payee !== null && (await shown('Payee')) !== payee) {
      if (payees.some(({ name }) => name === payee)) await fill('p', 'Payee', payee.slice(0, 4));
      else await makePayee();
    }
    if (!(await shown('Account')).startsWith(account)) await fill('a', 'Account', account);
    if ((await shown('Tax')) !== (tax ?? '')) await fill('t', 'Tax', (tax ?? '').replace(' %', ''));
    else if (await isOpen('Tax')) await press(Key.ENTER);
    const before = openOf(await lanes());
    await pressShift(Key.ENTER);
    await settled(before);
  }

  /** Codes the lines of the current stack one by one. */
  async function codeLines(lines: readonly DeskLine[]): Promise<void> {
    await press(Key.ARROW_RIGHT);
    await browser.find('.desk-row.line');
    await press('j');
    for (const line of lines) {
      const truth = truthOf(line);
      const accounts = (await get<BooksSetup>('setup')).accounts;
      const proposed = proposedCoding(line.proposal)?.parts[0]?.accountId;
      const code = accounts.find(({ id }) => id === proposed)?.code;
      if (code !== truth.account) await press('n');
      const before = openOf(await lanes());
      await pause(80);
      await press(Key.ENTER);
      await settled(before);
    }
  }

  return {
    presses: () => count,
    lanes,
    sweep: async () => {
      const before = openOf(await lanes());
      await press('w');
      await browser.find('[role=dialog] .btn-main:not([disabled])');
      await pause(100);
      await press(Key.ENTER);
      await settled(before);
      return before - openOf(await lanes());
    },
    lane: async (key, lane) => {
      await press(key);
      await pause(400);
      for (;;) {
        const { stacks } = await get<{ stacks: Stack[] }>(
          `stacks?lane=${lane}&grouping=lookAlikes`,
        );
        const [stack] = stacks;
        if (!stack) return;
        await browser.find('.desk-row.stack.current');
        const query = new URLSearchParams({
          lane,
          grouping: stack.grouping,
          key: stack.key,
          direction: stack.direction,
        });
        const { lines } = await get<{ lines: DeskLine[] }>(`stack-lines?${query}`);
        const kinds = new Map(lines.map((line) => [JSON.stringify(truthOf(line)), truthOf(line)]));
        const [truth] = kinds.values();
        if (kinds.size === 1 && truth) await codeStack(truth);
        else await codeLines(lines);
      }
    },
  };
}

const pause = (milliseconds: number) => new Promise((done) => setTimeout(done, milliseconds));
