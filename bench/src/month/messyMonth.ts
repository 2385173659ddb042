import type { BooksSetup } from '@zubrell/contract/books';
import type { Made } from '@zubrell/contract/common';
import type { DeskLine } from '@zubrell/contract/desk';
import type { Question } from '@zubrell/contract/questions';
import type { RuleBody, RuleSaved } from '@zubrell/contract/rules';
import { addDays } from '@zubrell/core/dates/calendarDate';
import { groupBy } from '@zubrell/core/groupBy';
import { wholeLineCoding } from '@zubrell/core/ledger/coding';
import { toDecimal } from '@zubrell/core/money/formatAmount';
import type { Business, OddFile, Pattern } from '@zubrell/demo/scenario/business';
import type { MadeLine } from '@zubrell/demo/scenario/makeLines';
import { sized } from '../sized.ts';
import { type BegunMonth, busyStudio, inMonth } from './busyStudio.ts';
import { makeTypist } from './typist.ts';

const AIM = 0.6;
const COPIES = sized(12, 2);
const WRONG_EACH = sized(20, 2);
const QUESTIONS = sized(3, 1);

/** What the owner bought with the business's card, and is the owner's. */
const PERSONAL = [
  'BRAMBLE TOYS',
  'OTTERS BOOKSHOP',
  'QUAYSIDE SHOES',
  'FELLSIDE OPTICIAN',
  'PLUM CINEMA',
];

/** To which account a wrong rule codes what comes in, and what goes out. */
const WRONG = { in: '4050', out: '6130' } as const;

/** A rule that codes to the wrong account, and what its lines really are. */
interface WrongRule {
  readonly word: string;
  readonly truth: MadeLine['truth'];
  readonly lineIds: readonly string[];
}

/**
 * The clean month with what goes wrong in one: lines that came in twice, personal purchases, two rules that coded to
 * the wrong account what somebody kept, and questions whose answers come later. Keys and clicks are counted; all is to
 * be as it should in the end.
 */
export async function messyMonth(): Promise<string> {
  return inMonth(messyStudio(), async (begun) => {
    const { browser, booksId } = begun;
    const rules = await letRulesGoWrong(begun);
    const wrongly = rules.reduce((sum, { lineIds }) => sum + lineIds.length, 0);
    const typist = makeTypist(begun);
    const open = await typist.open();
    const miscoded = await typist.wrong();
    for (const { word, truth, lineIds } of rules) {
      await browser.go(`/books/${booksId}/rules`);
      await typist.click(word);
      await typist.clickAndFill('.rule-editor input[aria-label=Account]', truth.account);
      await typist.click('Save rule');
      await typist.click(`Correct ${lineIds.length} lines`);
      await browser.seeNoMore('Correct what');
    }
    await browser.go(`/books/${booksId}/desk?lane=ready`);
    await browser.find('.desk-row.stack');
    await typist.sweep();
    await typist.ask(QUESTIONS, 'Ines Varga');
    await typist.lane('2', 'check');
    await typist.lane('3', 'blank');
    await answerAll(begun);
    await typist.lane('2', 'check');
    await typist.sweepRest();
    const lines = open + wrongly;
    const [left, wrong] = [await typist.open(), await typist.wrong()];
    const each = typist.presses() / lines;
    const isMet = each < AIM && left === 0 && wrong === 0 && miscoded === wrongly;
    return (
      `a messy month of ${lines} lines, ${COPIES} of them copies, ${PERSONAL.length} personal, ${miscoded} coded wrong by rules, ` +
      `${QUESTIONS} asked about: ${typist.presses()} key presses and clicks, ${each.toFixed(3)} a line (aim: under ${AIM}), ` +
      `${left} still open, ${wrong} coded wrong  ${isMet ? 'met' : 'NOT MET'}\n`
    );
  });
}

function messyStudio(): Business {
  const studio = busyStudio();
  const personal = PERSONAL.map(
    (shop): Pattern => ({
      bank: 'card',
      payee: null,
      account: '3020',
      tax: null,
      perMonth: [1, 1],
      amount: [-8_900, -1_200],
      wording: () => `${shop} LYNMO`,
      from: '2026-03',
      to: '2026-03',
    }),
  );
  return { ...studio, patterns: [...studio.patterns, ...personal], oddFiles: sentAgain };
}

/** The bank sends card lines of March again, a day later and worded otherwise. */
function sentAgain(lines: readonly MadeLine[]): readonly OddFile[] {
  const card = lines.filter(
    ({ bank, date, amount, wording }) =>
      bank === 'card' && date.startsWith('2026-03') && amount < 0 && /^[A-Z]+ [A-Z]+/.test(wording),
  );
  const rows = card.slice(0, COPIES).map(({ date, amount, wording }) => {
    const words = wording.replace(/\d+/g, '').trim().toLowerCase();
    return `${addDays(date, 1)},${words},${toDecimal(amount, 'EUR')}`;
  });
  const text = `Date,Details,Amount EUR\n${rows.join('\n')}\n`;
  return [{ bank: 'card', fileName: 'card-sent-again.csv', text, day: '2026-04-04' }];
}

function asker({ url, headers, booksId }: BegunMonth) {
  return async <T>(method: 'GET' | 'POST', path: string, body?: object): Promise<T> => {
    const answer = await fetch(`${url}/api/books/${booksId}/${path}`, {
      method,
      headers: { ...headers, 'content-type': 'application/json' },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    if (!answer.ok) throw new Error(`${path}: ${await answer.text()}`);
    return (await answer.json()) as T;
  };
}

/** Makes two wrong rules, and has somebody keep what they propose. */
async function letRulesGoWrong(begun: BegunMonth): Promise<readonly WrongRule[]> {
  const ask = asker(begun);
  const { accounts, taxCodes } = await ask<BooksSetup>('GET', 'setup');
  const idOf = (code: string) => accounts.find((each) => each.code === code)?.id ?? code;
  const rules: WrongRule[] = [];
  for (const { word, truth, direction } of commonest(begun.made)) {
    const taxCodeId = taxCodes.find(({ name }) => name === truth.tax)?.id ?? null;
    const accountId = idOf(WRONG[direction]);
    const body: RuleBody = {
      takes: {
        direction,
        bankAccountIds: null,
        match: 'all',
        conditions: [
          { kind: 'text', field: 'wording', test: 'startsWith', text: word, isExact: false },
        ],
      },
      result: {
        kind: 'code',
        payee: { kind: 'open' },
        parts: [{ accountId, taxCodeId, share: { kind: 'rest' } }],
        note: null,
      },
      after: { kind: 'hold' },
    };
    await ask<RuleSaved>('POST', 'rules', { name: word, isOn: true, body, seenStep: 1e6 });
    const found = await linesSaying(ask, word);
    const lineIds = found.slice(0, WRONG_EACH).map(({ id }) => id);
    const coding = wholeLineCoding(accountId, null, taxCodeId);
    await ask<object>('POST', 'lines/post', { target: { lineIds }, coding, seenStep: 1e6 });
    rules.push({ word, truth, lineIds });
  }
  return rules;
}

/** The two beginnings of wordings with the most lines in March that all are of one kind. */
function commonest(made: readonly MadeLine[]) {
  const march = made.filter(({ date }) => date.startsWith('2026-03'));
  const alike = groupBy(march, ({ wording }) => wording.split(' ').slice(0, 2).join(' '));
  return [...alike]
    .flatMap(([word, lines]) => {
      const [first] = lines;
      const kinds = new Set(lines.map(({ truth }) => JSON.stringify(truth)));
      const isOne = kinds.size === 1 && first && !first.truth.account.startsWith('bank:');
      const direction = (first?.amount ?? 0) < 0 ? ('out' as const) : ('in' as const);
      return isOne && first.truth.account !== WRONG[direction]
        ? [{ word, truth: first.truth, direction, count: lines.length }]
        : [];
    })
    .sort((a, b) => b.count - a.count)
    .slice(0, 2);
}

/** The open lines with a word, once they are proposed for. */
async function linesSaying(
  ask: ReturnType<typeof asker>,
  word: string,
): Promise<readonly DeskLine[]> {
  const found: DeskLine[] = [];
  for (const lane of ['ready', 'check', 'blank']) {
    const query = new URLSearchParams({ lane, grouping: 'lookAlikes', search: word });
    const { stacks } = await ask<{ stacks: { key: string; direction: string }[] }>(
      'GET',
      `stacks?${query}`,
    );
    for (const { key, direction } of stacks) {
      const of = new URLSearchParams({
        lane,
        grouping: 'lookAlikes',
        search: word,
        key,
        direction,
      });
      found.push(...(await ask<{ lines: DeskLine[] }>('GET', `stack-lines?${of}`)).lines);
    }
  }
  return found;
}

/** The client answers. */
async function answerAll(begun: BegunMonth): Promise<void> {
  const ask = asker(begun);
  const { questions } = await ask<{ questions: Question[] }>('GET', 'questions');
  for (const { id, state } of questions) {
    if (state !== 'open') continue;
    await ask<Made>('POST', `questions/${id}/answers`, { words: 'For the studio, as always.' });
  }
}
