import type { MonthClosing } from '@zubrell/contract/closing';
import { t } from '@zubrell/core/words/t';
import { counted } from '../../app/formats.ts';

/** How many items of a month are open. */
export function openItems({ checks, accounts }: Pick<MonthClosing, 'checks' | 'accounts'>): number {
  return (
    checks.filter(({ count }) => count > 0).length +
    accounts.filter(({ isAgreed }) => !isAgreed).length
  );
}

/** @example openItemsWords(5) // '5 items are open. Settle them, or accept them in the note.' */
export function openItemsWords(count: number): string {
  if (count === 0) return t`Nothing prevents closing.`;
  return counted(
    count,
    'item is open. Settle it, or accept it in the note.',
    'items are open. Settle them, or accept them in the note.',
  );
}
