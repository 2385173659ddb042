import { textOf, wordingFeatures } from '@zubrell/core/propose/habit/features';
import { labelOf, makeMemory } from '@zubrell/core/propose/habit/memory';
import { type Prediction, predict } from '@zubrell/core/propose/habit/predict';
import { stemOf } from '@zubrell/core/text/stemOf';
import type { MadeRow } from './businesses.ts';

/** What was predicted for a row, having learned from the months before. */
export interface Predicted {
  readonly row: MadeRow;
  readonly month: number;
  readonly prediction: Prediction | null;
}

/** Predicts every row of a business month by month. */
export function runBusiness(rows: readonly MadeRow[]): Predicted[] {
  const memory = makeMemory();
  let waiting: (() => void)[] = [];
  let month = '';
  let count = -1;
  return rows.map((row, at) => {
    if (!row.date.startsWith(month) || month === '') {
      for (const learn of waiting) learn();
      waiting = [];
      month = row.date.slice(0, 7);
      count += 1;
    }
    const line = { ...row, payee: null, bankAccountId: row.bankAccount };
    const features = wordingFeatures(textOf(line));
    const decided = {
      id: String(at),
      label: labelOf(row.payee, stemOf(line)),
      position: at,
      accountId: row.account,
      payeeId: row.payee,
      taxCodeId: row.taxCode,
      weight: 1,
    };
    waiting.push(() => memory.add(decided, line, features));
    return { row, month: count, prediction: predict(memory, line, features) };
  });
}
