import {
  causeReasons,
  countedKinds,
  edgeMoves,
  likelihoods,
  statementCauseKinds,
} from '@zubrell/core/closing/causes';
import { statementRowStates, statementStates } from '@zubrell/core/closing/states';
import { z } from 'zod';
import { Cycle, HolderNames } from './books.ts';
import {
  AccountId,
  BankAccountId,
  CalendarDate,
  EntryId,
  GivenAmount,
  GivenDate,
  Id,
  LineId,
  Minor,
  neededText,
  PayeeId,
  page,
  Seen,
  typedText,
} from './common.ts';
import { OutstandingItem } from './desk.ts';

/** A statement at a glance. */
export const StatementSummary = z.object({
  bankAccountId: BankAccountId,
  from: CalendarDate,
  to: CalendarDate,
  state: z.enum(statementStates),
  /** What the statement before closed at, or the opening balance. */
  opening: Minor,
  lineCount: z.int(),
  /** Not decided yet; those about which a question is out are counted apart. */
  openCount: z.int(),
  askedCount: z.int(),
  addsUp: Minor,
  /** What the bank says; null as long as nobody and no file does. */
  closing: Minor.nullable(),
  isClosingTyped: z.boolean(),
  /** Statement less what adds up. */
  off: Minor.nullable(),
  agreedBy: z.string().nullable(),
  agreedAt: z.string().nullable(),
  /** Lines that came, went or were decided otherwise since it was agreed. */
  changedCount: z.int(),
});
export type StatementSummary = z.infer<typeof StatementSummary>;

/** The statements of a bank account, the oldest first. */
export const AccountStatements = z.object({
  bankAccountId: BankAccountId,
  cycle: Cycle,
  closedTo: CalendarDate.nullable(),
  hasOpening: z.boolean(),
  /** No file or feed brings lines: entries are ticked against the printed statement. */
  isTicked: z.boolean(),
  statements: z.array(StatementSummary),
});
export type AccountStatements = z.infer<typeof AccountStatements>;
export const AllStatements = z.object({ accounts: z.array(AccountStatements) });
export type AllStatements = z.infer<typeof AllStatements>;

/** A line, or an entry to be ticked, on or near a statement. */
export const StatementRow = z.object({
  id: Id,
  kind: z.enum(countedKinds),
  entryId: EntryId.nullable(),
  date: CalendarDate,
  /** The day on which it counts, where that is not its own. */
  day: CalendarDate.nullable(),
  text: z.string(),
  payeeId: PayeeId.nullable(),
  /** Where it went, but for tax. */
  accountIds: z.array(AccountId),
  /** Whose card it was paid with, as the file names them. */
  cardholder: z.string().nullable(),
  amount: Minor,
  /** What opening and all rows up to this one come to; null where it doesn't count. */
  runsTo: Minor.nullable(),
  state: z.enum(statementRowStates),
  /** It came when the statement that it is dated in was agreed. */
  isLate: z.boolean(),
  isCounted: z.boolean(),
});
export type StatementRow = z.infer<typeof StatementRow>;

export const SingleCause = z.object({
  kind: z.enum(statementCauseKinds),
  amount: Minor,
  lineIds: z.array(LineId).readonly(),
  instead: Minor.nullable(),
  move: z.enum(edgeMoves).nullable(),
  from: CalendarDate.nullable(),
  to: CalendarDate.nullable(),
  reasons: z.array(z.enum(causeReasons)).readonly(),
});

/** What would explain a difference. */
export const Explanation = z.object({
  /** Names it, so that somebody can say it is not so. */
  key: z.string(),
  causes: z.array(SingleCause).readonly(),
  likelihood: z.enum(likelihoods),
});
export type Explanation = z.infer<typeof Explanation>;

/** What changed of a statement since it was agreed. */
export const StatementChange = z.object({
  lineId: Id,
  date: CalendarDate,
  text: z.string(),
  amount: Minor,
  what: z.enum(['came', 'went', 'decided', 'open']),
});
export type StatementChange = z.infer<typeof StatementChange>;

/** Something that keeps a statement from being agreed. */
export const Hindrance = z.object({ code: z.string(), message: z.string() });

/** What is in a statement, in the order in which it counts; kept out lines among them. */
export const StatementRows = page(StatementRow);
export type StatementRows = z.infer<typeof StatementRows>;

/** What a cardholder spent and got back within a statement. */
export const StatementHolder = z.object({
  /** As the file names them; null for lines that name nobody. */
  cardholder: z.string().nullable(),
  count: z.int(),
  /** Both positive. */
  spent: Minor,
  refunded: Minor,
});
export const StatementHolders = z.object({ holders: z.array(StatementHolder) });

/** A statement, but for its rows: these come page by page. */
export const Statement = StatementSummary.extend({
  seenStep: Seen,
  isTicked: z.boolean(),
  /** Of a card that is owed something: when and from where that was paid; null as long as it isn't. */
  payment: z
    .object({
      due: Minor,
      paid: z
        .object({
          date: CalendarDate,
          lineId: LineId,
          bankAccountId: BankAccountId,
          isOpen: z.boolean(),
        })
        .nullable(),
    })
    .nullable(),
  /** What this statement itself says that it opened at, where that is another balance. */
  statedOpening: Minor.nullable(),
  /** The statement before, where there is one. */
  before: z.object({ to: CalendarDate, isAgreed: z.boolean() }).nullable(),
  after: CalendarDate.nullable(),
  /** Whether lines of the account that are dated in the period say whose card they were paid with. */
  hasHolders: z.boolean(),
  /** Lines dated in the period that count in another statement, and entries that are not ticked. */
  elsewhere: z.array(StatementRow),
  /** The lines that explanations name, in the statement or near it. */
  named: z.array(StatementRow.pick({ id: true, date: true, text: true, amount: true })),
  /** What the bank has not reported by the last day. */
  outstanding: z.array(OutstandingItem),
  explanations: z.array(Explanation),
  /** How many explanations somebody said are none. */
  dismissedCount: z.int(),
  hindrances: z.array(Hindrance),
  changes: z.array(StatementChange),
});
export type Statement = z.infer<typeof Statement>;

/** What somebody says of a statement; what is left out stays as it is. */
export const ChangeStatement = z.object({
  /** Null: what a file or feed states counts again. */
  closing: z
    .object({ amount: GivenAmount, currency: typedText(3) })
    .nullable()
    .optional(),
  /** The last day, where it is another than the cycle's. */
  lastDay: GivenDate.optional(),
  /** An explanation that is none. */
  dismiss: typedText(500).optional(),
  /** All explanations are looked at again. */
  restoreDismissed: z.literal(true).optional(),
});
export type ChangeStatement = z.infer<typeof ChangeStatement>;

/** Lines to be counted in the statement after or before, or by their own date again. */
export const MoveStatementLines = z.object({
  lineIds: z.array(LineId).min(1).max(500),
  into: z.enum(['next', 'previous', 'here', 'own']),
});
export type MoveStatementLines = z.infer<typeof MoveStatementLines>;

/** What is done about a line that makes a statement differ: it is a copy of another, or its amount is wrong. */
export const SettleCause = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('excludeCopy'), lineId: LineId, copyOf: LineId, seenStep: Seen }),
  z.object({ kind: z.literal('replace'), lineId: LineId, amount: GivenAmount, seenStep: Seen }),
]);
export type SettleCause = z.infer<typeof SettleCause>;

/** Entries that are on the printed statement, or aren't. */
export const TickEntries = z.object({
  legIds: z.array(Id).min(1).max(5_000),
  isTicked: z.boolean(),
});
export type TickEntries = z.infer<typeof TickEntries>;

export const AgreeStatement = z.object({ seenStep: Seen });
export type AgreeStatement = z.infer<typeof AgreeStatement>;

/** Opening a statement again takes a reason, which History keeps. */
export const ReopenStatement = z.object({
  reason: neededText(300, 'a reason is needed, for History'),
});
export type ReopenStatement = z.infer<typeof ReopenStatement>;

export const ChangeCycle = z.object({ cycle: Cycle });
export const NameHolders = z.object({ holderNames: HolderNames });
