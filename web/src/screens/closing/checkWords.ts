import type { ClosingCheck } from '@zubrell/contract/closing';
import type { ClosingCheckKind } from '@zubrell/core/closing/months';
import { daysBetween } from '@zubrell/core/dates/calendarDate';
import type { BooksId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { counted, countLines, formatCount } from '../../app/formats.ts';

/** What a check is called. */
export const checkNames: Readonly<Record<ClosingCheckKind, string>> = {
  openLines: t`Open lines`,
  unexplained: t`Unexplained amounts`,
  questions: t`Questions`,
  suspense: t`Suspense`,
  transit: t`In transit`,
  outstanding: t`Outstanding`,
  receipts: t`Receipts`,
  postedUnseen: t`Posted unseen`,
  taxCodes: t`Tax codes`,
  cutOff: t`Year end`,
  journals: t`Recurring journals`,
  currencies: t`Other currencies`,
  afterReport: t`After the tax report`,
};

const FINE: Readonly<Record<ClosingCheckKind, string>> = {
  openLines: t`every line is decided`,
  unexplained: t`bank and books agree`,
  questions: t`no questions waiting for an answer`,
  suspense: t`nothing on suspense`,
  transit: t`both sides of every transfer are there`,
  outstanding: t`nothing outstanding for too long`,
  receipts: t`every cost that needs a receipt has one`,
  postedUnseen: t`everything posted unseen was reviewed`,
  taxCodes: t`every line that needs one has one`,
  cutOff: t`no payment mentions the previous year`,
  currencies: t`open items in other currencies are valued`,
  afterReport: t`no late changes to reported tax`,
  journals: t`every recurring journal is posted or skipped`,
};

/** How a check stands, in a few words. @param end the last day of the month */
export function checkWords(
  check: ClosingCheck,
  end: string,
  showDate: (date: string) => string,
): string {
  const { kind, count, oldest, who, of } = check;
  if (count === 0) return FINE[kind];
  const since = oldest === null ? '' : t` since ${showDate(oldest)}`;
  const age = oldest === null ? 0 : daysBetween(oldest, end);
  switch (kind) {
    case 'openLines':
      return t`${countLines(count)} open, the oldest of ${showDate(oldest ?? end)}`;
    case 'unexplained':
      return t`${counted(count, 'difference', 'differences')} between bank and books`;
    case 'questions':
      return t`${countLines(count)}${since}, waiting for ${who ?? t`an answer`}`;
    case 'suspense':
      return `${counted(count, 'entry', 'entries')}${since}${who ? t`, last by ${who}` : ''}`;
    case 'transit':
      return t`second side missing for ${counted(age, 'day', 'days')}`;
    case 'outstanding':
      return t`${counted(count, 'entry', 'entries')} the bank has not reported, the oldest for ${counted(age, 'day', 'days')}`;
    case 'receipts':
      return count === 1
        ? t`1 of ${countLines(of ?? count)} has no attachment`
        : t`${formatCount(count)} of ${countLines(of ?? count)} have no attachment`;
    case 'postedUnseen':
      return t`${countLines(count)} by rules and sweeps that nobody has reviewed`;
    case 'taxCodes':
      return t`${counted(count, 'entry', 'entries')} without a tax code`;
    case 'cutOff':
      return t`${counted(count, 'payment', 'payments')} that may belong to the year before: no bill or invoice was booked then`;
    case 'currencies':
      return t`${counted(count, 'amount', 'amounts')} open in other currencies, not valued at ${showDate(end)}`;
    case 'afterReport':
      return t`${counted(count, 'entry', 'entries')} of the month arrived after its tax was reported`;
    case 'journals':
      return t`${counted(count, 'journal', 'journals')} due${since}`;
  }
}

/** Where a check is settled, and what the way there is called. */
export function checkWay(
  { kind, accountId }: ClosingCheck,
  booksId: BooksId,
  month: string,
): { readonly to: string; readonly label: string } {
  const at = (place: string) => `/books/${booksId}/${place}`;
  switch (kind) {
    case 'openLines':
      return { to: at(`desk?period=${month}`), label: t`Go to open lines` };
    case 'unexplained':
      return { to: at('board'), label: t`Find the cause` };
    case 'questions':
      return { to: at('desk?lane=asked'), label: t`Open questions` };
    case 'suspense':
      return { to: at(`ledger/${accountId ?? ''}`), label: t`Open register` };
    case 'transit':
      return accountId === null
        ? { to: at('ledger/entries'), label: t`Look for the other side` }
        : { to: at(`ledger/${accountId}`), label: t`Open register` };
    case 'outstanding':
      return { to: at('ledger/entries'), label: t`Open entries` };
    case 'receipts':
      return { to: at(`desk?lane=decided&period=${month}`), label: t`Open decided lines` };
    case 'postedUnseen':
      return { to: at(`close/${month}?sample=open`), label: t`Review a sample` };
    case 'cutOff':
    case 'taxCodes':
      return { to: at(`desk?lane=decided&period=${month}`), label: t`Open decided lines` };
    case 'currencies':
      return { to: at('ledger/exchange-rates'), label: t`Value currencies` };
    case 'afterReport':
      return { to: at('history'), label: t`Open history` };
    case 'journals':
      return { to: at('ledger/recurring'), label: t`Open recurring journals` };
  }
}
