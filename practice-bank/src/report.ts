import { addDays, type CalendarDate } from '@zubrell/core/dates/calendarDate';
import { type BankLine, type BankStatement, bankLine } from '@zubrell/core/formats/bankFile';
import { writeCamt } from '@zubrell/core/formats/write/writeCamt';
import { writeOfx } from '@zubrell/core/formats/write/writeOfx';
import type { Account, BankItem } from './records.ts';
import type { Switch } from './switches.ts';

/** How far back resent lines reach, in days. */
const RESENT_DAYS = 14;
/** Lines that come late come so many days after they were booked. */
const LATE_DAYS = 4;

/** What is asked for, and when. */
export interface Asked {
  readonly from: CalendarDate;
  readonly to: CalendarDate;
  readonly today: CalendarDate;
  /** Counts answers: with the switch `newIds`, ids carry it. */
  readonly answer: number;
  readonly troubles: ReadonlySet<Switch>;
  /** Ids of lines that were told before: a bank does not unsay them. */
  readonly told: Set<string>;
}

/** What is booked on an account and known to everybody by the end of a day. */
export function bookedBy(account: Account, day: CalendarDate): readonly BankItem[] {
  return account.items.filter(({ date }) => date <= day);
}

/**
 * What the bank says of an account when asked: its booked lines in the asked days with balances, and
 * what is announced; made worse by the switches that are on.
 */
export function report(account: Account, asked: Asked): string {
  const statement = statementOf(account, asked);
  // OFX has no place for what is only announced.
  const text =
    account.format === 'ofx'
      ? writeOfx(
          [{ ...statement, lines: statement.lines.filter(({ isPending }) => !isPending) }],
          account.currency,
        )
      : writeCamt([statement], account.currency);
  return asked.troubles.has('cutOff') ? cutOff(text) : text;
}

/** An answer that breaks off in the middle. */
export function cutOff(text: string): string {
  return text.slice(0, Math.floor(text.length * 0.6));
}

/** The same before it is written in any format. */
export function statementOf(account: Account, asked: Asked): BankStatement {
  const { from, today, troubles, answer, told } = asked;
  const to = asked.to < today ? asked.to : today;
  const known = bookedBy(account, today).filter((item) => !isHeldBack(item, asked));
  const start = troubles.has('resend') ? addDays(from, -RESENT_DAYS) : from;
  const booked = known
    .filter(({ date }) => date >= start && date <= to)
    .map((item) => lineOf(item, troubles.has('newIds') ? `${item.id}-${answer}` : item.id));
  const announced = account.items
    .filter((item) => item.announced !== null && item.announced <= today && item.date > today)
    .map((item): BankLine => announcedLine(item, troubles.has('changeAnnounced')));
  for (const { id, date } of known) if (date >= start && date <= to) told.add(id);
  const balance = (day: CalendarDate) =>
    known
      .filter(({ date }) => date <= day)
      .reduce((sum, { amount }) => sum + amount, account.opening);
  return {
    account: account.number,
    bank: null,
    kind: account.kind,
    currency: account.currency,
    from,
    to,
    opening: balance(addDays(from, -1)),
    closing: balance(to),
    closingDate: to,
    dayBalances: [],
    lines: [...booked, ...(troubles.has('resend') ? booked : []), ...announced],
  };
}

/** With the switch `holdBack`, every third line of the last days is not known yet. */
function isHeldBack(item: BankItem, { today, troubles, told }: Asked): boolean {
  if (!troubles.has('holdBack') || item.date <= addDays(today, -LATE_DAYS)) return false;
  if (told.has(item.id)) return false;
  return [...item.id].reduce((sum, letter) => sum + letter.charCodeAt(0), 0) % 3 === 0;
}

function lineOf({ date, amount, wording, reference }: BankItem, bankId: string): BankLine {
  return bankLine({ place: 0, date, amount, description: wording, reference, bankId });
}

function announcedLine(item: BankItem, isChanged: boolean): BankLine {
  const amount = item.announcedAmount ?? item.amount;
  return bankLine({
    place: 0,
    date: item.announced ?? item.date,
    amount: isChanged ? Math.trunc(amount * 1.12) : amount,
    description: item.wording,
    isPending: true,
  });
}
