import type { DraftCoding } from '@zubrell/contract/coding';
import { type KeyboardEvent, useEffect, useRef } from 'react';
import { useAppSelector } from '../../../app/store.ts';
import { useDeskActions } from '../useDeskActions.ts';
import { useRowCoding } from '../useRow.ts';
import { SplitEditor } from './SplitEditor.tsx';
import type { SplitRow } from './useIsSplit.ts';

/**
 * The parts of the current row, under it: Enter goes from field to field and then back to the list, where it posts;
 * Esc goes back at once.
 *
 * @param onHeight is told how high it is, so that the rows below make room
 */
export function SplitPanel({
  row,
  top,
  onHeight,
  focusList,
}: {
  readonly row: SplitRow;
  readonly top: number;
  readonly onHeight: (height: number) => void;
  readonly focusList: () => void;
}) {
  const panel = useRef<HTMLDivElement>(null);
  const { edit } = useDeskActions();
  const coding = useRowCoding(row);
  const wantsFocus = useAppSelector((state) => state.desk.splitBegun === row.id);

  useEffect(() => {
    const own = panel.current;
    if (!own) return;
    const observer = new ResizeObserver(() => onHeight(own.offsetHeight));
    observer.observe(own);
    onHeight(own.offsetHeight);
    return () => {
      observer.disconnect();
      onHeight(0);
    };
  }, [onHeight]);

  useEffect(() => {
    if (wantsFocus) fieldsIn(panel.current)[0]?.focus();
  }, [wantsFocus]);

  function goOn(): void {
    const fields = fieldsIn(panel.current);
    const at = fields.indexOf(document.activeElement as HTMLElement);
    const next = fields[at + 1];
    if (next) next.focus();
    else focusList();
  }

  function press(event: KeyboardEvent): void {
    const isField =
      event.target instanceof HTMLInputElement || event.target instanceof HTMLSelectElement;
    if (event.key === 'Escape') {
      event.preventDefault();
      focusList();
    } else if (event.key === 'Enter' && isField) {
      event.preventDefault();
      // What was typed is taken by the field first.
      setTimeout(goOn);
    }
    event.stopPropagation();
  }

  const isOut = row.kind === 'line' ? row.line.amount < 0 : row.stack.direction === 'out';
  return (
    // biome-ignore lint/a11y/useSemanticElements: a row of the treegrid around it
    <div
      ref={panel}
      role="row"
      tabIndex={-1}
      className="split-panel"
      style={{ transform: `translateY(${top}px)` }}
      onKeyDown={press}
    >
      {/* biome-ignore lint/a11y/useSemanticElements: the one cell of that row */}
      <div role="gridcell" tabIndex={-1}>
        <SplitEditor
          of={
            row.kind === 'line'
              ? { amount: row.line.amount, bankAccountId: row.line.bankAccountId }
              : { amount: null, isOut }
          }
          coding={coding}
          onChange={(next: DraftCoding) => void edit(row, next)}
          onNext={goOn}
        />
      </div>
    </div>
  );
}

/** The fields to go through, in their order; the kinds of shares are passed over. */
function fieldsIn(panel: HTMLElement | null): readonly HTMLElement[] {
  return [...(panel?.querySelectorAll<HTMLElement>('input:not([type=checkbox])') ?? [])];
}
