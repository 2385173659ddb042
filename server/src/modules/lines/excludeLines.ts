import { randomUUID } from 'node:crypto';
import type { ExcludeLines, KeptOutReason, LinesDone } from '@zubrell/contract/desk';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { groupBy } from '@zubrell/core/groupBy';
import { excludeReasons } from '@zubrell/core/ledger/excludeReasons';
import { formatAmount } from '@zubrell/core/money/formatAmount';
import { sumOf } from '@zubrell/core/money/minor';
import { ruleOf } from '@zubrell/core/propose/proposal';
import { needsLeave } from '../books/needsLeave.ts';
import { needs } from '../books/needsOf.ts';
import { booksCurrency } from '../books/queries.ts';
import { insertDecisions } from '../decisions/insertDecisions.ts';
import { openingDates } from '../ledger/openingBalance.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { recordStep, type StepItem } from '../steps/recordStep.ts';
import { originalsOf } from './lineMates.ts';
import { countLines, settleLines } from './postLines.ts';
import {
  type LeftOut,
  leftOutFor,
  type TargetLine,
  targetLines,
  withoutCounted,
} from './targetLines.ts';

/** Lines that are kept out by one decision, and the line that they are a copy of. */
interface KeptOut {
  readonly lines: readonly TargetLine[];
  readonly copyOf?: string;
}

/** The originals that were named, by copy. */
type Originals = NonNullable<ExcludeLines['originals']>;

interface Checked {
  readonly kept: readonly KeptOut[];
  readonly leftOut: readonly LeftOut[];
}

/**
 * Excludes or deletes open lines for one reason, as one step. The reason has to be true of each line: a second copy
 * has its original, a line before the opening balance is dated so, and what a bank booked in error comes to zero
 * with its correction. Others are left out and named.
 */
export async function excludeLines(
  command: BooksCommand,
  { target, reason, as: kind, originals = {}, seenStep }: ExcludeLines,
): Promise<LinesDone> {
  await needsLeave(command, 'setAside');
  const { tx, booksId, step } = command;
  const currency = await booksCurrency(tx, booksId);
  const all = await targetLines({ tx, booksId }, currency, target, seenStep);
  const found = withoutCounted(all);
  const checked = await checkReason(command, found, reason, originals);
  const leftOut = [...found.leftOut, ...checked.leftOut];
  const lines = checked.kept.flatMap((each) => each.lines);
  if (lines.length === 0) return { step: null, words: 'No lines excluded', done: [], leftOut };
  const items = await insertKeptOut(command, checked.kept, kind, reason);
  await settleLines(command, lines);
  const verb = kind === 'excluded' ? 'Excluded' : 'Deleted';
  const words = `${verb} ${countLines(lines.length)}: ${excludeReasons[reason]}${await ofOriginal(command, checked.kept)}`;
  await recordStep(command, {
    kind: kind === 'excluded' ? 'exclude' : 'delete',
    words,
    items,
    needs: needs(
      'lineHere',
      checked.kept.map(({ copyOf }) => copyOf),
    ),
  });
  return { step, words, done: lines.map(({ id }) => id), leftOut };
}

/** Which lines a reason is true of, with what it names. */
function checkReason(
  command: BooksCommand,
  found: { readonly lines: readonly TargetLine[]; readonly leftOut: readonly LeftOut[] },
  reason: ExcludeLines['reason'],
  originals: Originals,
): Promise<Checked> {
  switch (reason) {
    case 'secondCopy':
      return checkCopies(command, found.lines, originals);
    case 'beforeOpening':
      return checkBefore(command, found.lines);
    case 'bankError':
      return checkErrors(command, found.lines);
  }
}

async function checkCopies(
  { tx, booksId }: BooksCommand,
  lines: readonly TargetLine[],
  originals: Originals,
): Promise<Checked> {
  const ids = lines.map(({ id }) => id);
  const possible = await originalsOf(tx, booksId, ids);
  const leftOut: LeftOut[] = [];
  const kept = lines.flatMap((line): KeptOut[] => {
    const candidates = possible.get(line.id) ?? [];
    const said = originals[line.id] ?? line.twiceOf;
    const [only] = candidates;
    const original = said
      ? candidates.find(({ id }) => id === said)
      : candidates.length === 1
        ? only
        : undefined;
    if (original) return [{ lines: [line], copyOf: original.id }];
    const isUnclear = candidates.length > 1 && !said;
    leftOut.push(leftOutFor(line.id, isUnclear ? 'EXCLUDE_WHICH_COPY' : 'EXCLUDE_NO_ORIGINAL'));
    return [];
  });
  return { kept, leftOut };
}

async function checkBefore(
  { tx, booksId }: BooksCommand,
  lines: readonly TargetLine[],
): Promise<Checked> {
  const openings = await openingDates(tx, booksId);
  const leftOut: LeftOut[] = [];
  const kept = lines.flatMap((line): KeptOut[] => {
    const opening = openings.get(line.ledgerAccountId);
    if (opening !== undefined && line.date <= opening) return [{ lines: [line] }];
    leftOut.push(
      opening === undefined
        ? leftOutFor(line.id, 'EXCLUDE_NO_OPENING')
        : leftOutFor(line.id, 'EXCLUDE_NOT_BEFORE', { date: line.date, opening }),
    );
    return [];
  });
  return { kept, leftOut };
}

async function checkErrors(
  { tx, booksId }: BooksCommand,
  lines: readonly TargetLine[],
): Promise<Checked> {
  const currency = await booksCurrency(tx, booksId);
  const kept: KeptOut[] = [];
  const leftOut: LeftOut[] = [];
  for (const own of groupBy(lines, ({ bankAccountId }) => bankAccountId).values()) {
    const total = sumOf(own);
    if (total === 0 && own.length > 1) kept.push({ lines: own });
    else {
      const params = { total: formatAmount(total, currency) };
      leftOut.push(...own.map(({ id }) => leftOutFor(id, 'EXCLUDE_NOT_ZERO', params)));
    }
  }
  return { kept, leftOut };
}

/** Names the original of a single copy. */
async function ofOriginal(
  { tx, booksId }: BooksCommand,
  kept: readonly KeptOut[],
): Promise<string> {
  const [first, ...others] = kept;
  const [line] = first?.lines ?? [];
  if (!first?.copyOf || !line) return '';
  const original = (await originalsOf(tx, booksId, [line.id]))
    .get(line.id)
    ?.find(({ id }) => id === first.copyOf);
  if (!original) return '';
  const more = others.length === 0 ? '' : ` and ${others.length} more`;
  return ` of ${original.description} on ${formatLongDate(original.date)}${more}`;
}

/**
 * Writes decisions that keep lines out of the books.
 *
 * @returns what the step touched
 */
export async function insertKeptOut(
  command: BooksCommand,
  kept: readonly (Omit<KeptOut, 'lines'> & {
    readonly lines: readonly (Pick<TargetLine, 'id'> & Partial<Pick<TargetLine, 'proposal'>>)[];
  })[],
  kind: 'excluded' | 'deleted',
  reason: KeptOutReason,
): Promise<StepItem[]> {
  return insertDecisions(
    command,
    kept.map(({ lines, copyOf }) => {
      const proposal = lines[0]?.proposal ?? null;
      return {
        id: randomUUID(),
        kind,
        reason,
        copyOf: copyOf ?? null,
        proposedBy: proposal?.source ?? null,
        ruleId: ruleOf(proposal),
        isKept: proposal?.kind === 'exclude' && proposal.reason === reason,
        lineIds: lines.map(({ id }) => id),
      };
    }),
  );
}
