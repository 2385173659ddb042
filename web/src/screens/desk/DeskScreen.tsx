import { skipToken } from '@reduxjs/toolkit/query';
import { t } from '@zubrell/core/words/t';
import { useCallback, useEffect, useMemo, useRef } from 'react';
import { linesApi } from '../../api/lines.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { useBooks } from '../../app/useBooks.ts';
import { late, lateDialog, useAhead } from '../../ui/late.tsx';
import { DeskList } from './DeskList.tsx';
import './desk.scss';
import { dialogOpened, moved, sheetTurned, stackOpened } from './deskSlice.ts';
import { Lanes } from './Lanes.tsx';
import { ProofStrip } from './proof/ProofStrip.tsx';
import { RowSheet } from './RowSheet.tsx';
import { deskRows, laneRow, lineRow, stackId, tickedRow } from './rows.ts';
import { decidedAsked, stacksAsked } from './rowsAsked.ts';
import { ScopeRow } from './ScopeRow.tsx';
import { sortLines, sortStacks } from './sortRows.ts';
import { DeskActionsContext, useMakeDeskActions } from './useDeskActions.ts';
import { useDeskKeys } from './useDeskKeys.ts';
import { useDeskScope } from './useDeskScope.ts';
import { useListFocus } from './useListFocus.ts';
import { useScopeKept } from './useScopeKept.ts';

const AskDialog = lateDialog(async () => (await import('./AskDialog.tsx')).AskDialog);
const ExcludeDialog = lateDialog(async () => (await import('./ExcludeDialog.tsx')).ExcludeDialog);
const KeysDialog = lateDialog(async () => (await import('./KeysDialog.tsx')).KeysDialog);
const SweepDialog = lateDialog(async () => (await import('./SweepDialog.tsx')).SweepDialog);
const DecidedFilterBar = late(
  async () => (await import('./decided/DecidedFilterBar.tsx')).DecidedFilterBar,
);
const RecodeBar = late(async () => (await import('./decided/RecodeBar.tsx')).RecodeBar);
const TickedBar = late(async () => (await import('./TickedBar.tsx')).TickedBar);
const AHEAD = [
  AskDialog.fetch,
  ExcludeDialog.fetch,
  SweepDialog.fetch,
  DecidedFilterBar.fetch,
  RecodeBar.fetch,
  TickedBar.fetch,
];

/** Where the work happens: lanes, stacks, the line sheet, the proof. */
export function DeskScreen() {
  return (
    <DeskActionsContext value={useMakeDeskActions()}>
      <DeskRows />
    </DeskActionsContext>
  );
}

function DeskRows() {
  const { booksId } = useBooks();
  const shown = useDeskScope();
  const { lane, grouping, scope, sorting } = shown;
  const desk = useAppSelector((state) => state.desk);
  const dispatch = useAppDispatch();
  const list = useRef<HTMLDivElement>(null);
  const isDecided = lane === 'decided';

  const stacks = linesApi.useStacksQuery(stacksAsked(booksId, shown));
  const opened = stacks.data?.stacks.find((stack) => stackId(stack) === desk.openStack);
  const lines = linesApi.useStackLinesQuery(
    opened && !isDecided
      ? {
          booksId,
          ...scope,
          lane,
          grouping: opened.grouping,
          key: opened.key,
          direction: opened.direction,
        }
      : skipToken,
  );
  const decided = linesApi.useDecidedLinesInfiniteQuery(decidedAsked(booksId, shown));

  const rows = useMemo(
    () =>
      isDecided
        ? (decided.data?.pages.flatMap((page) => page.items.map(lineRow)) ?? [])
        : deskRows(
            sortStacks(
              (stacks.data?.stacks ?? []).filter((stack) => !(stackId(stack) in desk.leaving)),
              sorting,
            ),
            desk.openStack,
            sortLines(lines.data?.lines ?? [], sorting),
          ),
    [isDecided, sorting, decided.data, stacks.data, desk.leaving, desk.openStack, lines.data],
  );
  const found = rows.findIndex((row) => row.id === desk.currentId);
  const index = found >= 0 ? found : Math.min(desk.currentIndex, rows.length - 1);
  const row = rows[index] ?? null;
  const whole = useMemo(() => laneRow(stacks.data?.stacks ?? []), [stacks.data]);
  const ticked = useMemo(() => tickedRow(desk.ticked), [desk.ticked]);
  const closeDialog = () => {
    dispatch(dialogOpened(null));
    list.current?.focus();
  };

  const latest = useRef(rows);
  latest.current = rows;
  const move = useCallback(
    (to: number) => {
      const now = latest.current;
      const at = Math.max(0, Math.min(to, now.length - 1));
      const target = now[at];
      if (target) dispatch(moved({ id: target.id, index: at }));
    },
    [dispatch],
  );
  // After a stack that left, the cursor stays on what took its place, whatever comes back above it.
  const isPinned = desk.currentId !== null || Object.keys(desk.leaving).length === 0;
  useEffect(() => {
    if (!isPinned) move(index);
  }, [isPinned, index, move]);
  const open = useCallback((id: string | null) => dispatch(stackOpened(id)), [dispatch]);
  const focusList = useCallback(() => {
    dispatch(sheetTurned(false));
    list.current?.focus();
  }, [dispatch]);
  useListFocus(list);
  useAhead(AHEAD);
  useScopeKept();
  useDeskKeys({ rows, index, row, ticked, move, open, list, focusList });

  const error = stacks.error ?? decided.error;
  return (
    <main className={`desk ${desk.isSheetOpen ? 'sheet-open' : ''}`}>
      <h1 className="visually-hidden">{t`Desk`}</h1>
      <ScopeRow whole={whole} focusList={focusList} />
      <Lanes />
      <DeskList
        list={list}
        rows={rows}
        index={index}
        isByDoubt={lane === 'check' && grouping !== 'date' && sorting.by === 'usual'}
        error={error}
        filter={isDecided && <DecidedFilterBar rows={rows} />}
        isWaiting={isDecided ? !decided.data : !stacks.data}
        onMove={move}
        onPress={() => dispatch(sheetTurned(true))}
        onOpen={open}
        {...(decided.hasNextPage && isDecided
          ? { onMore: () => void decided.fetchNextPage() }
          : {})}
      >
        {ticked &&
          (isDecided ? (
            <RecodeBar row={ticked} />
          ) : (
            <TickedBar row={ticked} focusList={focusList} />
          ))}
      </DeskList>
      <RowSheet row={row} focusList={focusList} />
      <ProofStrip />
      {row && desk.isExcluding && <ExcludeDialog row={ticked ?? row} focusList={focusList} />}
      {desk.dialog === 'sweep' && <SweepDialog scope={scope} onClose={closeDialog} />}
      {row && desk.dialog === 'ask' && <AskDialog row={ticked ?? row} onClose={closeDialog} />}
      {desk.dialog === 'askAll' && <AskDialog row={whole} onClose={closeDialog} />}
      {desk.dialog === 'keys' && <KeysDialog onClose={closeDialog} />}
    </main>
  );
}
