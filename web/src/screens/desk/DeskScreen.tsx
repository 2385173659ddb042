import { skipToken } from '@reduxjs/toolkit/query';
import { useEffect, useMemo, useRef } from 'react';
import { api } from '../../app/api.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { useBooks } from '../../app/useBooks.ts';
import { AskDialog } from './AskDialog.tsx';
import { DeskList } from './DeskList.tsx';
import './desk.scss';
import { dialogOpened, moved, stackOpened } from './deskSlice.ts';
import { ExcludeDialog } from './ExcludeDialog.tsx';
import { KeysDialog } from './KeysDialog.tsx';
import { Lanes } from './Lanes.tsx';
import { ProofStrip } from './ProofStrip.tsx';
import { RecodeBar } from './RecodeBar.tsx';
import { RowSheet } from './RowSheet.tsx';
import { deskRows, lineRow, stackId, tickedRow } from './rows.ts';
import { ScopeRow } from './ScopeRow.tsx';
import { SweepDialog } from './SweepDialog.tsx';
import { TickedBar } from './TickedBar.tsx';
import { useDeskKeys } from './useDeskKeys.ts';
import { useDeskScope } from './useDeskScope.ts';

/** Where the work happens: lanes, stacks, the line sheet, the proof. */
export function DeskScreen() {
  const { booksId } = useBooks();
  const { lane, grouping, scope, decision } = useDeskScope();
  const desk = useAppSelector((state) => state.desk);
  const dispatch = useAppDispatch();
  const list = useRef<HTMLDivElement>(null);
  const isDecided = lane === 'decided';

  const stacks = api.useStacksQuery(isDecided ? skipToken : { booksId, scope, lane, grouping });
  const open = stacks.data?.stacks.find((stack) => stackId(stack) === desk.openStack);
  const lines = api.useStackLinesQuery(
    open && !isDecided
      ? {
          booksId,
          scope,
          lane,
          stack: { grouping: open.grouping, key: open.key, direction: open.direction },
        }
      : skipToken,
  );
  const decided = api.useDecidedLinesInfiniteQuery(
    isDecided ? { booksId, scope, kind: decision ?? undefined } : skipToken,
  );

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
  const ticked = useMemo(() => tickedRow(desk.ticked), [desk.ticked]);
  const closeDialog = () => {
    dispatch(dialogOpened(null));
    list.current?.focus();
  };

  const actions = {
    move: (to: number) => {
      const target = rows[Math.max(0, Math.min(to, rows.length - 1))];
      if (target) dispatch(moved({ id: target.id, index: rows.indexOf(target) }));
    },
    open: (id: string | null) => dispatch(stackOpened(id)),
    focusList: () => list.current?.focus(),
  };
  // The keys work at once; whoever comes by them needs no mouse to begin.
  useEffect(() => list.current?.focus(), []);
  useDeskKeys({ rows, index, row, ticked, ...actions });

  const error = stacks.error ?? decided.error;
  return (
    <main className="desk">
      <ScopeRow />
      <Lanes />
      <DeskList
        list={list}
        rows={rows}
        index={index}
        error={error}
        isWaiting={isDecided ? !decided.data : !stacks.data}
        onMove={actions.move}
        onOpen={actions.open}
        {...(decided.hasNextPage && isDecided
          ? { onMore: () => void decided.fetchNextPage() }
          : {})}
      >
        {ticked &&
          (isDecided ? (
            <RecodeBar lineIds={ticked.lineIds} total={ticked.total} />
          ) : (
            <TickedBar row={ticked} focusList={actions.focusList} />
          ))}
      </DeskList>
      <RowSheet row={row} focusList={actions.focusList} />
      <ProofStrip />
      {row && desk.isExcluding && (
        <ExcludeDialog row={ticked ?? row} focusList={actions.focusList} />
      )}
      {desk.dialog === 'sweep' && <SweepDialog scope={scope} onClose={closeDialog} />}
      {row && desk.dialog === 'ask' && <AskDialog row={ticked ?? row} onClose={closeDialog} />}
      {desk.dialog === 'keys' && <KeysDialog onClose={closeDialog} />}
    </main>
  );
}
