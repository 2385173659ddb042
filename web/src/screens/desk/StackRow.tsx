import { candidateNames } from '@zubrell/core/pair/candidateNames';
import { proposedCoding } from '@zubrell/core/propose/proposal';
import { cleanName } from '@zubrell/core/text/cleanName';
import { t } from '@zubrell/core/words/t';
import { memo } from 'react';
import { countLines, formatCount } from '../../app/formats.ts';
import { useAppSelector } from '../../app/store.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { Amount } from '../../ui/Amount.tsx';
import { CodingCell } from './CodingCell.tsx';
import { type DeskRow, type Instead, stackDoubt } from './rows.ts';
import { TickMoon } from './TickMoon.tsx';
import { useDeskActions } from './useDeskActions.ts';
import { useDeskScope } from './useDeskScope.ts';
import { useRowCoding, useTickState } from './useRow.ts';

interface StackRowProps {
  readonly row: Extract<DeskRow, { kind: 'stack' }>;
  readonly id: string;
  readonly top: number;
  readonly isCurrent: boolean;
  readonly isOpen: boolean;
  /** Its place in the list. */
  readonly index: number;
  readonly onMove: (index: number) => void;
  readonly onOpen: (stack: string | null) => void;
  readonly focusList: () => void;
}

/** A stack's head: what it is, its doubt, the coding for all its lines, its total. */
export const StackRow = memo(function StackRow(props: StackRowProps) {
  const { row, isCurrent, isOpen } = props;
  const { stack } = row;
  const { lane } = useDeskScope();
  const { tick, insteadOf } = useDeskActions();
  const editing = useAppSelector((state) => state.desk.editing);
  const instead = insteadOf(row);
  // Whoever types codes it as something new.
  const isPair = instead?.kind === 'pair' && !(isCurrent && editing !== null);
  const coding = useRowCoding(row);
  const tickedState = useTickState(row);
  const onPick = () => props.onMove(props.index);
  const title = useStackTitle(row);
  return (
    <div
      id={props.id}
      role="row"
      aria-selected={isCurrent}
      aria-expanded={isOpen}
      aria-level={1}
      aria-rowindex={props.index + 1}
      className={`desk-row stack ${isCurrent ? 'current' : ''} ${lane === 'check' ? 'doubtful' : ''}`}
      style={{ transform: `translateY(${props.top}px)` }}
      onClick={onPick}
    >
      <span className="moon-cell" role="gridcell">
        <TickMoon
          kind={lane === 'decided' ? 'posted' : lane}
          name={title}
          state={tickedState}
          onTick={() => void tick(row)}
        />
      </span>
      <span className="title" role="gridcell">
        <button
          type="button"
          tabIndex={-1}
          className="turn"
          aria-label={`${isOpen ? t`Close` : t`Open`} ${title}`}
          onClick={() => {
            props.onOpen(isOpen ? null : row.id);
            props.focusList();
          }}
        >
          {isOpen ? '▾' : '▸'}
        </button>
        <span className="name">{title}</span>
        <span className="count">{countLines(stack.count)}</span>
        <SubTitle row={row} />
      </span>
      {isPair && <PairCells instead={instead} />}
      {(isPair ? [] : (['payeeId', 'accountId', 'taxCodeId'] as const)).map((field) => (
        <CodingCell
          key={field}
          row={row}
          field={field}
          coding={coding}
          isCurrent={isCurrent}
          onPick={onPick}
          focusList={props.focusList}
        />
      ))}
      <span className="num" role="gridcell">
        {stack.currency === null ? (
          <span className="quiet" title={t`Its lines are in several currencies`}>
            {t`mixed`}
          </span>
        ) : (
          <Amount minor={stack.total} currency={stack.currency} />
        )}
      </span>
    </div>
  );
});

/** What a stack is in the books already, in the place of its coding. */
function PairCells({ instead }: { readonly instead: Instead | null }) {
  const { payeeName } = useBooks();
  if (instead?.kind !== 'pair') return null;
  const payee = payeeName(instead.targets?.[0]?.payeeId ?? null);
  const name =
    instead.targets === null
      ? t`${formatCount(instead.count)} in the books`
      : candidateNames(instead.targets);
  return (
    <>
      <span className="pair-cell" role="gridcell" title={payee}>
        {payee}
      </span>
      <span className="pair-cell" role="gridcell" title={name}>
        = {name}
      </span>
      <span className="pair-cell" role="gridcell" />
    </>
  );
}

/** The doubt in a few words, or how the amounts and dates spread. */
function SubTitle({ row }: { readonly row: StackRowProps['row'] }) {
  const { amount } = useBooks();
  const showDate = useShowDate();
  const { stack } = row;
  const doubt = stackDoubt(stack);
  if (doubt !== null) return <span className="sub doubt">{doubt}</span>;
  const isPartPaired = stack.pairCount > 0 && stack.pairCount < stack.count;
  if (isPartPaired)
    return (
      <span className="sub doubt">{t`${formatCount(stack.pairCount)} in the books already`}</span>
    );
  const shown = stack.currency === null ? {} : { currency: stack.currency };
  const each =
    stack.smallest === stack.largest
      ? amount(stack.smallest, shown)
      : t`${amount(stack.smallest, shown)} to ${amount(stack.largest, shown)}`;
  const when =
    stack.firstDate === stack.lastDate
      ? showDate(stack.firstDate)
      : t`${showDate(stack.firstDate)} to ${showDate(stack.lastDate)}`;
  return (
    <span className="sub quiet">
      {stack.count > 1 ? `${each}, ` : ''}
      {when}
    </span>
  );
}

/** What a stack is called: its payee, or the wording its lines share, or the day. */
function useStackTitle({ stack }: StackRowProps['row']): string {
  const { payeeName } = useBooks();
  const showDate = useShowDate();
  if (stack.grouping === 'date') return showDate(stack.key);
  const payee = payeeName(proposedCoding(stack.proposal)?.payeeId ?? stack.draft?.payeeId ?? null);
  if (stack.grouping === 'payee') return payee || t`No payee yet`;
  return payee || cleanName(stack.title);
}
