import type { TaxCode } from '@zubrell/contract/books';
import { isControlRole } from '@zubrell/core/ledger/accountRoles';
import { taxKinds, taxUses } from '@zubrell/core/ledger/kinds';
import { taxParts } from '@zubrell/core/ledger/starterBooks';
import { t } from '@zubrell/core/words/t';
import { type FormEvent, useId, useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import { taxApi } from '../../api/tax.ts';
import { accountLabel, useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { SelectField } from '../../ui/SelectField.tsx';
import { TextField } from '../../ui/TextField.tsx';
import {
  completeTaxCode,
  emptyTaxCode,
  hasRates,
  kindNames,
  partNames,
  type TaxCodeDraft,
  taxCodeDraft,
  useNames,
} from './taxCodeDraft.ts';

/** Makes a tax code, or changes one. */
export function TaxCodeDialog({
  code,
  onClose,
}: {
  /** The one to be changed; null for a new one. */
  readonly code: TaxCode | null;
  readonly onClose: () => void;
}) {
  const { booksId, setup } = useBooks();
  const { told } = useUndo();
  const ofRole = (role: string) => setup.accounts.find((each) => each.role === role)?.id ?? null;
  const [draft, setDraft] = useState<TaxCodeDraft>(() =>
    code
      ? taxCodeDraft(code)
      : emptyTaxCode({ input: ofRole('inputTax'), output: ofRole('outputTax') }),
  );
  const [make, making] = taxApi.useMakeTaxCodeMutation();
  const [change, changing] = taxApi.useChangeTaxCodeMutation();
  const set = (part: Partial<TaxCodeDraft>) => setDraft({ ...draft, ...part });
  const complete = completeTaxCode(draft);
  const error = making.error ?? changing.error;

  async function save(event: FormEvent): Promise<void> {
    event.preventDefault();
    if ('missing' in complete) return;
    const body = { booksId, ...complete.code };
    const answer = code ? await change({ ...body, taxCodeId: code.id }) : await make(body);
    if (answer.data && told(answer)) onClose();
  }

  return (
    <Dialog title={code ? t`Change tax code` : t`New tax code`} isWide onClose={onClose}>
      <form onSubmit={(event) => void save(event)}>
        <Modal.Body className="entry-form">
          <div className="form-row">
            <TextField
              label={t`Name`}
              autoFocus
              maxLength={40}
              value={draft.name}
              onChange={({ target }) => set({ name: target.value })}
            />
            <ChoiceField
              label={t`Kind`}
              names={kindNames}
              choices={taxKinds}
              value={draft.kind}
              onChange={(kind) => set({ kind })}
            />
            <ChoiceField
              label={t`For`}
              names={useNames}
              choices={taxUses}
              value={draft.use}
              onChange={(use) => set({ use })}
            />
          </div>
          {hasRates(draft.kind) && (
            <>
              <RateFields rates={draft.rates} onChange={(rates) => set({ rates })} />
              <div className="form-row">
                <AccountField
                  label={t`Input tax goes to`}
                  value={draft.inputAccountId}
                  onChange={(inputAccountId) => set({ inputAccountId })}
                />
                <AccountField
                  label={t`Output tax goes to`}
                  value={draft.outputAccountId}
                  onChange={(outputAccountId) => set({ outputAccountId })}
                />
                <TextField
                  label={t`Recoverable input tax, %`}
                  value={draft.recoverable}
                  inputMode="decimal"
                  onChange={({ target }) => set({ recoverable: target.value })}
                />
              </div>
            </>
          )}
          <BoxFields boxes={draft.boxes} onChange={(boxes) => set({ boxes })} />
          {code && <p className="quiet">{t`Lines already posted keep their tax.`}</p>}
          {'missing' in complete && <p className="quiet mb-0">{t`Enter ${complete.missing}.`}</p>}
          {error && <ErrorNote error={error} />}
        </Modal.Body>
        <DialogFoot
          isOff={'missing' in complete || making.isLoading || changing.isLoading}
          onLeave={onClose}
        >
          {t`Save tax code`}
        </DialogFoot>
      </form>
    </Dialog>
  );
}

function ChoiceField<Value extends string>({
  label,
  names,
  choices,
  value,
  onChange,
}: {
  readonly label: string;
  readonly names: Readonly<Record<Value, string>>;
  readonly choices: readonly Value[];
  readonly value: Value;
  readonly onChange: (value: Value) => void;
}) {
  return (
    <SelectField
      label={label}
      value={value}
      onChange={({ target }) => {
        const chosen = choices.find((each) => each === target.value);
        if (chosen !== undefined) onChange(chosen);
      }}
    >
      {choices.map((each) => (
        <option key={each} value={each}>
          {names[each]}
        </option>
      ))}
    </SelectField>
  );
}

function RateFields({
  rates,
  onChange,
}: {
  readonly rates: TaxCodeDraft['rates'];
  readonly onChange: (rates: TaxCodeDraft['rates']) => void;
}) {
  const set = (at: number, part: Partial<TaxCodeDraft['rates'][number]>) =>
    onChange(rates.map((rate, index) => (index === at ? { ...rate, ...part } : rate)));
  return (
    <section aria-label={t`Rates`}>
      <h3 className="small-heading">{t`Rates`}</h3>
      <p className="quiet mb-1">{t`A rate without a date has always applied.`}</p>
      {rates.map(({ fromDate, percent }, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: rates have no other name than their place
        <div className="form-row" key={at}>
          <TextField
            label={t`Rate, %`}
            inputMode="decimal"
            value={percent}
            onChange={({ target }) => set(at, { percent: target.value })}
          />
          <DateField
            label={t`From`}
            value={fromDate}
            onChange={(fromDate) => set(at, { fromDate })}
          />
          <Button
            variant="link"
            disabled={rates.length === 1}
            onClick={() => onChange(rates.filter((_, index) => index !== at))}
          >
            {t`Remove rate`}
          </Button>
        </div>
      ))}
      <Button variant="plain" onClick={() => onChange([...rates, { fromDate: '', percent: '' }])}>
        {t`Add rate`}
      </Button>
    </section>
  );
}

function AccountField({
  label,
  value,
  onChange,
}: {
  readonly label: string;
  readonly value: string | null;
  readonly onChange: (id: string | null) => void;
}) {
  const { setup } = useBooks();
  const banks = new Set(setup.bankAccounts.map(({ accountId }) => accountId));
  const fits = setup.accounts.filter(
    ({ id, type, role, isOn, mergedInto }) =>
      (type === 'asset' || type === 'liability') &&
      !isControlRole(role) &&
      !banks.has(id) &&
      // The one that it has stays to be seen.
      ((isOn && mergedInto === null) || id === value),
  );
  return (
    <SelectField
      label={label}
      value={value ?? ''}
      onChange={({ target }) => onChange(target.value || null)}
    >
      <option value="">{t`no account`}</option>
      {fits.map((account) => (
        <option key={account.id} value={account.id}>
          {accountLabel(account)}
        </option>
      ))}
    </SelectField>
  );
}

function BoxFields({
  boxes,
  onChange,
}: {
  readonly boxes: TaxCodeDraft['boxes'];
  readonly onChange: (boxes: TaxCodeDraft['boxes']) => void;
}) {
  const { setup } = useBooks();
  const list = useId();
  const known = setup.taxCodes.flatMap((code) => taxParts.map((part) => code.boxes[part]));
  return (
    <section aria-label={t`Boxes of the tax return`}>
      <h3 className="small-heading">{t`Boxes of the tax return`}</h3>
      <datalist id={list}>
        {[...new Set(known.flatMap((box) => box ?? []))].sort().map((box) => (
          <option key={box} value={box} />
        ))}
      </datalist>
      <div className="form-row">
        {taxParts.map((part) => (
          <TextField
            key={part}
            label={partNames[part]}
            list={list}
            maxLength={60}
            placeholder={t`no box`}
            value={boxes[part] ?? ''}
            onChange={({ target }) => onChange({ ...boxes, [part]: target.value || null })}
          />
        ))}
      </div>
    </section>
  );
}
