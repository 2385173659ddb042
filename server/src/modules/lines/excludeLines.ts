import { randomUUID } from 'node:crypto';
import type {
  ExcludeDecided,
  ExcludeLines,
  KeptOutReason,
  LinesDone,
} from '@zubrell/contract/desk';
import { groupBy } from '@zubrell/core/groupBy';
import type { LineId } from '@zubrell/core/ids';
import { excludeReasons } from '@zubrell/core/ledger/excludeReasons';
import { formatAmount } from '@zubrell/core/money/formatAmount';
import { sumOf } from '@zubrell/core/money/minor';
import { ruleOf } from '@zubrell/core/propose/proposal';
import { dateSaid, linesSaid, type SaidValue, say } from '@zubrell/core/words/say';
import { needsLeave } from '../books/needsLeave.ts';
import { needs } from '../books/needsOf.ts';
import { booksCurrency } from '../books/queries.ts';
import { insertDecisions } from '../decisions/insertDecisions.ts';
import { openingDates } from '../ledger/openingBalance.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { putItems } from '../steps/putItems.ts';
import { plainWords, recordStep, type StepItem } from '../steps/recordStep.ts';
import { originalsOf } from './lineMates.ts';
import { settleLines } from './postLines.ts';
import { openingOf } from './reopenLines.ts';
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
  wanted: ExcludeLines,
): Promise<LinesDone> {
  await needsLeave(command, 'setAside');
  const { items, kept, done, leftOut } = await keepOut(command, wanted);
  if (done.length === 0) return { step: null, words: 'No lines excluded', done, leftOut };
  return keptOutStep(command, wanted, { items, kept, done, leftOut });
}

/**
 * Excludes or deletes decided lines for one reason, as one step: what was posted of them is voided, and what was decided
 * together with them is open again. Lines of which the reason isn't true, or on which something rests, stay as they are
 * and are named.
 *
 * @throws {ZubrellError} LEAVE_NEEDED
 */
export async function excludeDecided(
  command: BooksCommand,
  lineIds: readonly LineId[],
  { target: _target, seenStep, ...wanted }: ExcludeDecided,
): Promise<LinesDone> {
  await needsLeave(command, 'setAside');
  const leftOut: LeftOut[] = [];
  let rest = lineIds;
  while (rest.length > 0) {
    const tried = await tryOut(command, rest, seenStep, wanted);
    leftOut.push(...tried.leftOut);
    if (tried.isDone) return keptOutStep(command, wanted, { ...tried, leftOut });
    const left = new Set(tried.leftOut.map(({ lineId }) => lineId));
    rest = rest.filter((id) => !left.has(id));
  }
  return { step: null, words: 'No lines excluded', done: [], leftOut };
}

/** Some of the lines can't be kept out: what was done is to be rolled back. */
class SomeLeft extends Error {
  readonly leftOut: readonly LeftOut[];

  constructor(leftOut: readonly LeftOut[]) {
    super('some lines can’t be kept out');
    this.leftOut = leftOut;
  }
}

/** Keeps decided lines out, all or none of them. */
async function tryOut(
  command: BooksCommand,
  lineIds: readonly LineId[],
  seenStep: number,
  wanted: Omit<ExcludeLines, 'target' | 'seenStep'>,
): Promise<
  | (Out & { readonly isDone: true })
  | { readonly isDone: false; readonly leftOut: readonly LeftOut[] }
> {
  try {
    return await command.tx.transaction(async (tx) => {
      const within = { ...command, tx };
      const opening = await openingOf(within, lineIds, seenStep);
      if (opening.leftOut.length > 0) throw new SomeLeft(opening.leftOut);
      await putItems(within, opening.items);
      const opened = new Set(opening.done);
      const target = { lineIds: lineIds.filter((id) => opened.has(id)) };
      const out = await keepOut(within, { ...wanted, target, seenStep: command.step });
      if (out.leftOut.length > 0) throw new SomeLeft(out.leftOut);
      // What was decided together with them is open again.
      const after = new Map(out.items.map((item) => [item.thingId, item.after]));
      const items = opening.items.map((item) => ({
        ...item,
        after: item.thing === 'line' ? (after.get(item.thingId) ?? item.after) : item.after,
      }));
      return { ...out, items, isDone: true as const };
    });
  } catch (error) {
    if (error instanceof SomeLeft) return { isDone: false, leftOut: error.leftOut };
    throw error;
  }
}

/** Lines that are kept out, what the step touched, and which lines are not. */
interface Out {
  readonly items: readonly StepItem[];
  readonly kept: readonly KeptOut[];
  readonly done: LineId[];
  readonly leftOut: LeftOut[];
}

/** Keeps open lines out of the books for one reason. */
async function keepOut(
  command: BooksCommand,
  { target, reason, as: kind, originals = {}, seenStep }: ExcludeLines,
): Promise<Out> {
  const { tx, booksId } = command;
  const currency = await booksCurrency(tx, booksId);
  const all = await targetLines({ tx, booksId }, currency, target, seenStep);
  const found = withoutCounted(all);
  const checked = await checkReason(command, found, reason, originals);
  const leftOut = [...found.leftOut, ...checked.leftOut];
  const lines = checked.kept.flatMap((each) => each.lines);
  const done = lines.map(({ id }) => id);
  if (lines.length === 0) return { items: [], kept: [], done, leftOut };
  const items = await insertKeptOut(command, checked.kept, kind, reason);
  await settleLines(command, lines);
  return { items, kept: checked.kept, done, leftOut };
}

/** Records that lines were kept out. */
async function keptOutStep(
  command: BooksCommand,
  { as: kind, reason }: Pick<ExcludeLines, 'as' | 'reason'>,
  { items, kept, done, leftOut }: Out,
): Promise<LinesDone> {
  const verb = kind === 'excluded' ? say`Excluded` : say`Deleted`;
  const words = say`${verb} ${linesSaid(done.length)}: ${say([excludeReasons[reason]])}${await ofOriginal(command, kept)}`;
  await recordStep(command, {
    kind: kind === 'excluded' ? 'exclude' : 'delete',
    words,
    items,
    needs: needs(
      'lineHere',
      kept.map(({ copyOf }) => copyOf),
    ),
  });
  return { step: command.step, words: plainWords(words), done, leftOut };
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
): Promise<SaidValue> {
  const [first, ...others] = kept;
  const [line] = first?.lines ?? [];
  if (!first?.copyOf || !line) return '';
  const original = (await originalsOf(tx, booksId, [line.id]))
    .get(line.id)
    ?.find(({ id }) => id === first.copyOf);
  if (!original) return '';
  const more = others.length === 0 ? '' : say` and ${others.length} more`;
  return say` of ${original.description} on ${dateSaid(original.date)}${more}`;
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
