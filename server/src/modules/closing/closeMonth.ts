import { randomUUID } from 'node:crypto';
import type { ClosingAction } from '@zubrell/contract/closing';
import type { StepDone } from '@zubrell/contract/common';
import type { ClosingState } from '@zubrell/core/closing/months';
import { addDays, formatLongDate, formatMonth, lastDayOf } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { StepKind } from '@zubrell/core/steps/stepKinds';
import { monthSaid, type Said, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import { putSettings, settingsOf } from '../books/changeBooks.ts';
import { needsLeave } from '../books/needsLeave.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { recordDone, type StepItem } from '../steps/recordStep.ts';
import { isOpenCheck } from './checks.ts';
import { type ClosingThingState, putClosing, standingClosings } from './closingThings.ts';
import { monthClosing } from './monthClosing.ts';

interface Way {
  readonly kind: StepKind;
  readonly to: ClosingState;
  readonly words: Said;
  /** From which states it can be gone to. */
  readonly from: readonly (ClosingState | null)[];
}

const OPEN = [null, 'prepared', 'sentBack', 'reviewed', 'reopened'] as const;

const WAYS: Readonly<Record<ClosingAction['action'], Way>> = {
  prepare: { kind: 'prepareMonth', to: 'prepared', words: say`Prepared`, from: OPEN },
  sendBack: {
    kind: 'sendBackMonth',
    to: 'sentBack',
    words: say`Sent back`,
    from: ['prepared', 'reviewed'],
  },
  review: { kind: 'reviewMonth', to: 'reviewed', words: say`Reviewed`, from: OPEN },
  close: { kind: 'closeMonth', to: 'closed', words: say`Closed`, from: OPEN },
  reopen: { kind: 'reopenMonth', to: 'reopened', words: say`Reopened`, from: ['closed'] },
};

/** How states are said, as in "March 2026 is …". */
const STATES: Readonly<Record<ClosingState, string>> = {
  prepared: 'prepared',
  sentBack: 'sent back',
  reviewed: 'reviewed',
  closed: 'closed',
  reopened: 'reopened',
};

/**
 * Takes a month a way further to being closed, or back, as one step. Closing sets the books' lock date; what is open
 * has to be accepted in words.
 *
 * @throws {ZubrellError} CLOSING_STATE, CLOSING_NOTE_NEEDED, CLOSING_CHANGED, CLOSING_NOT_OVER, LEAVE_NEEDED
 */
export async function closeMonth(
  command: BooksCommand,
  month: string,
  { action, note, seenStep }: ClosingAction,
): Promise<StepDone> {
  const { tx, booksId, clock, actor } = command;
  const way = WAYS[action];
  const [known] = await standingClosings(command, sql`c.month = ${month}`);
  const before = known?.isHere ? known.state : null;
  if (!way.from.includes(before?.state ?? null)) {
    const state = before === null ? 'not prepared yet' : STATES[before.state];
    fail('CLOSING_STATE', { month: formatMonth(month), state });
  }
  const end = lastDayOf(month);
  const items: StepItem[] = [];
  if (action === 'close') {
    await needsLeave(command, 'close');
    if (end >= clock.today()) {
      const from = formatLongDate(addDays(end, 1));
      fail('CLOSING_NOT_OVER', { month: formatMonth(month), from });
    }
    await refuseChanged(command, seenStep);
    const { checks, accounts } = await monthClosing(tx, booksId, month, clock.today());
    const count =
      checks.filter(isOpenCheck).length + accounts.filter(({ isAgreed }) => !isAgreed).length;
    if (count > 0 && note === '') fail('CLOSING_NOTE_NEEDED', { count });
    items.push(await setLockDate(command, end));
  }
  if (action === 'reopen') {
    await needsLeave(command, 'reopen');
    items.push(await setLockDate(command, addDays(`${month}-01`, -1)));
  }
  const id = known?.id ?? randomUUID();
  const now = { by: actor.userId, at: clock.now().toISOString() };
  await putClosing(command, id, stateAfter(before, month, note, { action, ...now }));
  const standing = await command.things.closing.standing(command, [id]);
  items.push({ thing: 'closing', thingId: id, before, after: standing.get(id) ?? null });
  const words = say`${way.words} ${monthSaid(month)}${note === '' ? '' : say`: ${note}`}`;
  return recordDone(command, { kind: way.kind, words, items });
}

function stateAfter(
  before: ClosingThingState | null,
  month: string,
  note: string,
  {
    action,
    by,
    at,
  }: { readonly action: ClosingAction['action']; readonly by: string; readonly at: string },
): ClosingThingState {
  const fresh: ClosingThingState = {
    month,
    state: WAYS[action].to,
    note,
    preparedBy: null,
    preparedAt: null,
    reviewedBy: null,
    reviewedAt: null,
    closedBy: null,
    closedAt: null,
  };
  const kept = { ...fresh, ...before, state: WAYS[action].to, note: note || (before?.note ?? '') };
  switch (action) {
    case 'prepare':
      return { ...kept, preparedBy: by, preparedAt: at };
    case 'review':
      return { ...kept, reviewedBy: by, reviewedAt: at };
    case 'close':
      return { ...kept, closedBy: by, closedAt: at };
    case 'sendBack':
      return { ...kept, reviewedBy: null, reviewedAt: null };
    case 'reopen':
      return { ...kept, closedBy: null, closedAt: null };
  }
}

/** Moves the lock date; closing never moves it back. */
async function setLockDate(command: BooksCommand, day: string): Promise<StepItem> {
  const { tx, booksId } = command;
  const before = await settingsOf(tx, booksId);
  const after = { ...before, lockDate: day };
  await putSettings(command, before, after);
  return { thing: 'books', thingId: booksId, before: { ...before }, after };
}

const ChangedRow = z.object({ who: z.string(), what: z.string() });

/** Refuses to close while somebody else works in the books: what was looked at is not what would be closed. */
async function refuseChanged(
  { tx, booksId, actor }: BooksCommand,
  seenStep: number,
): Promise<void> {
  const [changed] = await rowsOf(
    tx,
    ChangedRow,
    sql`select u.name as who, s.words as what from steps s join users u on u.id = s.user_id
        where s.books_id = ${booksId} and s.no > ${seenStep} and s.user_id <> ${actor.userId}
        order by s.no desc limit 1`,
  );
  if (changed) fail('CLOSING_CHANGED', changed);
}
