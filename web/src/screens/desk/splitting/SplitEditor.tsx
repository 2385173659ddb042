import { skipToken } from '@reduxjs/toolkit/query';
import type { DraftCoding, DraftPart } from '@zubrell/contract/coding';
import type { BankAccountId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { linesApi } from '../../../api/lines.ts';
import { clientMoneyOf, ledgerOf } from '../../../app/clientMoney.ts';
import { useBooks } from '../../../app/useBooks.ts';
import { useTyped } from '../../../ui/useTyped.ts';
import { draftOf } from '../rows.ts';
import { SplitPartRow } from './SplitPartRow.tsx';
import { endSplit, type SplitState, splitState } from './split.ts';

/** What is split: a line of an amount, or each line of a stack. */
export type SplitOf =
  | { readonly amount: number; readonly bankAccountId: BankAccountId }
  | { readonly amount: null; readonly isOut: boolean };

/** The parts of a split, a row each, with what is left while they don't add up. */
export function SplitEditor({
  of,
  coding,
  onChange,
  onNext,
}: {
  readonly of: SplitOf;
  readonly coding: DraftCoding;
  readonly onChange: (coding: DraftCoding) => void;
  /** Enter was pressed in a field that takes it for itself. */
  readonly onNext?: () => void;
}) {
  const { booksId, setup, isHidden } = useBooks();
  const ledgerId = of.amount === null ? null : ledgerOf(setup, of.bankAccountId);
  const isOfClient = ledgerId !== null && clientMoneyOf(setup).holdsClients(ledgerId);
  const last = linesApi.useLastSplitQuery(
    coding.payeeId ? { booksId, payeeId: coding.payeeId } : skipToken,
  );
  const parts = coding.parts ?? [];
  // Of a stack, what the parts come to differs from line to line.
  const state = of.amount === null ? null : splitState(of.amount, parts);
  const setParts = (next: DraftPart[]) => onChange({ ...coding, parts: next });
  const template = last.currentData?.coding;
  const left = state?.kind === 'open' ? state.left : 0;

  return (
    <div className="split">
      {parts.map((part, index) => (
        <SplitPartRow
          // biome-ignore lint/suspicious/noArrayIndexKey: a part is known by its place
          key={index}
          number={index + 1}
          part={part}
          amount={state?.kind === 'whole' ? (state.amounts[index] ?? null) : null}
          isOut={of.amount === null ? of.isOut : of.amount < 0}
          isOfClient={isOfClient}
          payeeId={coding.payeeId}
          onNext={onNext}
          onChange={(next) => setParts(parts.map((each, at) => (at === index ? next : each)))}
          onRemove={
            parts.length > 1 ? () => setParts(parts.filter((_, at) => at !== index)) : undefined
          }
        />
      ))}
      <div className="split-foot">
        {!isHidden('note') && <SplitNote coding={coding} onChange={onChange} />}
        <SplitSum state={state} />
        <Button
          variant="plain"
          onClick={() =>
            setParts([
              ...parts,
              {
                accountId: null,
                taxCodeId: null,
                share: { kind: 'fixed', amount: left },
                tax: null,
              },
            ])
          }
        >
          {t`Add part`}
        </Button>
        {template && (
          <Button
            variant="plain"
            onClick={() => onChange({ ...draftOf(template), payeeId: coding.payeeId })}
          >
            {t`Split as last time`}
          </Button>
        )}
        <Button variant="link" onClick={() => onChange(endSplit(coding))}>
          {t`Don’t split`}
        </Button>
      </div>
    </div>
  );
}

/** Whether the parts add up, or what is left. */
function SplitSum({ state }: { readonly state: SplitState | null }) {
  const { amount } = useBooks();
  const words =
    state === null
      ? t`Each line of the stack is split this way.`
      : state.kind === 'whole'
        ? t`The parts add up. Nothing is left.`
        : state.left === 0
          ? state.message
          : t`${amount(state.left)} is left.`;
  return (
    <p className={state?.kind === 'open' ? 'doubt' : 'quiet'} role="status">
      {words}
    </p>
  );
}

function SplitNote({
  coding,
  onChange,
}: {
  readonly coding: DraftCoding;
  readonly onChange: (coding: DraftCoding) => void;
}) {
  const [typed, setTyped] = useTyped(coding.note ?? '');
  const note = typed.trim() === '' ? null : typed.trim();
  return (
    <input
      className="form-control form-control-sm"
      aria-label={t`Note of the split`}
      placeholder={t`Note`}
      maxLength={1_000}
      value={typed}
      onChange={({ target }) => setTyped(target.value)}
      onBlur={() => {
        if (note !== coding.note) onChange({ ...coding, note });
      }}
    />
  );
}
