import type { BooksSetup } from '@zubrell/contract/books';
import type { DraftCoding } from '@zubrell/contract/coding';
import type { DeskLine, Proposal, Stack } from '@zubrell/contract/desk';
import type { AccountId, LineId } from '@zubrell/core/ids';
import { heldHeadings, heldLabels } from '@zubrell/core/intake/held';
import { lacksClient } from '@zubrell/core/ledger/clientMoney';
import type { Coding } from '@zubrell/core/ledger/coding';
import { demandedWords, type MissableField, missingFields } from '@zubrell/core/ledger/demands';
import { sumOf } from '@zubrell/core/money/minor';
import { candidateNames } from '@zubrell/core/pair/candidateNames';
import { type Lane, laneOf, proposedCoding } from '@zubrell/core/propose/proposal';
import { doubtHeading, doubtLabel } from '@zubrell/core/propose/words';
import { lowerFirst } from '@zubrell/core/text/lowerFirst';
import { t } from '@zubrell/core/words/t';
import { clientMoneyOf, ledgerOf } from '../../app/clientMoney.ts';
import { objectsOf } from './splitting/split.ts';

/** A row of the Desk's list: a stack's head, or a line. */
export type DeskRow =
  | { readonly kind: 'stack'; readonly id: string; readonly stack: Stack }
  | { readonly kind: 'line'; readonly id: string; readonly line: DeskLine }
  | TickedRow
  | LaneRow;

/** All lines of the lane as if they were one row. */
export interface LaneRow {
  readonly kind: 'lane';
  readonly id: 'lane';
  readonly count: number;
  readonly total: number;
}

/** All lines of a lane's stacks as a row. */
export function laneRow(stacks: readonly Stack[]): LaneRow {
  const sum = (of: (stack: Stack) => number) => stacks.reduce((all, each) => all + of(each), 0);
  return {
    kind: 'lane',
    id: 'lane',
    count: sum(({ count }) => count),
    total: sum(({ total }) => total),
  };
}

/** The ticked lines as if they were one row. */
export interface TickedRow {
  readonly kind: 'ticked';
  readonly id: 'ticked';
  readonly lineIds: readonly LineId[];
  readonly total: number;
  /** In which all of them are; null where they are in several. */
  readonly currency: string | null;
}

/** A stack's id among the rows. */
export function stackId(stack: Pick<Stack, 'grouping' | 'key' | 'direction'>): string {
  return `${stack.grouping}|${stack.direction}|${stack.key}`;
}

/** The rows to show: every stack, and below the open one its lines. */
export function deskRows(
  stacks: readonly Stack[],
  openStack: string | null,
  lines: readonly DeskLine[],
): DeskRow[] {
  return stacks.flatMap((stack): DeskRow[] => {
    const id = stackId(stack);
    const head: DeskRow = { kind: 'stack', id, stack };
    return id === openStack ? [head, ...lines.map(lineRow)] : [head];
  });
}

/** The doubt that a stack is shown with, in a few words; null where there is none. */
export function stackDoubt({
  twiceCount,
  answeredCount,
  answer,
  held,
  proposal,
  equalLines,
  equalCount,
  direction,
}: Stack): string | null {
  if (twiceCount > 0) return t`may be the same payment twice`;
  if (answeredCount > 0)
    return answer === null ? t`an answer was received` : t`answered: “${answer}”`;
  if (held !== null) return heldLabels[held];
  if (equalLines !== null) {
    const equal = direction === 'in' ? t`equal receipts` : t`equal payments`;
    return equalCount === 1
      ? t`${equalLines.count + 1} ${equal} for ${lowerFirst(candidateNames(equalLines.targets))}`
      : t`more ${equal} than open items`;
  }
  const [doubt] = proposal?.doubts ?? [];
  return doubt ? doubtLabel(doubt) : null;
}

/** The heading over stacks of one kind of doubt. */
export function doubtHeadingOf(stack: Stack): string {
  if (stack.twiceCount > 0) return t`May be the same payment twice`;
  if (stack.answeredCount > 0) return t`Answers received`;
  if (stack.held !== null) return heldHeadings[stack.held];
  const [doubt] = stack.proposal?.doubts ?? [];
  if (doubt) return doubtHeading(doubt);
  return stack.pairCount === stack.count
    ? t`Already in the books, each with its own doubt`
    : t`Lines with different proposals`;
}

/** For each row, the heading that stands above it; null where it goes on as above. */
export function doubtHeadings(rows: readonly DeskRow[]): readonly (string | null)[] {
  let above: string | null = null;
  return rows.map((row) => {
    if (row.kind !== 'stack') return null;
    const heading = doubtHeadingOf(row.stack);
    if (heading === above) return null;
    above = heading;
    return heading;
  });
}

/** The stems of the stacks that ticked lines stand in, where those are stacks of look-alikes. */
export function stemsOf(ticked: Readonly<Record<string, { readonly stack: string }>>): string[] {
  const stems = Object.values(ticked).flatMap(({ stack }) => {
    const [grouping, , ...key] = stack.split('|');
    return grouping === 'lookAlikes' ? [key.join('|')] : [];
  });
  return [...new Set(stems)];
}

/** The lane of an open line: a question keeps it in Asked, a doubt about the line itself in Check. */
export function laneOfLine({ asked, twiceOf, held, proposal }: DeskLine): Lane {
  if (asked === 'open') return 'asked';
  const isDoubted = asked === 'answered' || twiceOf !== null || held !== null;
  return isDoubted ? 'check' : laneOf(proposal);
}

/** Whether a row is ticked, wholly or in part. */
export function tickState(
  row: DeskRow,
  ticked: Readonly<Record<string, { readonly stack: string }>>,
): 'on' | 'some' | 'off' {
  if (row.kind !== 'stack') return row.id in ticked ? 'on' : 'off';
  let own = 0;
  for (const id in ticked) if (ticked[id]?.stack === row.id) own += 1;
  return own === 0 ? 'off' : own < row.stack.count ? 'some' : 'on';
}

/** The ticked lines as a row; null while none is ticked. */
export function tickedRow(
  ticked: Readonly<Record<string, { readonly amount: number; readonly currency: string }>>,
): TickedRow | null {
  const lineIds = Object.keys(ticked);
  if (lineIds.length === 0) return null;
  const lines = Object.values(ticked);
  const [currency = null, ...others] = new Set(lines.map((line) => line.currency));
  const total = sumOf(lines);
  return {
    kind: 'ticked',
    id: 'ticked',
    lineIds,
    total,
    currency: others.length > 0 ? null : currency,
  };
}

/** A line as a row. */
export function lineRow(line: DeskLine): Extract<DeskRow, { kind: 'line' }> {
  return { kind: 'line', id: line.id, line };
}

/** A coding in which nothing is filled in. */
export const emptyCoding: DraftCoding = {
  payeeId: null,
  accountId: null,
  taxCodeId: null,
  note: null,
  tax: null,
  parts: null,
};

/** What stands in a row's fields: what was typed, else its draft, else what is proposed. */
export function rowCoding(row: DeskRow, edits: Readonly<Record<string, DraftCoding>>): DraftCoding {
  if (row.kind === 'ticked' || row.kind === 'lane') return edits[row.id] ?? emptyCoding;
  const source = row.kind === 'stack' ? row.stack : row.line;
  return edits[row.id] ?? source.draft ?? fromProposal(source.proposal);
}

function fromProposal(proposal: Proposal | null): DraftCoding {
  const coding = proposedCoding(proposal);
  return coding === null ? emptyCoding : draftOf(coding);
}

/** A complete coding as a draft that can be changed. */
export function draftOf({ payeeId, parts, note }: Coding): DraftCoding {
  const [first] = parts;
  if (!first) return emptyCoding;
  const { share: _share, ...coded } = first;
  return { payeeId, note, ...coded, parts: parts.length > 1 ? [...parts] : null };
}

/** The ledger account of the bank account that a row is of; null where it may be of several. */
export function ownAccountOf(
  row: DeskRow,
  setup: Pick<BooksSetup, 'bankAccounts'>,
): AccountId | null {
  return row.kind === 'line' ? ledgerOf(setup, row.line.bankAccountId) : null;
}

/**
 * A coding to post, or what is still missing, in words: also what the books demand.
 *
 * @param ownAccountId the ledger account of the line's bank account, see `ownAccountOf`
 */
export function completeCoding(
  draft: DraftCoding,
  setup: Pick<BooksSetup, 'accounts' | 'books' | 'bankAccounts' | 'payees'>,
  ownAccountId: AccountId | null = null,
): { readonly coding: Coding } | { readonly missing: string } {
  const filled = filledCoding(draft);
  if ('missing' in filled) return filled;
  const missing: MissableField[] = missingFields(
    setup.books.demands,
    filled.coding,
    (id) => setup.accounts.find((account) => account.id === id)?.type ?? null,
  );
  if (lacksClient(filled.coding, ownAccountId, clientMoneyOf(setup))) missing.push('clientId');
  return missing.length === 0 ? filled : { missing: demandedWords(missing) };
}

function filledCoding(
  draft: DraftCoding,
): { readonly coding: Coding } | { readonly missing: string } {
  const { payeeId, note, parts } = draft;
  const rate = draft.rate ? { rate: draft.rate } : {};
  if (parts !== null) {
    const complete = parts.flatMap(({ accountId, ...part }) =>
      accountId === null ? [] : [{ ...part, accountId }],
    );
    if (complete.length < parts.length) return { missing: t`the account of each part` };
    return { coding: { payeeId, parts: complete, note, ...rate } };
  }
  const { accountId, taxCodeId, tax } = draft;
  if (accountId === null) return { missing: t`the account` };
  const objects = objectsOf(draft);
  return {
    coding: {
      payeeId,
      parts: [{ accountId, taxCodeId, share: { kind: 'rest' }, tax, ...objects }],
      note,
      ...rate,
    },
  };
}

/** Whether two codings say the same. */
export function isSameCoding(a: DraftCoding, b: DraftCoding): boolean {
  return (
    a.payeeId === b.payeeId &&
    (a.note ?? '') === (b.note ?? '') &&
    (a.rate ?? null) === (b.rate ?? null) &&
    JSON.stringify(partsOf(a)) === JSON.stringify(partsOf(b))
  );
}

function partsOf(coding: DraftCoding): unknown[] {
  const { accountId, taxCodeId, tax, parts } = coding;
  const objects = [
    coding.costCentreId ?? null,
    coding.jobId ?? null,
    coding.isRecharged ?? false,
    coding.clientId ?? null,
  ];
  if (parts === null) return [accountId, taxCodeId, tax, ...objects];
  return parts.map((part) => [
    part.accountId,
    part.taxCodeId,
    part.share,
    part.tax,
    part.costCentreId ?? null,
    part.jobId ?? null,
    part.isRecharged ?? false,
    part.clientId ?? null,
  ]);
}

/** What can be proposed for a row instead of posting it. Of a stack whose lines all are something else in the books, only that. */
export type Instead =
  | Exclude<Proposal, { kind: 'post' }>
  | { readonly kind: 'pair'; readonly targets: null; readonly count: number };

/** What is proposed for a row instead of posting it, unless something was typed into it; else null. */
export function proposedInstead(row: DeskRow, coding: DraftCoding): Instead | null {
  if (row.kind === 'ticked' || row.kind === 'lane') return null;
  const { proposal } = row.kind === 'stack' ? row.stack : row.line;
  if (!isSameCoding(coding, emptyCoding)) return null;
  if (proposal !== null) return proposal.kind === 'post' ? null : proposal;
  if (row.kind !== 'stack') return null;
  const { count, pairCount } = row.stack;
  return pairCount === count ? { kind: 'pair', targets: null, count } : null;
}

/** The accounts that a row could be coded to: what is proposed, and what else look-alikes had. */
export function alternativesOf(proposal: Proposal | null): readonly string[] {
  const proposed = proposedCoding(proposal)?.parts[0]?.accountId;
  const several = proposal?.doubts.find((doubt) => doubt.kind === 'severalAccounts');
  const said = proposal?.grounds.find((ground) => ground.kind === 'habitSays');
  const others = [...(several?.accounts ?? []), ...(said ? [said] : [])];
  return [...new Set([...(proposed ? [proposed] : []), ...others.map((each) => each.accountId)])];
}
