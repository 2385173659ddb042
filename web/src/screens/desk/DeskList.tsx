import { useVirtualizer, type Virtualizer } from '@tanstack/react-virtual';
import { t } from '@zubrell/core/words/t';
import {
  Fragment,
  type ReactNode,
  type RefObject,
  useCallback,
  useEffect,
  useMemo,
  useState,
} from 'react';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { late, useAhead } from '../../ui/late.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { LineRow } from './LineRow.tsx';
import { ListHead } from './ListHead.tsx';
import { type DeskRow, doubtHeadings } from './rows.ts';
import { StackRow } from './StackRow.tsx';
import { useIsSplit } from './splitting/useIsSplit.ts';
import { standingOut } from './standingOut.ts';

const DeskEmpty = late(async () => (await import('./DeskEmpty.tsx')).DeskEmpty);
const SplitPanel = late(async () => (await import('./splitting/SplitPanel.tsx')).SplitPanel);
const AHEAD = [SplitPanel.fetch];

const STACK_HEIGHT = 47;
const LINE_HEIGHT = 31;
const HEADING_HEIGHT = 30;

/** The stacks and lines of the lane; only those in view are in the page. */
export function DeskList({
  list,
  rows,
  index,
  isByDoubt,
  error,
  isWaiting,
  filter,
  onMove,
  onPress,
  onOpen,
  onMore,
  children,
}: {
  readonly list: RefObject<HTMLDivElement | null>;
  readonly rows: readonly DeskRow[];
  readonly index: number;
  /** Whether the stacks stand in the order of their doubts, under headings. */
  readonly isByDoubt: boolean;
  readonly error: unknown;
  readonly isWaiting: boolean;
  /** Stands above the rows. */
  readonly filter: ReactNode;
  readonly onMove: (index: number) => void;
  /** A row was pressed, beside its buttons and fields. */
  readonly onPress: () => void;
  readonly onOpen: (stack: string | null) => void;
  /** Fetches more rows; without it there are none. */
  readonly onMore?: () => void;
  /** Stands below the rows. */
  readonly children?: ReactNode;
}) {
  const headings = useMemo(() => (isByDoubt ? doubtHeadings(rows) : null), [isByDoubt, rows]);
  const odd = useMemo(
    () =>
      standingOut(
        rows.flatMap((row) => (row.kind === 'line' && row.line.decision === null ? row.line : [])),
      ),
    [rows],
  );
  const [splitHeight, setSplitHeight] = useState(0);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => list.current,
    estimateSize: (at) =>
      (rows[at]?.kind === 'stack' ? STACK_HEIGHT : LINE_HEIGHT) +
      (headings?.[at] ? HEADING_HEIGHT : 0) +
      (at === index ? splitHeight : 0),
    getItemKey: (at) => rows[at]?.id ?? at,
    overscan: 8,
  });
  const focusList = useCallback(() => list.current?.focus(), [list]);
  const current = rows[index] ?? null;
  const isSplit = useIsSplit(current);
  useAhead(AHEAD);
  const shown = virtual.getVirtualItems();
  const place = shown.find((each) => each.index === index);
  const splitTop = place ? place.end - splitHeight : 0;
  const isAtEnd = (shown.at(-1)?.index ?? 0) >= rows.length - 1;

  useEffect(() => {
    if (index >= 0 && !isInView(virtual, index)) virtual.scrollToIndex(index);
  }, [index, virtual]);
  const splitIndex = splitHeight > 0 ? index : -1;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the rows below the split one move with its height
  useEffect(() => virtual.measure(), [splitIndex, splitHeight, virtual]);
  useEffect(() => {
    if (isAtEnd) onMore?.();
  }, [isAtEnd, onMore]);

  const openIndex = rows.findIndex((row) => row.kind === 'line');
  return (
    <section className="work" aria-label={t`Lines`}>
      {filter}
      <ListHead />
      {error !== undefined && <ErrorNote error={error} />}
      {isWaiting && error === undefined && <Waiting what={t`the lines`} />}
      {!isWaiting && rows.length === 0 && <DeskEmpty />}
      <div
        ref={list}
        className="rows"
        role="treegrid"
        tabIndex={0}
        aria-label={t`Stacks and lines`}
        aria-rowcount={rows.length}
        aria-activedescendant={index >= 0 ? `row-${index}` : undefined}
        onClick={({ target }) => {
          const isRow = target instanceof Element && target.closest('.desk-row') !== null;
          if (isRow && !target.closest('button, input')) onPress();
        }}
      >
        <div style={{ height: virtual.getTotalSize(), position: 'relative' }}>
          {shown.map(({ index: at, start, key }) => {
            const row = rows[at];
            if (!row) return null;
            const heading = headings?.[at] ?? null;
            const placed = {
              id: `row-${at}`,
              top: start + (heading === null ? 0 : HEADING_HEIGHT),
              isCurrent: at === index,
              index: at,
              onMove,
            };
            return row.kind === 'stack' ? (
              <Fragment key={key}>
                {heading !== null && (
                  <div
                    role="row"
                    tabIndex={-1}
                    className="doubt-heading"
                    style={{ transform: `translateY(${start}px)` }}
                  >
                    <span role="rowheader">{heading}</span>
                  </div>
                )}
                <StackRow
                  {...placed}
                  row={row}
                  isOpen={openIndex === at + 1}
                  onOpen={onOpen}
                  focusList={focusList}
                />
              </Fragment>
            ) : row.kind === 'line' ? (
              <LineRow key={key} {...placed} row={row} oddity={odd.get(row.id) ?? null} />
            ) : null;
          })}
          {isSplit && (current?.kind === 'line' || current?.kind === 'stack') && (
            <SplitPanel
              key={current.id}
              row={current}
              top={splitTop}
              onHeight={setSplitHeight}
              focusList={focusList}
            />
          )}
        </div>
      </div>
      {children}
    </section>
  );
}

/** Whether a row is wholly in view, by what is known of it: to ask the page would have it laid out anew at each key. */
function isInView(
  { measurementsCache, scrollOffset, scrollRect }: Virtualizer<HTMLDivElement, Element>,
  index: number,
): boolean {
  const row = measurementsCache[index];
  if (!row || !scrollRect) return false;
  const top = scrollOffset ?? 0;
  return row.start >= top && row.end <= top + scrollRect.height;
}
