import { type PastLine, type PastProposal, replay } from '@zubrell/core/propose/habit/evaluate';
import type { Trees } from '@zubrell/core/propose/habit/sureness';
import { sized } from '../sized.ts';
import { type Baseline, baselines } from './baselines.ts';
import { businesses, isCounted, type MadeRow, rowsOf } from './businesses.ts';
import { samplesToFit, treesWithout } from './fitSureness.ts';
import { keptBusinesses } from './keptBusinesses.ts';

const SEEDS = sized([1, 2], [1]);

/** A row with what was proposed for it. */
interface Judged {
  readonly row: MadeRow;
  readonly account: string | null;
  readonly payee: string | null;
  readonly taxCode: string | null;
  readonly isReady: boolean;
  readonly p: number | null;
}

/**
 * How right habits are, from the fourth month on: on businesses that are made up as it runs and on those in bench/data,
 * each with a sureness that was fitted on all others; on those kept aside, as shipped; and beside simpler ways.
 */
export async function accuracy(): Promise<string> {
  const said = ['accuracy of habits, from the fourth month on'];
  const fitted = samplesToFit();
  const groups: readonly (readonly [
    string,
    ReadonlyMap<string, readonly (readonly MadeRow[])[]>,
  ])[] = [
    ['MADE UP, each left out', madeUp(false)],
    ['IN bench/data, each left out', keptBusinesses()],
    ['KEPT ASIDE, as shipped', madeUp(true)],
  ];
  for (const [title, group] of groups) {
    const isLeftOut = fitted.some(({ name }) => group.has(name));
    const all = [...group].flatMap(([name, variants]) => {
      const trees = isLeftOut ? treesWithout(fitted, name) : undefined;
      const judged = variants.flatMap((rows) => judgedBy(rows, trees));
      said.push(figures(name, judged));
      return judged;
    });
    said.push(figures(title, all), tenths(all));
    for (const [name, make] of baselines) {
      said.push(baselineFigures(name, make, [...group.values()].flat()));
    }
  }
  return `${said.join('\n')}\n`;
}

function madeUp(isKeptAside: boolean): ReadonlyMap<string, readonly (readonly MadeRow[])[]> {
  const own = businesses.filter((business) => business.isKeptAside === isKeptAside);
  return new Map(
    own.map((business) => [business.name, SEEDS.map((seed) => rowsOf(business, seed))]),
  );
}

function judgedBy(rows: readonly MadeRow[], trees: Trees | undefined): Judged[] {
  const lines = rows.map(
    (row): PastLine => ({
      date: row.date,
      amount: row.amount,
      description: row.description,
      reference: row.reference,
      payee: null,
      bankAccountId: row.bankAccount,
      accountId: row.account,
      payeeId: row.payee,
      taxCodeId: row.taxCode,
      isCounted: isCounted(row),
    }),
  );
  const from = fourthMonth(rows);
  const proposals: readonly (PastProposal | undefined)[] = replay(lines, { trees });
  return rows.flatMap((row, at) => {
    if (row.date < from || !isCounted(row)) return [];
    const { accountId = null, payeeId = null, taxCodeId = null, lane, p } = proposals[at] ?? {};
    const isReady = lane === 'ready';
    return [{ row, account: accountId, payee: payeeId, taxCode: taxCodeId, isReady, p: p ?? null }];
  });
}

const fourthMonth = (rows: readonly MadeRow[]) =>
  [...new Set(rows.map(({ date }) => date.slice(0, 7)))].sort()[3] ?? '';

const isRight = ({ row, account }: Judged) => row.account === account;
const isTaxRight = ({ row, taxCode }: Judged) => row.taxCode === (taxCode ?? '');
const percent = (part: number, whole: number) => `${((100 * part) / (whole || 1)).toFixed(2)} %`;

function figures(name: string, judged: readonly Judged[]): string {
  const knowable = judged.filter(({ row }) => row.isKnowable);
  const ready = judged.filter((each) => each.isReady);
  return (
    `  ${name.padEnd(16)} ${String(judged.length).padStart(6)} lines` +
    `  Ready covers ${percent(knowable.filter((each) => each.isReady).length, knowable.length)}` +
    `, right ${percent(ready.filter(isRight).length, ready.length)}` +
    `  first right on knowable ${percent(knowable.filter(isRight).length, knowable.length)}` +
    `, payee ${percent(knowable.filter(({ row, payee }) => row.payee === payee).length, knowable.length)}` +
    `, tax ${percent(knowable.filter(isTaxRight).length, knowable.length)}` +
    `  calibration error ${calibrationError(judged).toFixed(2)}`
  );
}

function inTenths(judged: readonly Judged[]) {
  return Array.from({ length: 10 }, (_, tenth) => {
    const inside = judged.filter(
      ({ p }) => p !== null && Math.min(9, Math.floor(p * 10)) === tenth,
    );
    const said = inside.reduce((sum, { p }) => sum + (p ?? 0), 0);
    return { count: inside.length, said, right: inside.filter(isRight).length };
  });
}

/** In points: how far what was said is from what was right, over tenths, weighed by their lines. */
function calibrationError(judged: readonly Judged[]): number {
  const all = inTenths(judged);
  const total = all.reduce((sum, { count }) => sum + count, 0);
  return (100 * all.reduce((sum, { said, right }) => sum + Math.abs(said - right), 0)) / total;
}

function tenths(judged: readonly Judged[]): string {
  const shown = inTenths(judged).flatMap(({ count, said, right }) =>
    count === 0
      ? []
      : [
          `${count}: said ${((100 * said) / count).toFixed(1)} was ${((100 * right) / count).toFixed(1)}`,
        ],
  );
  return `    by tenths of sureness: ${shown.join('; ')}`;
}

/** How often a simpler way answers, and is right where it does, and on what is knowable. */
function baselineFigures(
  name: string,
  make: () => Baseline,
  own: readonly (readonly MadeRow[])[],
): string {
  const sums = { lines: 0, answered: 0, right: 0, knowable: 0, knowableRight: 0 };
  for (const rows of own) {
    const baseline = make();
    const from = fourthMonth(rows);
    let waiting: MadeRow[] = [];
    let month = '';
    for (const row of rows) {
      if (!row.date.startsWith(month) || month === '') {
        for (const each of waiting) baseline.learn(each);
        waiting = [];
        month = row.date.slice(0, 7);
      }
      waiting.push(row);
      if (row.date < from || !isCounted(row)) continue;
      const account = baseline.predict(row);
      sums.lines += 1;
      sums.answered += Number(account !== null);
      sums.right += Number(account === row.account);
      sums.knowable += Number(row.isKnowable);
      sums.knowableRight += Number(row.isKnowable && account === row.account);
    }
  }
  return (
    `    beside it, ${name}: answers ${percent(sums.answered, sums.lines)} of all lines` +
    `, right ${percent(sums.right, sums.answered)}` +
    `, first right on knowable ${percent(sums.knowableRight, sums.knowable)}`
  );
}
