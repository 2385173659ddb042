import { useVirtualizer } from '@tanstack/react-virtual';
import { t } from '@zubrell/core/words/t';
import type { Remote } from 'comlink';
import { type ReactNode, useRef, useState } from 'react';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { Amount } from '../../ui/Amount.tsx';
import { Segments } from '../../ui/Segments.tsx';
import type {
  Comparison,
  FileReading,
  LineMark,
  LineState,
  PreviewRow,
  RowFilter,
} from '../../workers/fileReading.ts';
import { usePreviewRows } from './usePreviewRows.ts';

const ROW_HEIGHT = 28;

const STATES: Readonly<Record<LineState, string>> = {
  new: '',
  already: t`here already`,
  doubtful: t`twice?`,
};
const MARKS: Readonly<Record<LineMark, string>> = {
  beforeOpening: t`before the opening`,
  closed: t`in a closed period`,
};

/** The lines of a statement in the file's order, with what becomes of each. */
export function PreviewTable({
  reading,
  index,
  comparison,
  columns,
}: {
  readonly reading: Remote<FileReading> | null;
  readonly index: number;
  readonly comparison: Comparison | null;
  /** The file's own columns, for a table. */
  readonly columns: ReactNode;
}) {
  const [filter, setFilter] = useState<RowFilter>('all');
  const body = useRef<HTMLDivElement>(null);
  const counts = comparison?.counts;
  const virtual = useVirtualizer({
    count: counts?.[filter] ?? 0,
    getScrollElement: () => body.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
  });
  const items = virtual.getVirtualItems();
  const [from, to] = [items[0]?.index ?? 0, items.at(-1)?.index ?? 0];
  const rowAt = usePreviewRows(reading, { index, filter, version: comparison }, { from, to });
  const choice = (value: RowFilter, name: string) =>
    [value, `${name} ${counts?.[value] ?? '…'}`] as const;
  return (
    <section className="preview-lines">
      <div className="preview-head">
        <h2>{t`Preview`}</h2>
        <Segments
          label={t`Show`}
          choices={[
            choice('all', t`All`),
            choice('new', t`New`),
            choice('already', t`Already imported`),
            choice('doubtful', t`Doubtful`),
            ...(counts && counts.marked > 0 ? [choice('marked', t`In closed period`)] : []),
            choice('refused', t`Unreadable`),
          ]}
          value={filter}
          onChange={setFilter}
        />
      </div>
      {columns}
      <div className="sheet preview-table">
        <div className="preview-row head" aria-hidden>
          <span>{t`Row`}</span>
          <span>{t`Date`}</span>
          <span>{t`Description`}</span>
          <span>{t`Reference`}</span>
          <span className="num">{t`Amount`}</span>
          <span className="num">{t`Balance`}</span>
          <span>{t`State`}</span>
        </div>
        {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by key */}
        <section className="preview-body" ref={body} tabIndex={0} aria-label={t`Lines of the file`}>
          <div style={{ height: virtual.getTotalSize(), position: 'relative' }}>
            {items.map(({ index: at, start }) => (
              <PreviewTableRow key={at} row={rowAt(at)} top={start} />
            ))}
          </div>
        </section>
      </div>
    </section>
  );
}

function PreviewTableRow({ row, top }: { readonly row: PreviewRow | null; readonly top: number }) {
  const { amount } = useBooks();
  const showDate = useShowDate();
  const style = { transform: `translateY(${top}px)` };
  if (row === null) return <div className="preview-row" style={style} />;
  if (row.kind === 'refused') {
    const { problem } = row;
    return (
      <div className="preview-row refused" style={style}>
        <span>{problem.line}</span>
        <span className="mono excerpt" title={problem.excerpt ?? ''}>
          {problem.excerpt}
        </span>
        <span className="num">{problem.amount !== null && <Amount minor={problem.amount} />}</span>
        <span className="trouble said" title={problem.message}>
          {problem.message}
        </span>
      </div>
    );
  }
  const { line, state, mark } = row;
  return (
    <div className={`preview-row ${state} ${mark ? 'marked' : ''}`} style={style}>
      <span>{line.place}</span>
      <span>{showDate(line.date)}</span>
      <span className="mono" title={line.description}>
        {line.description}
      </span>
      <span className="mono" title={line.reference ?? ''}>
        {line.reference}
      </span>
      <span className="num">
        <Amount minor={line.amount} />
      </span>
      <span className="num">{line.balance !== null && amount(line.balance)}</span>
      <span>{state === 'new' && mark ? MARKS[mark] : STATES[state]}</span>
    </div>
  );
}
