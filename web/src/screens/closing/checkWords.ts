import type { ClosingCheck } from '@zubrell/contract/closing';
import type { ClosingCheckKind } from '@zubrell/core/closing/months';
import { daysBetween } from '@zubrell/core/dates/calendarDate';
import type { BooksId } from '@zubrell/core/ids';
import { counted } from '@zubrell/core/words/t';

/** What a check is called. */
export const checkNames: Readonly<Record<ClosingCheckKind, string>> = {
  openLines: 'Open lines',
  unexplained: 'Unexplained amounts',
  questions: 'Questions',
  suspense: 'Suspense',
  transit: 'In transit',
  outstanding: 'Outstanding',
  receipts: 'Receipts',
  postedUnseen: 'Posted unseen',
  taxCodes: 'Tax codes',
  cutOff: 'Year end',
  journals: 'Recurring journals',
  currencies: 'Other currencies',
  afterReport: 'After the tax report',
};

const FINE: Readonly<Record<ClosingCheckKind, string>> = {
  openLines: 'every line is decided',
  unexplained: 'bank and books agree',
  questions: 'no questions waiting for an answer',
  suspense: 'nothing on suspense',
  transit: 'both sides of every transfer are there',
  outstanding: 'nothing outstanding for too long',
  receipts: 'every cost that needs a receipt has one',
  postedUnseen: 'everything posted unseen was reviewed',
  taxCodes: 'every line that needs one has one',
  cutOff: 'no payment mentions the previous year',
  currencies: 'open items in other currencies are valued',
  afterReport: 'no late changes to reported tax',
  journals: 'every recurring journal is posted or skipped',
};

/** How a check stands, in a few words. @param end the last day of the month */
export function checkWords(
  check: ClosingCheck,
  end: string,
  showDate: (date: string) => string,
): string {
  const { kind, count, oldest, who, of } = check;
  if (count === 0) return FINE[kind];
  const since = oldest === null ? '' : ` since ${showDate(oldest)}`;
  const age = oldest === null ? 0 : daysBetween(oldest, end);
  switch (kind) {
    case 'openLines':
      return `${counted(count, 'line', 'lines')} open, the oldest of ${showDate(oldest ?? end)}`;
    case 'unexplained':
      return `${counted(count, 'difference', 'differences')} between bank and books`;
    case 'questions':
      return `${counted(count, 'line', 'lines')}${since}, waiting for ${who ?? 'an answer'}`;
    case 'suspense':
      return `${counted(count, 'entry', 'entries', 'entriess')}${since}${who ? `, last by ${who}` : ''}`;
    case 'transit':
      return `second side missing for ${counted(age, 'day', 'days')}`;
    case 'outstanding':
      return `${counted(count, 'entry', 'entries', 'entriess')} the bank has not reported, the oldest for ${counted(age, 'day', 'days')}`;
    case 'receipts':
      return `${count} of ${counted(of ?? count, 'line', 'lines')} ${count === 1 ? 'has' : 'have'} no attachment`;
    case 'postedUnseen':
      return `${counted(count, 'line', 'lines')} by rules and sweeps that nobody has reviewed`;
    case 'taxCodes':
      return `${counted(count, 'entry', 'entries', 'entriess')} without a tax code`;
    case 'cutOff':
      return `${counted(count, 'payment', 'payments')} that may belong to the year before: no bill or invoice was booked then`;
    case 'currencies':
      return `${counted(count, 'amount', 'amounts')} open in other currencies, not valued at ${showDate(end)}`;
    case 'afterReport':
      return `${counted(count, 'entry', 'entries', 'entriess')} of the month arrived after its tax was reported`;
    case 'journals':
      return `${counted(count, 'journal', 'journals')} due${since}`;
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
      return { to: at(`desk?period=${month}`), label: 'Go to open lines' };
    case 'unexplained':
      return { to: at('board'), label: 'Find the cause' };
    case 'questions':
      return { to: at('desk?lane=asked'), label: 'Open questions' };
    case 'suspense':
      return { to: at(`ledger/${accountId ?? ''}`), label: 'Open register' };
    case 'transit':
      return accountId === null
        ? { to: at('ledger/entries'), label: 'Look for the other side' }
        : { to: at(`ledger/${accountId}`), label: 'Open register' };
    case 'outstanding':
      return { to: at('ledger/entries'), label: 'Open entries' };
    case 'receipts':
      return { to: at(`desk?lane=decided&period=${month}`), label: 'Open decided lines' };
    case 'postedUnseen':
      return { to: at(`close/${month}?sample=open`), label: 'Review a sample' };
    case 'cutOff':
    case 'taxCodes':
      return { to: at(`desk?lane=decided&period=${month}`), label: 'Open decided lines' };
    case 'currencies':
      return { to: at('ledger/exchange-rates'), label: 'Value currencies' };
    case 'afterReport':
      return { to: at('history'), label: 'Open history' };
    case 'journals':
      return { to: at('ledger/recurring'), label: 'Open recurring journals' };
  }
}
