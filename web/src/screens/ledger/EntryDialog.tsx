import type { Entry } from '@zubrell/contract/ledger';
import type { BankAccountId, EntryId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { type FormEvent, useState } from 'react';
import { Modal } from 'react-bootstrap';
import { ledgerApi } from '../../api/ledger.ts';
import { ClientField } from '../../app/ClientField.tsx';
import { clientMoneyOf, ledgerOf } from '../../app/clientMoney.ts';
import { InCurrency } from '../../app/InCurrency.tsx';
import { shownProblem } from '../../app/problem.ts';
import { toast } from '../../app/toast.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useToday } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { AmountField } from '../../ui/AmountField.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { RateField } from '../../ui/RateField.tsx';
import { Segments } from '../../ui/Segments.tsx';
import { SelectField } from '../../ui/SelectField.tsx';
import { TextField } from '../../ui/TextField.tsx';
import {
  canSettle,
  completeHand,
  emptyHand,
  type HandDraft,
  handDraftOf,
  handNames,
  restOf,
} from './handForm.ts';
import { JournalLegs } from './JournalLegs.tsx';
import { AccountAndTaxFields } from './PartFields.tsx';
import { PayeeField } from './PayeeField.tsx';
import { PrivateFields } from './PrivateFields.tsx';
import { SettledDocuments } from './SettledDocuments.tsx';

const KINDS = Object.entries(handNames) as [HandDraft['kind'], string][];

/** Enters something by hand, or changes what was entered. */
export function EntryDialog({
  entry,
  start = {},
  onClose,
}: {
  /** The entry to be changed; null for a new one. */
  readonly entry: Entry | null;
  /** What a new one begins with. */
  readonly start?: Partial<HandDraft>;
  readonly onClose: (entryId?: EntryId) => void;
}) {
  const { booksId, setup, currencyOf } = useBooks();
  const { told } = useUndo();
  const today = useToday();
  const [draft, setDraft] = useState(() =>
    entry?.content
      ? { ...handDraftOf(entry.content), reverseOn: entry.reversedBy?.date ?? '' }
      : { ...emptyHand(today, setup.bankAccounts[0]?.id ?? null), ...start },
  );
  const [enter, entering] = ledgerApi.useEnterByHandMutation();
  const [change, changing] = ledgerApi.useChangeEntryMutation();
  const [addAttachment, adding] = ledgerApi.useAddEntryAttachmentMutation();
  const [receipt, setReceipt] = useState<File | null>(null);
  const set = (part: Partial<HandDraft>) => setDraft({ ...draft, ...part });
  const complete = completeHand(draft);
  const isPrivate = draft.kind === 'paidPrivately';
  const currency = isPrivate ? setup.books.currency : currencyOf(draft.bankAccountId ?? '');
  const { holdsClients } = clientMoneyOf(setup);
  const isOfClient = [
    ledgerOf(setup, isPrivate || draft.kind === 'journal' ? null : draft.bankAccountId),
    ledgerOf(setup, draft.kind === 'transfer' ? draft.toBankAccountId : null),
  ].some((id) => id !== null && holdsClients(id));
  const isOnBank = draft.legs.some(({ accountId }) =>
    setup.bankAccounts.some((bank) => bank.accountId === accountId),
  );
  // What documents and credit take whole needs no account.
  const isCoded = !canSettle(draft) || (restOf(draft) !== 0 && !draft.leavesCredit);
  const error = entering.error ?? changing.error;

  async function save(event: FormEvent): Promise<void> {
    event.preventDefault();
    if ('missing' in complete) return;
    const reverseOn = (draft.kind === 'journal' && draft.reverseOn) || null;
    const body = { booksId, entry: complete.entry, reverseOn };
    const answer = entry ? await change({ ...body, entryId: entry.id }) : await enter(body);
    if (!answer.data || !told(answer)) return;
    const entryId = answer.data.id;
    const kept =
      isPrivate && receipt ? await addAttachment({ booksId, entryId, file: receipt }) : null;
    // The entry stands; the receipt can be added to it again.
    if (kept?.error && receipt) {
      toast.error(t`${receipt.name} wasn’t attached: ${shownProblem(kept.error).message}`);
    }
    onClose(entryId);
  }

  return (
    <Dialog title={entry ? t`Change entry` : t`New entry`} isWide onClose={() => onClose()}>
      <form onSubmit={(event) => void save(event)}>
        <Modal.Body className="entry-form">
          <Segments
            label={t`Kind`}
            choices={KINDS}
            value={draft.kind}
            onChange={(kind) => set({ kind })}
          />
          <div className="form-row">
            <DateField label={t`Date`} value={draft.date} onChange={(date) => set({ date })} />
            {draft.kind !== 'journal' && draft.kind !== 'paidPrivately' && (
              <BankField
                label={draft.kind === 'transfer' ? t`From` : t`Bank account`}
                value={draft.bankAccountId}
                onChange={(bankAccountId) => set({ bankAccountId })}
              />
            )}
            {draft.kind === 'transfer' && (
              <BankField
                label={t`To`}
                value={draft.toBankAccountId}
                onChange={(toBankAccountId) => set({ toBankAccountId })}
              />
            )}
            {draft.kind !== 'journal' && (
              <>
                <div>
                  <span className="small-heading">
                    {currency === setup.books.currency ? t`Amount` : t`Amount in ${currency}`}
                  </span>
                  <InCurrency currency={currency}>
                    <AmountField
                      label={t`Amount`}
                      placeholder="0.00"
                      value={draft.amount}
                      onChange={(amount) => set({ amount })}
                    />
                  </InCurrency>
                </div>
                <RateField
                  currency={currency}
                  date={draft.date}
                  value={draft.rate}
                  onChange={(rate) => set({ rate })}
                />
              </>
            )}
            {draft.kind !== 'transfer' && (
              <TextField
                label={draft.kind === 'cheque' ? t`Cheque number` : t`Reference`}
                value={draft.number}
                maxLength={50}
                onChange={({ target }) => set({ number: target.value })}
              />
            )}
          </div>
          {draft.kind !== 'transfer' && (
            <div className="form-row">
              <PayeeField
                label={t`Payee`}
                kind="other"
                value={draft.payeeId}
                onChange={(payeeId) => set({ payeeId, settles: [] })}
              />
              {draft.kind !== 'journal' && isCoded && (
                <AccountAndTaxFields
                  label={t`of the entry`}
                  accountId={draft.accountId}
                  taxCodeId={draft.taxCodeId}
                  onChange={(accountId, taxCodeId) => set({ accountId, taxCodeId })}
                />
              )}
            </div>
          )}
          {isOfClient && (
            <div className="form-row">
              <div>
                <span className="small-heading">{t`Client`}</span>
                <ClientField
                  label={t`Client`}
                  payeeId={draft.kind === 'transfer' ? null : draft.payeeId}
                  value={draft.clientId}
                  onChange={(clientId) => set({ clientId })}
                />
              </div>
            </div>
          )}
          {isPrivate && (
            <PrivateFields
              ownerId={draft.ownerId}
              receipt={receipt}
              onOwner={(ownerId) => set({ ownerId })}
              onReceipt={setReceipt}
            />
          )}
          <InCurrency currency={currency}>
            <SettledDocuments draft={draft} onChange={set} />
          </InCurrency>
          {draft.kind === 'journal' && (
            <JournalLegs legs={draft.legs} onChange={(legs) => set({ legs })} />
          )}
          {draft.kind === 'journal' && isOnBank && (
            <label className="form-check mb-3">
              <input
                type="checkbox"
                className="form-check-input"
                checked={draft.isAwaited}
                onChange={({ target }) => set({ isAwaited: target.checked })}
              />
              {t`The bank will report this`}
              <span className="quiet d-block">
                {t`Until its line comes, the entry counts as outstanding. Otherwise it shows as unexplained in the proof.`}
              </span>
            </label>
          )}
          {draft.kind === 'journal' && !isOnBank && !entry?.reverses && (
            <DateField
              label={t`Reverse on`}
              min={draft.date}
              hint={t`Leave empty if the journal isn’t reversed. A reversal posts the same legs the other way round.`}
              value={draft.reverseOn}
              onChange={(reverseOn) => set({ reverseOn })}
            />
          )}
          <TextField
            label={t`Note`}
            value={draft.note}
            maxLength={1_000}
            onChange={({ target }) => set({ note: target.value })}
          />
          {'missing' in complete && <p className="quiet mb-0">{t`Enter ${complete.missing}.`}</p>}
          {error && <ErrorNote error={error} />}
        </Modal.Body>
        <DialogFoot
          isOff={
            'missing' in complete || [entering, changing, adding].some(({ isLoading }) => isLoading)
          }
          onLeave={() => onClose()}
        >
          {t`Save entry`}
        </DialogFoot>
      </form>
    </Dialog>
  );
}

function BankField({
  label,
  value,
  onChange,
}: {
  readonly label: string;
  readonly value: string | null;
  readonly onChange: (bankAccountId: BankAccountId | null) => void;
}) {
  const { setup } = useBooks();
  return (
    <SelectField
      label={label}
      value={value ?? ''}
      onChange={({ target }) => onChange(target.value || null)}
    >
      <option value="">{t`Choose …`}</option>
      {setup.bankAccounts.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </SelectField>
  );
}
