import { skipToken } from '@reduxjs/toolkit/query';
import type { DraftCoding, DraftPart } from '@zubrell/contract/coding';
import { Button } from 'react-bootstrap';
import { linesApi } from '../../api/lines.ts';
import { clientMoneyOf, ledgerOf } from '../../app/clientMoney.ts';
import { useBooks } from '../../app/useBooks.ts';
import { draftOf } from './rows.ts';
import { SplitPartRow } from './SplitPartRow.tsx';
import { endSplit, splitState } from './split.ts';

/** The parts of a split line, with what is left of it while they don't add up. */
export function SplitEditor({
  line,
  coding,
  onChange,
}: {
  readonly line: {
    /** Signed. */
    readonly amount: number;
    readonly bankAccountId: string;
  };
  readonly coding: DraftCoding;
  readonly onChange: (coding: DraftCoding) => void;
}) {
  const { booksId, setup, amount } = useBooks();
  const ledgerId = ledgerOf(setup, line.bankAccountId);
  const isOfClient = ledgerId !== null && clientMoneyOf(setup).holdsClients(ledgerId);
  const last = linesApi.useLastSplitQuery(
    coding.payeeId ? { booksId, payeeId: coding.payeeId } : skipToken,
  );
  const parts = coding.parts ?? [];
  const state = splitState(line.amount, parts);
  const setParts = (next: DraftPart[]) => onChange({ ...coding, parts: next });
  const template = last.currentData?.coding;

  return (
    <div className="split">
      {parts.map((part, index) => (
        <SplitPartRow
          // biome-ignore lint/suspicious/noArrayIndexKey: a part is known by its place
          key={index}
          number={index + 1}
          part={part}
          amount={state.kind === 'whole' ? (state.amounts[index] ?? null) : null}
          isOut={line.amount < 0}
          isOfClient={isOfClient}
          payeeId={coding.payeeId}
          onChange={(next) => setParts(parts.map((each, at) => (at === index ? next : each)))}
          onRemove={
            parts.length > 1 ? () => setParts(parts.filter((_, at) => at !== index)) : undefined
          }
        />
      ))}
      <p className={state.kind === 'whole' ? 'quiet' : 'doubt'} role="status">
        {state.kind === 'whole'
          ? 'The parts add up.'
          : state.left === 0
            ? state.message
            : `${amount(state.left)} is left.`}
      </p>
      <div className="d-flex gap-2">
        <Button
          variant="plain"
          onClick={() =>
            setParts([
              ...parts,
              {
                accountId: null,
                taxCodeId: null,
                share: { kind: 'fixed', amount: state.kind === 'open' ? state.left : 0 },
                tax: null,
              },
            ])
          }
        >
          Add a part
        </Button>
        {template && (
          <Button
            variant="plain"
            onClick={() => onChange({ ...draftOf(template), payeeId: coding.payeeId })}
          >
            As last time
          </Button>
        )}
        <Button variant="link" onClick={() => onChange(endSplit(coding))}>
          Don’t split
        </Button>
      </div>
    </div>
  );
}
