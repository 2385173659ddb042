import { t } from '@zubrell/core/words/t';
import { ArrowLeft } from 'lucide-react';
import { Button } from 'react-bootstrap';
import { InCurrency } from '../../app/InCurrency.tsx';
import { late, useAhead } from '../../ui/late.tsx';
import { tx } from '../../ui/tx.tsx';
import type { DeskRow } from './rows.ts';
import { StackSheet } from './StackSheet.tsx';
import { useCurrencyOfRow } from './useCurrencyOfRow.ts';

const LineSheet = late(async () => (await import('./LineSheet.tsx')).LineSheet);
const AHEAD = [LineSheet.fetch];

/** What there is to know of the current row, and what can be done with it. */
export function RowSheet({
  row,
  focusList,
}: {
  readonly row: DeskRow | null;
  readonly focusList: () => void;
}) {
  const currencyOfRow = useCurrencyOfRow();
  useAhead(AHEAD);
  return (
    <aside className="row-sheet" aria-label={t`Details`}>
      <Button variant="plain" className="back-to-list" onClick={focusList}>
        {tx`${<ArrowLeft size={14} aria-hidden />} Back to the list`}
      </Button>
      <InCurrency currency={currencyOfRow(row)}>
        {row?.kind === 'stack' && <StackSheet key={row.id} row={row} focusList={focusList} />}
        {row?.kind === 'line' && <LineSheet key={row.id} row={row} focusList={focusList} />}
      </InCurrency>
    </aside>
  );
}
