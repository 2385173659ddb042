import type { DraftCoding } from '@zubrell/contract/coding';
import { taxInside, taxOn } from '@zubrell/core/money/taxInside';
import { rateOn } from '@zubrell/core/tax/rateOn';
import { cleanName } from '@zubrell/core/text/cleanName';
import { t } from '@zubrell/core/words/t';
import { useEffect, useRef } from 'react';
import { Button } from 'react-bootstrap';
import { ClientField } from '../../app/ClientField.tsx';
import { clientMoneyOf, ledgerOf } from '../../app/clientMoney.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { useBooks } from '../../app/useBooks.ts';
import { AmountField } from '../../ui/AmountField.tsx';
import { RateField } from '../../ui/RateField.tsx';
import { useTyped } from '../../ui/useTyped.ts';
import { CodingInput, nextEmptyField } from './CodingInput.tsx';
import { CostObjectFields } from './CostObjectFields.tsx';
import { fieldOpened, splitStarted } from './deskSlice.ts';
import { EntryPreview } from './EntryPreview.tsx';
import { completeCoding, type DeskRow, ownAccountOf } from './rows.ts';
import { startSplit } from './splitting/split.ts';
import { useDeskActions } from './useDeskActions.ts';

const FIELDS = [
  ['payeeId', t`Payee`],
  ['accountId', t`Account`],
  ['taxCodeId', t`Tax`],
] as const;

/** The coding of one line. What is typed is saved as the line's draft. */
export function LineCodingForm({
  row,
  focusList,
}: {
  readonly row: Extract<DeskRow, { kind: 'line' }>;
  readonly focusList: () => void;
}) {
  const books = useBooks();
  const { codingOf, edit } = useDeskActions();
  const dispatch = useAppDispatch();
  const editing = useAppSelector((state) => state.desk.editing);
  const form = useRef<HTMLDivElement>(null);
  const coding = codingOf(row);
  const clientMoney = clientMoneyOf(books.setup);
  const isOfClient = [ledgerOf(books.setup, row.line.bankAccountId), coding.accountId].some(
    (id) => id !== null && clientMoney.holdsClients(id),
  );
  const complete = completeCoding(coding, books.setup, ownAccountOf(row, books.setup));

  useEffect(() => {
    if (editing === null) return;
    const field = form.current?.querySelector<HTMLInputElement>(`[data-field="${editing}"] input`);
    field?.focus();
  }, [editing]);

  function goOn(field: (typeof FIELDS)[number][0], next: DraftCoding): void {
    const empty = nextEmptyField(field, next, books.isHidden);
    dispatch(fieldOpened(empty));
    if (empty === null) focusList();
  }

  function isShown(field: (typeof FIELDS)[number][0]): boolean {
    if (field === 'payeeId') return true;
    return coding.parts === null && !(field === 'taxCodeId' && books.isHidden(field));
  }

  return (
    <section ref={form}>
      <h2 className="small-heading">{t`Code this line`}</h2>
      <div className="coding-form">
        {FIELDS.filter(([field]) => isShown(field)).map(([field, name]) => (
          <div key={field} className="field" data-field={field}>
            <span>{name}</span>
            <CodingInput
              field={field}
              coding={coding}
              line={{ payeeName: cleanName(row.line.stem), isOut: row.line.amount < 0 }}
              onChange={(next) => void edit(row, next)}
              onNext={(next) => goOn(field, next)}
              onCancel={() => {
                dispatch(fieldOpened(null));
                focusList();
              }}
            />
          </div>
        ))}
        {coding.parts === null && isOfClient && (
          <div className="field">
            <span>{t`Client`}</span>
            <ClientField
              label={t`Client`}
              payeeId={coding.payeeId}
              value={coding.clientId ?? null}
              onChange={(clientId) => void edit(row, { ...coding, clientId })}
            />
          </div>
        )}
        {!books.isHidden('note') && (
          <NoteField coding={coding} onSave={(next) => void edit(row, next)} />
        )}
        <RateField
          currency={books.currency}
          date={row.line.date}
          value={coding.rate ?? null}
          onChange={(rate) => void edit(row, { ...coding, rate })}
        />
      </div>
      {coding.parts === null ? (
        <>
          <CostObjectFields
            coding={coding}
            onChange={(objects) => void edit(row, { ...coding, ...objects })}
          />
          <TaxField line={row.line} coding={coding} onChange={(next) => void edit(row, next)} />
          <Button
            variant="plain"
            className="mt-2"
            onClick={() => {
              void edit(row, startSplit(coding));
              dispatch(splitStarted(row.id));
            }}
          >
            {t`Split`}
            <kbd>S</kbd>
          </Button>
        </>
      ) : (
        <p className="quiet mt-2 mb-0">
          {t`Split into ${coding.parts.length}: the parts are below the line.`}
        </p>
      )}
      {'coding' in complete && <EntryPreview line={row.line} coding={complete.coding} />}
    </section>
  );
}

function NoteField({
  coding,
  onSave,
}: {
  readonly coding: DraftCoding;
  readonly onSave: (coding: DraftCoding) => void;
}) {
  const [typed, setTyped] = useTyped(coding.note ?? '');
  const note = typed.trim() === '' ? null : typed.trim();
  return (
    <label className="field">
      <span>{t`Note`}</span>
      <input
        className="form-control form-control-sm"
        value={typed}
        placeholder={t`none`}
        maxLength={1_000}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={() => {
          if (note !== coding.note) onSave({ ...coding, note });
        }}
      />
    </label>
  );
}

/** How much of the line is tax; it may be corrected by a few cents. */
function TaxField({
  line,
  coding,
  onChange,
}: {
  readonly line: { readonly amount: number; readonly date: string };
  readonly coding: DraftCoding;
  readonly onChange: (coding: DraftCoding) => void;
}) {
  const books = useBooks();
  const code = books.setup.taxCodes.find(({ id }) => id === coding.taxCodeId);
  const rate = (code && rateOn(code.rates, line.date)) ?? 0;
  if (!code || rate === 0) return null;
  if (code.kind === 'reverseCharge') {
    const owed = books.amount(taxOn(Math.abs(line.amount), rate));
    return (
      <p className="quiet mt-2 mb-0">{t`${owed} of tax owed and, where recoverable, deducted`}</p>
    );
  }
  const computed = taxInside(line.amount, rate);
  return (
    <div className="coding-form mt-2">
      <div className="field">
        <span>{t`Tax included`}</span>
        <AmountField
          label={t`Tax in the amount`}
          value={coding.tax ?? computed}
          onChange={(tax) => onChange({ ...coding, tax: tax === computed ? null : tax })}
        />
      </div>
    </div>
  );
}
