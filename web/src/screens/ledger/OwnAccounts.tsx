import type { Payee } from '@zubrell/contract/books';
import { isControlRole, roleTypes } from '@zubrell/core/ledger/accountRoles';
import type { AccountType } from '@zubrell/core/ledger/kinds';
import { t } from '@zubrell/core/words/t';
import type { UseFormRegisterReturn } from 'react-hook-form';
import { accountLabel, mayMakeAccounts, standing, useBooks } from '../../app/useBooks.ts';
import { SelectField } from '../../ui/SelectField.tsx';

/** A payee's own accounts, as they are chosen: empty for none. */
export interface OwnAccountFields {
  readonly accountId: string;
  readonly capitalAccountId: string;
  /** Makes those that are missing. */
  readonly makesAccounts: boolean;
}

/** Whether a payee has accounts of its own: owners and other businesses of the owner do. */
export function hasOwnAccounts({ kind }: Pick<Payee, 'kind'>): boolean {
  return kind === 'owner' || kind === 'relatedBusiness';
}

/** The accounts of an owner, or the one between these books and another business of the owner. */
export function OwnAccounts({
  payee,
  register,
}: {
  readonly payee: Payee;
  readonly register: (field: keyof OwnAccountFields) => UseFormRegisterReturn;
}) {
  const { setup } = useBooks();
  if (!hasOwnAccounts(payee)) return null;
  const isOwner = payee.kind === 'owner';
  const isWhole = payee.accountId !== null && (!isOwner || payee.capitalAccountId !== null);
  const choices = (types: readonly AccountType[]) => (
    <>
      <option value="">{isOwner ? t`Shared by all owners` : t`None yet`}</option>
      {standing(setup.accounts)
        .filter(({ id, type, role, isOn }) => {
          const isBank = setup.bankAccounts.some(({ accountId }) => accountId === id);
          return isOn && !isBank && !isControlRole(role) && types.includes(type);
        })
        .map((account) => (
          <option key={account.id} value={account.id}>
            {accountLabel(account)}
          </option>
        ))}
    </>
  );
  return (
    <>
      <SelectField
        label={isOwner ? t`Drawings` : t`Account between the two`}
        {...register('accountId')}
      >
        {choices(isOwner ? roleTypes.drawings : ['asset', 'liability'])}
      </SelectField>
      {isOwner && (
        <SelectField label={t`Capital introduced`} {...register('capitalAccountId')}>
          {choices(roleTypes.capital)}
        </SelectField>
      )}
      <p className="quiet m-0">
        {isOwner
          ? t`Personal spending goes to drawings; money put in, and costs paid privately, to capital.`
          : t`All money to and from it is posted there, never to income or costs.`}
      </p>
      {!isWhole && mayMakeAccounts(setup) && (
        <label className="form-check m-0">
          <input type="checkbox" className="form-check-input" {...register('makesAccounts')} />
          {isOwner ? t`Create missing accounts` : t`Create account`}
        </label>
      )}
    </>
  );
}
