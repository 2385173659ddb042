import { skipToken } from '@reduxjs/toolkit/query';
import { useCallback, useEffect, useMemo, useRef } from 'react';
import { linesApi } from '../../api/lines.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { useBooks } from '../../app/useBooks.ts';
import { AskDialog } from './AskDialog.tsx';
import { DeskList } from './DeskList.tsx';
import './desk.scss';
import { dialogOpened, moved, stackOpened } from './deskSlice.ts';
import { ExcludeDialog } from './ExcludeDialog.tsx';
import { KeysDialog } from './KeysDialog.tsx';
import { Lanes } from './Lanes.tsx';
import { ProofStrip } from './proof/ProofStrip.tsx';
import { RecodeBar } from './RecodeBar.tsx';
import { RowSheet } from './RowSheet.tsx';
import { deskRows, laneRow, lineRow, stackId, tickedRow } from './rows.ts';
import { decidedAsked, stacksAsked } from './rowsAsked.ts';
import { ScopeRow } from './ScopeRow.tsx';
import { SweepDialog } from './SweepDialog.tsx';
import { TickedBar } from './TickedBar.tsx';
import { DeskActionsContext, useMakeDeskActions } from './useDeskActions.ts';
import { useDeskKeys } from './useDeskKeys.ts';
import { useDeskScope } from './useDeskScope.ts';

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
  const { lane, grouping, scope } = shown;
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
        : deskRows(stacks.data?.stacks ?? [], desk.openStack, lines.data?.lines ?? []),
    [isDecided, decided.data, stacks.data, desk.openStack, lines.data],
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
  const open = useCallback((id: string | null) => dispatch(stackOpened(id)), [dispatch]);
  const focusList = useCallback(() => list.current?.focus(), []);
  // The keys work at once; whoever comes by them needs no mouse to begin.
  useEffect(() => list.current?.focus(), []);
  useDeskKeys({ rows, index, row, ticked, move, open, focusList });

  const error = stacks.error ?? decided.error;
  return (
    <main className="desk">
      <ScopeRow whole={whole} focusList={focusList} />
      <Lanes />
      <DeskList
        list={list}
        rows={rows}
        index={index}
        isByDoubt={lane === 'check' && grouping !== 'date'}
        error={error}
        isWaiting={isDecided ? !decided.data : !stacks.data}
        onMove={move}
        onOpen={open}
        {...(decided.hasNextPage && isDecided
          ? { onMore: () => void decided.fetchNextPage() }
          : {})}
      >
        {ticked &&
          (isDecided ? (
            <RecodeBar lineIds={ticked.lineIds} total={ticked.total} currency={ticked.currency} />
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
