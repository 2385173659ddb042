import type { DraftCoding } from '@zubrell/contract/coding';
import type { DeskLine, ExcludeReason, LinesDone, Stack, Target } from '@zubrell/contract/desk';
import type { BankAccountId, LineId } from '@zubrell/core/ids';
import { MOST_OF_STACK } from '@zubrell/core/propose/mostOfStack';
import { t } from '@zubrell/core/words/t';
import { createContext, useContext } from 'react';
import { linesApi } from '../../api/lines.ts';
import { pairingApi } from '../../api/pairing.ts';
import { questionsApi } from '../../api/questions.ts';
import { countLines, formatCount } from '../../app/formats.ts';
import { shownProblem } from '../../app/problem.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { toast } from '../../app/toast.ts';
import { useBooks } from '../../app/useBooks.ts';
import { type CommandAnswer, useUndo } from '../../app/useUndo.tsx';
import { draftSaved, edited, left, linesTicked, settled, stayed } from './deskSlice.ts';
import {
  completeCoding,
  type DeskRow,
  type Instead,
  isSameCoding,
  ownAccountOf,
  proposedInstead,
  rowCoding,
  stackId,
  tickState,
} from './rows.ts';
import { useDeskScope } from './useDeskScope.ts';
import { useSeenStep } from './useSeenStep.ts';
import { useStackLines } from './useStackLines.ts';

/** How a row is kept out of the books. */
export interface ExcludeOptions {
  readonly as?: 'excluded' | 'deleted';
  /** The only line of the row. */
  readonly lineId?: LineId | null;
  /** The line that it is a copy of. */
  readonly originalId?: string | undefined;
  /** The line by which the bank corrects it, and that is excluded with it. */
  readonly correctionId?: string | undefined;
}

/** What can be done with a row of the Desk. */
export interface DeskActions {
  readonly codingOf: (row: DeskRow) => DraftCoding;
  /** What is proposed for a row instead of posting it; null where it is to be posted. */
  readonly insteadOf: (row: DeskRow) => Instead | null;
  /** Types a coding into a row; a line's is saved as its draft. */
  readonly edit: (row: DeskRow, coding: DraftCoding) => Promise<void>;
  /**
   * Posts a row, or does with it what is proposed instead where nothing was typed: pair, ask, or exclude.
   *
   * A whole stack leaves the list as it is sent, without waiting for the answer; it is back where nothing comes of it.
   *
   * @param isOnce whether nothing is to be learned from it
   * @returns whether anything was done, or was sent
   */
  readonly post: (row: DeskRow, isOnce?: boolean) => Promise<boolean>;
  readonly exclude: (
    row: DeskRow,
    reason: ExcludeReason,
    options?: ExcludeOptions,
  ) => Promise<boolean>;
  /** Asks somebody about a row's lines. @returns whether anything was asked */
  readonly ask: (row: DeskRow, askedOf: string, words: string) => Promise<boolean>;
  /** Puts a row's asked lines on the suspense account. */
  readonly suspend: (row: DeskRow) => Promise<boolean>;
  /** Moves a row's lines to the bank account they belong to. */
  readonly moveTo: (row: DeskRow, bankAccountId: BankAccountId) => Promise<boolean>;
  /** Ticks a row, or unticks it. */
  readonly tick: (row: DeskRow) => Promise<void>;
  /** Says that a line is no second copy. */
  readonly confirmBothReal: (row: DeskRow) => Promise<boolean>;
  /** Opens a decided line again, by itself. */
  readonly reopen: (line: Pick<DeskLine, 'id'>) => Promise<void>;
}

/** The Desk's actions, made once for all its rows. */
export const DeskActionsContext = createContext<DeskActions | null>(null);

/** What can be done with rows of the Desk. */
export function useDeskActions(): DeskActions {
  const actions = useContext(DeskActionsContext);
  if (actions === null) throw new Error('the Desk’s actions are only there in the Desk');
  return actions;
}

/** Makes the Desk's actions: coding, posting and excluding stacks and lines, with what to tell of it. */
export function useMakeDeskActions(): DeskActions {
  const { booksId, setup, currencyOf } = useBooks();
  const { lane, scope, grouping } = useDeskScope();
  const { told } = useUndo();
  const dispatch = useAppDispatch();
  const edits = useAppSelector((state) => state.desk.edits);
  const versions = useAppSelector((state) => state.desk.draftVersions);
  const ticked = useAppSelector((state) => state.desk.ticked);
  const openStack = useAppSelector((state) => state.desk.openStack);
  const [saveDraft] = linesApi.useSaveDraftMutation();
  const [saveStackDraft] = linesApi.useSaveStackDraftMutation();
  const [sendPost] = linesApi.usePostLinesMutation();
  const [sendPairs] = pairingApi.usePairProposedMutation();
  const newLines = useAppSelector((state) => state.desk.newLines);
  const [sendExclude] = linesApi.useExcludeLinesMutation();
  const [sendMove] = linesApi.useMoveLinesMutation();
  const [sendAsk] = questionsApi.useAskLinesMutation();
  const [sendSuspend] = questionsApi.useSuspendLinesMutation();
  const [sendBothReal] = linesApi.useConfirmBothRealMutation();
  const [sendReopen] = linesApi.useReopenLinesMutation();
  const linesOfStack = useStackLines();
  const seenStep = useSeenStep();
  const openLane = lane === 'decided' ? 'blank' : lane;

  const codingOf = (row: DeskRow) => rowCoding(row, edits);
  const insteadOf = (row: DeskRow) =>
    row.id in newLines ? null : proposedInstead(row, codingOf(row));

  /** Lines of a stack to do something with; says so where these are not all. */
  async function linesMeant(stack: Stack, isShownEnough: boolean) {
    const lines = await linesOfStack(stack, isShownEnough);
    if (lines?.length === MOST_OF_STACK && stack.count > MOST_OF_STACK) {
      toast.warning(
        t`This takes the oldest ${formatCount(MOST_OF_STACK)} of ${countLines(stack.count)}. Do it again for the rest.`,
      );
    }
    return lines;
  }

  /**
   * The lines a row stands for; of a stack, those that were not coded on their own. Null where it can't be told
   * which these are: then nothing is done, rather than something with lines that somebody coded otherwise.
   */
  async function targetOf(row: DeskRow): Promise<Target | null> {
    if (row.kind === 'line') return { lineIds: [row.id] };
    if (row.kind === 'ticked') return { lineIds: [...row.lineIds] };
    if (row.kind === 'lane') return { lane: openLane, scope };
    const { stack } = row;
    const { grouping, key, direction } = stack;
    const named = { grouping, key, direction } as const;
    const whole: Target = { stack: named, lane: openLane, scope };
    const isMixed = stack.draftCount > 0 && stack.draft === null;
    if (!isMixed && !Object.keys(edits).some((id) => id in versions)) return whole;
    const lines = await linesMeant(stack, false);
    if (lines === null) return null;
    const coding = codingOf(row);
    const alike = lines.filter((line) => {
      const own = edits[line.id] ?? line.draft;
      const isFromStack = own !== null && stack.draft !== null && isSameCoding(own, stack.draft);
      return own === null || isFromStack || isSameCoding(own, coding);
    });
    return alike.length > 0 ? { lineIds: alike.map((line) => line.id) } : whole;
  }

  /** Tells what came of a command on a row, and lets go what was decided. */
  function settle(row: DeskRow, answer: CommandAnswer & { readonly data?: LinesDone | undefined }) {
    if (!told(answer)) return false;
    const done = answer.data?.done ?? [];
    dispatch(settled([row.id, ...done]));
    // The stack goes at once; what the server says of the rest comes a moment later.
    if (row.kind === 'stack' && done.length >= row.stack.count) {
      dispatch(
        linesApi.util.updateQueryData(
          'stacks',
          { booksId, ...scope, lane: openLane, grouping },
          (found) => {
            found.stacks = found.stacks.filter((stack) => stackId(stack) !== row.id);
          },
        ),
      );
    }
    return true;
  }

  /** Settles a row when the answer is there; a whole stack is not waited for. @returns whether the row is gone */
  async function settleLater(
    row: DeskRow,
    target: Target,
    answer: PromiseLike<CommandAnswer & { readonly data?: LinesDone | undefined }>,
  ): Promise<boolean> {
    if (!('stack' in target)) return settle(row, await answer);
    dispatch(left(row.id));
    void answer.then((came) => {
      if (!settle(row, came)) dispatch(stayed(row.id));
    });
    return true;
  }

  /** Keeps what was typed on a stack's head with its lines, so that it is there again as a line's draft is. */
  async function keepOnStack(
    { id, stack }: Extract<DeskRow, { kind: 'stack' }>,
    coding: DraftCoding,
    typed: DraftCoding,
  ): Promise<void> {
    if (lane === 'decided') return;
    const { grouping: by, key, direction } = stack;
    const before = id in edits ? typed : stack.draft;
    const named = { grouping: by, key, direction };
    const answer = await saveStackDraft({ booksId, stack: named, lane, scope, coding, before });
    if (answer.error) toast.error(shownProblem(answer.error).message);
    // The lines that are shown have newer drafts now.
    else if (openStack === id) await linesOfStack(stack, false);
  }

  return {
    codingOf,
    insteadOf,
    edit: async (row, coding) => {
      const before = codingOf(row);
      dispatch(edited({ id: row.id, coding }));
      if (row.kind === 'stack') await keepOnStack(row, coding, before);
      if (row.kind !== 'line') return;
      const version = versions[row.id] ?? row.line.draftVersion;
      const answer = await saveDraft({ booksId, lineId: row.id, coding, version });
      if (answer.data) dispatch(draftSaved({ id: row.id, version: answer.data.version }));
      else toast.error(shownProblem(answer.error).message);
    },
    post: async (row, isOnce = false) => {
      const instead = insteadOf(row);
      if (instead !== null) {
        const target = await targetOf(row);
        if (target === null) return false;
        const answer =
          instead.kind === 'pair'
            ? sendPairs({ booksId, target, seenStep })
            : instead.kind === 'ask'
              ? sendAsk({
                  booksId,
                  target,
                  askedOf: instead.askedOf,
                  words: instead.words,
                  seenStep,
                })
              : sendExclude({ booksId, target, reason: instead.reason, as: 'excluded', seenStep });
        return settleLater(row, target, answer);
      }
      const complete = completeCoding(codingOf(row), setup, ownAccountOf(row, setup));
      if ('missing' in complete) {
        toast.warning(t`Enter ${complete.missing}.`);
        return false;
      }
      const target = await targetOf(row);
      if (target === null) return false;
      const answer = sendPost({
        booksId,
        target,
        coding: complete.coding,
        isOnce,
        isNew: row.id in newLines,
        seenStep,
      });
      return settleLater(row, target, answer);
    },
    tick: async (row) => {
      const isOn = tickState(row, ticked) !== 'on';
      if (row.kind === 'line') {
        const stack = openStack ?? '';
        const { amount, bankAccountId } = row.line;
        const lines = [{ id: row.id, amount, currency: currencyOf(bankAccountId), stack }];
        dispatch(linesTicked({ lines, isOn }));
      } else if (row.kind === 'stack' && lane !== 'decided') {
        const lines = await linesMeant(row.stack, true);
        if (lines === null) return;
        const toTick = lines.map(({ id, amount, bankAccountId }) => ({
          id,
          amount,
          currency: currencyOf(bankAccountId),
          stack: row.id,
        }));
        dispatch(linesTicked({ lines: toTick, isOn }));
      }
    },
    moveTo: async (row, bankAccountId) => {
      const target = await targetOf(row);
      if (target === null) return false;
      return settle(row, await sendMove({ booksId, target, bankAccountId, seenStep }));
    },
    ask: async (row, askedOf, words) => {
      const target = await targetOf(row);
      if (target === null) return false;
      return settle(row, await sendAsk({ booksId, target, askedOf, words, seenStep }));
    },
    suspend: async (row) => {
      const target = await targetOf(row);
      if (target === null) return false;
      return settle(row, await sendSuspend({ booksId, target, seenStep }));
    },
    confirmBothReal: async (row) => {
      return settle(row, await sendBothReal({ booksId, lineIds: [row.id], seenStep }));
    },
    reopen: async (line) => {
      told(await sendReopen({ booksId, target: { lineIds: [line.id] }, seenStep }));
    },
    exclude: async (row, reason, options = {}) => {
      const { as = 'excluded', lineId, originalId, correctionId } = options;
      const only = lineId ?? (row.kind === 'line' ? row.id : null);
      const target: Target | null = only
        ? { lineIds: [only, ...(correctionId ? [correctionId] : [])] }
        : await targetOf(row);
      if (target === null) return false;
      const originals = only && originalId ? { originals: { [only]: originalId } } : {};
      return settle(
        row,
        await sendExclude({ booksId, target, reason, as, ...originals, seenStep }),
      );
    },
  };
}
