import { type PastLine, type PastProposal, replay } from '@zubrell/core/propose/habit/evaluate';
import { sized } from '../sized.ts';
import { type Baseline, baselines } from './baselines.ts';
import { type Business, businesses, isCounted, type MadeRow, rowsOf } from './businesses.ts';

const SEEDS = sized([1, 2], [1]);
/** Figures are of the months from the fourth on. */
const FROM = '2025-04';

/** A row with what was proposed for it. */
interface Judged {
  readonly row: MadeRow;
  readonly account: string | null;
  readonly isReady: boolean;
  readonly p: number | null;
}

/** How right habits are on made-up businesses, those tuned on and those kept aside, beside simpler ways. */
export async function accuracy(): Promise<string> {
  const said = ['accuracy of habits, from the fourth month on'];
  const pooled: Judged[] = [];
  for (const isKeptAside of [false, true]) {
    const own = businesses.filter((business) => business.isKeptAside === isKeptAside);
    const all = own.flatMap((business) => {
      const judged = SEEDS.flatMap((seed) => judgedBy(rowsOf(business, seed)));
      said.push(figures(business.name, judged));
      return judged;
    });
    pooled.push(...all);
    said.push(figures(isKeptAside ? 'KEPT ASIDE, all' : 'TUNED ON, all', all), tenths(all));
    for (const [name, make] of baselines) said.push(baselineFigures(name, make, own));
  }
  said.push(figures('ALL TOGETHER', pooled), tenths(pooled));
  return `${said.join('\n')}\n`;
}

function judgedBy(rows: readonly MadeRow[]): Judged[] {
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
  const proposals: readonly (PastProposal | undefined)[] = replay(lines);
  return rows.flatMap((row, at) => {
    if (row.date < FROM || !isCounted(row)) return [];
    const { accountId = null, lane, p = null } = proposals[at] ?? {};
    return [{ row, account: accountId, isReady: lane === 'ready', p }];
  });
}

const isRight = ({ row, account }: Judged) => row.account === account;
const percent = (part: number, whole: number) => `${((100 * part) / (whole || 1)).toFixed(2)} %`;

function figures(name: string, judged: readonly Judged[]): string {
  const knowable = judged.filter(({ row }) => row.isKnowable);
  const ready = judged.filter((each) => each.isReady);
  return (
    `  ${name.padEnd(16)} ${String(judged.length).padStart(6)} lines` +
    `  Ready covers ${percent(knowable.filter((each) => each.isReady).length, knowable.length)}` +
    `, right ${percent(ready.filter(isRight).length, ready.length)}` +
    `  first right on knowable ${percent(knowable.filter(isRight).length, knowable.length)}` +
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
function baselineFigures(name: string, make: () => Baseline, own: readonly Business[]): string {
  const sums = { lines: 0, answered: 0, right: 0, knowable: 0, knowableRight: 0 };
  for (const business of own)
    for (const seed of SEEDS) {
      const baseline = make();
      let waiting: MadeRow[] = [];
      let month = '';
      for (const row of rowsOf(business, seed)) {
        if (!row.date.startsWith(month) || month === '') {
          for (const each of waiting) baseline.learn(each);
          waiting = [];
          month = row.date.slice(0, 7);
        }
        waiting.push(row);
        if (row.date < FROM || !isCounted(row)) continue;
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
