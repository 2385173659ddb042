import type { Account, ChangeAccount } from '@zubrell/contract/books';
import { assignableRoles, roleNames } from '@zubrell/core/ledger/accountRoles';
import { type AccountTax, accountTaxes } from '@zubrell/core/ledger/kinds';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import { useForm } from 'react-hook-form';
import { booksApi } from '../../api/books.ts';
import { accountLabel, standing, useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';
import { SelectField } from '../../ui/SelectField.tsx';
import { TextField } from '../../ui/TextField.tsx';
import { MergeAccountDialog } from './MergeAccountDialog.tsx';

/** Changes an account, or switches it off so that nothing new is coded to it. */
export function AccountChange({
  account,
  isBank = false,
}: {
  readonly account: Account;
  readonly isBank?: boolean;
}) {
  const { booksId } = useBooks();
  const { told } = useUndo();
  const [change, { isLoading }] = booksApi.useChangeAccountMutation();
  const [isOpen, setIsOpen] = useState(false);
  const [isMerging, setIsMerging] = useState(false);

  async function send(wanted: ChangeAccount): Promise<void> {
    if (told(await change({ booksId, accountId: account.id, ...wanted }))) setIsOpen(false);
  }

  return (
    <span className="account-change">
      <Button variant="plain" onClick={() => setIsOpen(true)}>
        {t`Change`}
      </Button>
      <Button
        variant="plain"
        disabled={isLoading}
        onClick={() => void send({ isOn: !account.isOn })}
      >
        {account.isOn ? t`Switch off` : t`Switch on`}
      </Button>
      {account.role === null && !isBank && (
        <Button variant="plain" onClick={() => setIsMerging(true)}>
          {t`Merge`}
        </Button>
      )}
      {isMerging && <MergeAccountDialog account={account} onClose={() => setIsMerging(false)} />}
      {isOpen && (
        <AccountDialog
          account={account}
          isBusy={isLoading}
          onSave={(wanted) => void send(wanted)}
          onClose={() => setIsOpen(false)}
        />
      )}
    </span>
  );
}

interface Fields {
  readonly code: string;
  readonly parentId: string;
  readonly name: string;
  readonly purpose: string;
  readonly role: string;
  readonly tax: AccountTax;
}

/** Which tax an account takes, in words. */
const TAXES: Readonly<Record<AccountTax, string>> = {
  byType: t`as its type says`,
  never: t`none, never`,
  byCode: t`on the side the tax code is for`,
};

function AccountDialog({
  account,
  isBusy,
  onSave,
  onClose,
}: {
  readonly account: Account;
  readonly isBusy: boolean;
  readonly onSave: (wanted: ChangeAccount) => void;
  readonly onClose: () => void;
}) {
  const role = assignableRoles.find((each) => each === account.role);
  const isRoleFixed = account.role !== null && role === undefined;
  const { setup } = useBooks();
  const { register, handleSubmit, watch, formState } = useForm<Fields>({
    defaultValues: {
      code: account.code,
      parentId: account.parentId ?? '',
      name: account.name,
      purpose: account.purpose,
      role: role ?? '',
      tax: account.tax,
    } satisfies Fields,
  });
  const save = handleSubmit(({ code, parentId, name, purpose, role: wanted, tax }) =>
    onSave({
      code: code.trim(),
      parentId: parentId || null,
      name,
      purpose,
      tax,
      ...(isRoleFixed ? {} : { role: assignableRoles.find((each) => each === wanted) ?? null }),
    }),
  );
  return (
    <Dialog title={accountLabel(account)} onClose={onClose}>
      <form onSubmit={save}>
        <Modal.Body className="form-grid">
          <TextField
            label={t`Code`}
            error={formState.errors.code && t`A code is up to 12 digits or capital letters`}
            {...register('code', { required: true, pattern: /^\s*[0-9A-Z.-]{1,12}\s*$/ })}
          />
          <TextField label={t`Name`} {...register('name')} />
          <SelectField label={t`Below`} {...register('parentId')}>
            <option value="">{t`nothing: top level`}</option>
            {standing(setup.accounts)
              .filter(
                ({ id, type }) =>
                  id === account.parentId || (type === account.type && id !== account.id),
              )
              .map((other) => (
                <option key={other.id} value={other.id}>
                  {accountLabel(other)}
                </option>
              ))}
          </SelectField>
          <TextField
            label={t`Search words`}
            placeholder={t`what goes there, e.g. stationery postage`}
            {...register('purpose')}
          />
          <SelectField label={t`Tax`} {...register('tax')}>
            {accountTaxes.map((each) => (
              <option key={each} value={each}>
                {TAXES[each]}
              </option>
            ))}
          </SelectField>
          {!isRoleFixed && (
            <SelectField label={t`Used for`} {...register('role')}>
              <option value="">{t`no special use`}</option>
              {assignableRoles.map((each) => (
                <option key={each} value={each}>
                  {roleNames[each]}
                </option>
              ))}
            </SelectField>
          )}
        </Modal.Body>
        <DialogFoot isOff={isBusy || watch('name').trim() === ''} onLeave={onClose}>
          {t`Save account`}
        </DialogFoot>
      </form>
    </Dialog>
  );
}
