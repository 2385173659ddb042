import type { Statement } from '@zubrell/contract/statements';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { type ErrorCode, type ErrorParams, messageOf } from '@zubrell/core/errors';
import { formatAmount } from '@zubrell/core/money/formatAmount';
import type { AccountFacts } from './accountFacts.ts';

/** What keeps a statement from being agreed, as errors of the table. */
export function hindrancesOf(
  statement: Omit<Statement, 'hindrances'>,
  { name, openingDate, currency }: Pick<AccountFacts, 'name' | 'openingDate' | 'currency'>,
): { code: ErrorCode; message: string; params: ErrorParams }[] {
  const { state, before, closing, off, addsUp, openCount, to } = statement;
  if (state === 'agreed') return [];
  const found: [ErrorCode, ErrorParams][] = [];
  if (openingDate === null) found.push(['STATEMENT_NO_OPENING', { name }]);
  if (before && !before.isAgreed) {
    found.push(['STATEMENT_BEFORE_OPEN', { to: formatLongDate(before.to) }]);
  }
  if (closing === null || off === null) {
    found.push(['STATEMENT_NO_CLOSING', { to: formatLongDate(to) }]);
  } else if (off !== 0) {
    const amount = (minor: number) => formatAmount(minor, currency);
    const params = { adds: amount(addsUp), says: amount(closing), off: amount(Math.abs(off)) };
    found.push(['STATEMENT_OFF', params]);
  }
  if (openCount > 0) found.push(['STATEMENT_LINES_OPEN', { count: openCount }]);
  return found.map(([code, params]) => ({ code, params, message: messageOf(code, params) }));
}
