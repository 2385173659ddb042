import { useVirtualizer } from '@tanstack/react-virtual';
import type { BankStatement, Problem } from '@zubrell/core/formats/bankFile';
import { useMemo, useRef, useState } from 'react';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { Amount } from '../../ui/Amount.tsx';
import { Segments } from '../../ui/Segments.tsx';
import type { LineState } from './usePreviewFacts.ts';

type PreviewRow =
  | {
      readonly kind: 'line';
      readonly place: number;
      readonly line: BankStatement['lines'][number];
      readonly state: LineState;
    }
  | { readonly kind: 'refused'; readonly place: number; readonly problem: Problem };

const ROW_HEIGHT = 28;

const STATES: Readonly<Record<LineState, string>> = {
  new: '',
  already: 'here already',
  doubtful: 'twice?',
};

/** The lines of a statement in the file's order, with what becomes of each. */
export function PreviewTable({
  statement,
  states,
  problems,
}: {
  readonly statement: BankStatement;
  readonly states: readonly LineState[] | null;
  readonly problems: readonly Problem[];
}) {
  const [filter, setFilter] = useState<'all' | LineState | 'refused'>('all');
  const body = useRef<HTMLDivElement>(null);
  const rows = useMemo(() => rowsOf(statement, states, problems), [statement, states, problems]);
  const isOf = (row: PreviewRow, wanted: typeof filter) =>
    wanted === 'all' || wanted === (row.kind === 'refused' ? 'refused' : row.state);
  const shown = rows.filter((row) => isOf(row, filter));
  const count = (wanted: typeof filter) => rows.filter((row) => isOf(row, wanted)).length;
  const virtual = useVirtualizer({
    count: shown.length,
    getScrollElement: () => body.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
  });
  return (
    <section className="preview-lines">
      <div className="preview-head">
        <h2>As it will come in</h2>
        <Segments
          label="Show"
          choices={[
            ['all', `All ${count('all')}`],
            ['new', `New ${count('new')}`],
            ['already', `Here ${count('already')}`],
            ['doubtful', `Doubtful ${count('doubtful')}`],
            ['refused', `Can’t be read ${count('refused')}`],
          ]}
          value={filter}
          onChange={setFilter}
        />
      </div>
      <div className="sheet preview-table">
        <div className="preview-row head" aria-hidden>
          <span>Row</span>
          <span>Date</span>
          <span>Description</span>
          <span>Reference</span>
          <span className="num">Amount</span>
          <span className="num">Balance</span>
          <span>State</span>
        </div>
        <div className="preview-body" ref={body}>
          <div style={{ height: virtual.getTotalSize(), position: 'relative' }}>
            {virtual.getVirtualItems().map(({ index, start }) => {
              const row = shown[index];
              return row && <PreviewTableRow key={index} row={row} top={start} />;
            })}
          </div>
        </div>
      </div>
    </section>
  );
}

function PreviewTableRow({ row, top }: { readonly row: PreviewRow; readonly top: number }) {
  const { amount } = useBooks();
  const showDate = useShowDate();
  const style = { transform: `translateY(${top}px)` };
  if (row.kind === 'refused') {
    const { problem } = row;
    return (
      <div className="preview-row refused" style={style}>
        <span>{row.place}</span>
        <span />
        <span className="mono excerpt" title={problem.excerpt ?? ''}>
          {problem.excerpt}
        </span>
        <span className="num">{problem.amount !== null && <Amount minor={problem.amount} />}</span>
        <span />
        <span className="trouble" title={problem.message}>
          {problem.message}
        </span>
      </div>
    );
  }
  const { line } = row;
  return (
    <div className={`preview-row ${row.state}`} style={style}>
      <span>{row.place}</span>
      <span>{showDate(line.date)}</span>
      <span className="mono" title={line.description}>
        {line.description}
      </span>
      <span className="mono">{line.reference}</span>
      <span className="num">
        <Amount minor={line.amount} />
      </span>
      <span className="num">{line.balance !== null && amount(line.balance)}</span>
      <span>{STATES[row.state]}</span>
    </div>
  );
}

function rowsOf(
  statement: BankStatement,
  states: readonly LineState[] | null,
  problems: readonly Problem[],
): PreviewRow[] {
  const lines = statement.lines.map(
    (line, index): PreviewRow => ({
      kind: 'line',
      place: line.place,
      line,
      state: states?.[index] ?? 'new',
    }),
  );
  const refused = problems.map(
    (problem): PreviewRow => ({ kind: 'refused', place: problem.line, problem }),
  );
  return [...lines, ...refused].sort((a, b) => a.place - b.place);
}
