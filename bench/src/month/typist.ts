import type { BooksSetup } from '@zubrell/contract/books';
import type { DeskLine, DeskLines, LaneCounts, Stack } from '@zubrell/contract/desk';
import { larkmoor } from '@zubrell/demo/scenario/larkmoor';
import type { MadeLine } from '@zubrell/demo/scenario/makeLines';
import { type Browser, By, Key } from '@zubrell/e2e/browser';
import type { BegunMonth } from './busyStudio.ts';

type Truth = MadeLine['truth'];

/** Somebody who codes lines as they really are, and whose keys and clicks are counted. */
export interface Typist {
  readonly presses: () => number;
  /** How many lines are open. */
  readonly open: () => Promise<number>;
  /** @returns how many lines were swept */
  readonly sweep: () => Promise<number>;
  /** Goes back to Ready and sweeps what has become so. */
  readonly sweepRest: () => Promise<void>;
  /** Goes to a lane by its key and codes all of it; what may be a second copy is excluded. */
  readonly lane: (key: string, lane: 'check' | 'blank') => Promise<void>;
  /** Asks about the first stacks of the Blank lane. */
  readonly ask: (count: number, whom: string) => Promise<void>;
  readonly click: (button: string) => Promise<void>;
  /** Clicks into a field and types until what is wanted stands first in its list. */
  readonly clickAndFill: (css: string, text: string) => Promise<void>;
  /** How many decided lines have another account or tax than they should. */
  readonly wrong: () => Promise<number>;
}

const openOf = ({ ready, check, blank, asked }: LaneCounts) => ready + check + blank + asked;
const pause = (milliseconds: number) => new Promise((done) => setTimeout(done, milliseconds));

/** So many other accounts are tried for a line before it is left as it is. */
const ALTERNATIVES = 3;

/** Whoever works through a month that was begun. */
export function makeTypist({ url, browser, headers, booksId, made }: BegunMonth): Typist {
  const place = `${url}/api/books/${booksId}`;
  const get = async <T>(path: string): Promise<T> =>
    (await fetch(`${place}/${path}`, { headers })).json() as Promise<T>;
  const lanes = () => get<LaneCounts>('lanes');
  const setup = () => get<BooksSetup>('setup');
  const truths = new Map(made.map((line) => [`${line.date} ${line.amount} ${line.wording}`, line]));
  const hands = makeHands(browser);
  const { press, pressShift, isOpen, fill, shown } = hands;
  /** What payees that were made by a name offered for a wording are called in the books, by what they really are. */
  const namesMade = new Map<string, string>();

  const knownTruth = ({ date, amount, description }: DeskLine): Truth | undefined =>
    truths.get(`${date} ${amount} ${description}`)?.truth;
  function truthOf(line: DeskLine): Truth {
    return knownTruth(line) ?? never(`nobody knows what ${line.description} was`);
  }

  /** Waits until fewer lines are open than before. */
  async function settled(before: number): Promise<void> {
    if (!(await isSoon(async () => openOf(await lanes()) < before))) never('nothing was posted');
    await pause(250);
  }

  /** Gives the current stack its payee; makes it where the books don't have it. */
  async function setPayee(payee: string, books: BooksSetup): Promise<void> {
    const name = namesMade.get(payee) ?? payee;
    const before = await shown('Payee');
    if (before === name) return;
    if (books.payees.some((known) => known.name === name)) {
      await fill('p', 'Payee', name, (option) => option.startsWith(name));
    } else namesMade.set(payee, await hands.makePayee(before === '' ? null : name));
  }

  /** Codes the current stack, whose lines are all of one kind, and posts it. */
  async function codeStack(truth: Truth): Promise<void> {
    const { payee, tax } = truth;
    const books = await setup();
    const account = codeOf(truth, books);
    if (payee !== null) await setPayee(payee, books);
    if (!(await shown('Account')).startsWith(account)) {
      await fill('a', 'Account', account, (option) => option.startsWith(account));
    }
    const wanted = tax ?? '';
    if ((await shown('Tax')) !== wanted) {
      await fill('t', 'Tax', wanted.replace(' %', ''), (option) => option.startsWith(wanted));
    } else if (await isOpen('Tax')) await press(Key.ENTER);
    const before = openOf(await lanes());
    await pressShift(Key.ENTER);
    await settled(before);
  }

  /** Codes the lines of the current stack one by one, by the next alternative where that is it. */
  async function codeLines(lines: readonly DeskLine[]): Promise<void> {
    await press(Key.ARROW_RIGHT);
    await browser.find('.desk-row.line');
    await press('j');
    for (const line of lines) {
      const account = codeOf(truthOf(line), await setup());
      await pause(80);
      // What was posted may have taught something that took the others elsewhere.
      if (!(await hands.isOnLine(line.description))) return;
      for (let tries = 0; tries < ALTERNATIVES; tries += 1) {
        if ((await hands.accountOfLine()).startsWith(account)) break;
        await press('n');
        await pause(80);
      }
      const before = openOf(await lanes());
      await press(Key.ENTER);
      await settled(before);
    }
  }

  /** Excludes those of the current stack's lines that are second copies, each by itself. */
  async function excludeAmong(lines: readonly DeskLine[]): Promise<void> {
    await press(Key.ARROW_RIGHT);
    await browser.find('.desk-row.line');
    await press('j');
    for (const { twiceOf } of lines) {
      if (twiceOf === null) await press('j');
      else await excludeCopies();
    }
    await press(Key.ARROW_LEFT);
    await pause(200);
  }

  /** Excludes the current row, which is of second copies only. */
  async function excludeCopies(): Promise<void> {
    const before = openOf(await lanes());
    await press('x');
    await browser.find('[role=dialog] input[type=radio]:checked');
    await pause(200);
    await press(Key.ENTER);
    await settled(before);
  }

  const stacksOf = async (lane: string) =>
    (await get<{ stacks: Stack[] }>(`stacks?lane=${lane}&grouping=lookAlikes`)).stacks;

  /** Whether the screen has this stack first and current by now; goes to the first one where another is current. */
  async function isFirst({ title }: Stack): Promise<boolean> {
    await browser.find('.desk-row.stack');
    const found = await browser.driver.findElements(
      By.css('.desk-row.stack.current[aria-rowindex="1"]'),
    );
    if (found.length === 0) {
      await press(Key.HOME);
      await pause(150);
    }
    const alike = await browser.driver.findElements(By.css('.facts .mono'));
    const isShown = (await alike[0]?.getText().catch(() => '')) === title;
    if (!isShown) await pause(100);
    return isShown;
  }

  async function sweep(): Promise<number> {
    const before = openOf(await lanes());
    await press('w');
    await browser.find('[role=dialog] .btn-main:not([disabled])');
    await pause(100);
    await press(Key.ENTER);
    await settled(before);
    return before - openOf(await lanes());
  }

  return {
    presses: hands.presses,
    open: async () => openOf(await lanes()),
    sweep,
    sweepRest: async () => {
      if ((await lanes()).ready === 0) return;
      await press('1');
      await browser.find('.desk-row.stack.current');
      await sweep();
    },
    lane: async (key, lane) => {
      await press(key);
      await pause(400);
      for (;;) {
        const [stack] = await stacksOf(lane);
        if (!stack) return;
        if (!(await isFirst(stack))) continue;
        const { grouping, direction } = stack;
        const query = new URLSearchParams({ lane, grouping, key: stack.key, direction });
        const { lines } = await get<{ lines: DeskLine[] }>(`stack-lines?${query}`);
        if (stack.twiceCount === stack.count) {
          await excludeCopies();
          continue;
        }
        if (stack.twiceCount > 0) {
          await excludeAmong(lines);
          continue;
        }
        const kinds = new Map(lines.map((line) => [JSON.stringify(truthOf(line)), truthOf(line)]));
        const [truth] = kinds.values();
        if (kinds.size === 1 && truth) await codeStack(truth);
        else await codeLines(lines);
      }
    },
    ask: async (count, whom) => {
      await press('3');
      await pause(400);
      for (let asked = 0; asked < count; asked += 1) {
        const { asked: before } = await lanes();
        await press('q');
        await browser.find('[role=dialog] input');
        await pause(200);
        const name = await browser.driver.switchTo().activeElement().getAttribute('value');
        if (name !== whom) await press(...whom);
        await press(Key.ENTER);
        await isSoon(async () => (await lanes()).asked !== before);
        await pause(300);
      }
    },
    click: hands.click,
    clickAndFill: hands.clickAndFill,
    wrong: async () => {
      const books = await setup();
      let wrong = 0;
      let next: string | null = '';
      while (next !== null) {
        const page: DeskLines = await get(
          `decided-lines?kind=posted${next === '' ? '' : `&cursor=${encodeURIComponent(next)}`}`,
        );
        for (const line of page.items) {
          const truth = knownTruth(line);
          const [part] = line.decision?.coding?.parts ?? [];
          if (!truth || !part) continue;
          const code = books.accounts.find(({ id }) => id === part.accountId)?.code;
          const tax = books.taxCodes.find(({ id }) => id === part.taxCodeId)?.name ?? null;
          if (code !== codeOf(truth, books) || tax !== truth.tax) wrong += 1;
        }
        next = page.next;
      }
      return wrong;
    },
  };
}

/** The code of the account that a line really belongs to: of a move, that of the other bank account. */
function codeOf({ account }: Truth, { accounts, bankAccounts }: BooksSetup): string {
  if (!account.startsWith('bank:')) return account;
  const { name } =
    larkmoor.bankAccounts.find(({ key }) => `bank:${key}` === account) ?? never(account);
  const ledger = bankAccounts.find((bank) => bank.name === name)?.accountId;
  return accounts.find(({ id }) => id === ledger)?.code ?? never(name);
}

function never(what: string): never {
  throw new Error(what);
}

/** What a list calls the name that it offers for a new payee. */
const NEW = 'New: ';
/** The field of the current stack that is typed into. */
const fieldOf = (label: string) => `.desk-row.stack.current input[aria-label=${label}]`;

/** @returns whether something comes true within some seconds, as it does where the machine is busy */
async function isSoon(isSo: () => Promise<boolean>): Promise<boolean> {
  for (let look = 0; look < 100; look += 1) {
    if (await isSo()) return true;
    await pause(50);
  }
  return false;
}

/** Keys and clicks on the Desk, counted; a key that is held with another is one press. */
function makeHands(browser: Browser) {
  let count = 0;
  async function press(...keys: readonly string[]): Promise<void> {
    count += keys.length;
    for (const key of keys) await browser.keys(key);
  }
  async function pressShift(key: string): Promise<void> {
    count += 1;
    await browser.shift(key);
  }

  const isOpen = async (label: string) => {
    return (await browser.driver.findElements(By.css(fieldOf(label)))).length > 0;
  };

  /** Types until what is wanted stands first in the list, as somebody does who looks at it. */
  async function typeUntil(text: string, isWanted: (option: string) => boolean): Promise<void> {
    for (const letter of text) {
      await press(letter);
      await pause(90);
      if (isWanted(await highlighted())) return;
    }
    if (!(await isSoon(async () => isWanted(await highlighted()))))
      never(`${text} is not in the list`);
  }

  /** What Enter would take from the list that is open. */
  async function highlighted(): Promise<string> {
    const found = await browser.driver.findElements(By.css('.choices [aria-selected=true]'));
    return (await found[0]?.getText().catch(() => '')) ?? '';
  }

  /** Types into a field of the current stack; opens it by its key where the focus is elsewhere. */
  async function fill(
    key: string,
    label: string,
    text: string,
    isWanted: (option: string) => boolean,
  ): Promise<void> {
    if (!(await isOpen(label))) {
      const isTyping = (await isOpen('Account')) || (await isOpen('Tax'));
      await press(...(isTyping ? [Key.ESCAPE] : []), key);
    }
    await browser.find(fieldOf(label));
    await pause(60);
    await typeUntil(text, isWanted);
    await press(Key.ENTER);
    await pause(120);
  }

  /**
   * Makes a payee for the current stack.
   *
   * @param typed - its name; null takes the one that is offered for the wording
   * @returns the name
   */
  async function makePayee(typed: string | null): Promise<string> {
    await press('p');
    await browser.find(fieldOf('Payee'));
    // A new name stands last among what was found for it, and first where nothing was typed.
    await press(...(typed === null ? [Key.ARROW_DOWN] : [...typed, Key.ARROW_UP]));
    const isOffered = await isSoon(async () => (await highlighted()).startsWith(NEW));
    if (!isOffered) never('no name is offered for a new payee');
    const name = (await highlighted()).slice(NEW.length);
    await press(Key.ENTER);
    await isSoon(async () => (await shown('Payee').catch(() => '')) === name);
    await pause(150);
    return name;
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

  return {
    presses: () => count,
    press,
    pressShift,
    isOpen,
    fill,
    click: async (button: string) => {
      count += 1;
      await browser.press(button);
    },
    clickAndFill: async (css: string, text: string) => {
      count += 1;
      await (await browser.find(css)).click();
      await pause(100);
      await typeUntil(text, (option) => option.startsWith(text));
      await press(Key.ENTER);
      await pause(120);
    },
    shown,
    makePayee,
    /** Whether a line with this wording is current. */
    isOnLine: async (wording: string): Promise<boolean> => {
      const found = await browser.driver.findElements(By.css('.desk-row.line.current .wording'));
      return (await found[0]?.getAttribute('title').catch(() => null)) === wording;
    },
    /** The account that the current line is coded to. */
    accountOfLine: async (): Promise<string> =>
      (await browser.find('.desk-row.line.current > :nth-child(4)')).getText(),
  };
}
