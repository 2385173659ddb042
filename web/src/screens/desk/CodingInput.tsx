import type { DraftCoding } from '@zubrell/contract/coding';
import { useState } from 'react';
import { toast } from 'sonner';
import { api } from '../../app/api.ts';
import { shownProblem } from '../../app/problem.ts';
import { accountLabel, useBooks } from '../../app/useBooks.ts';
import { Combobox } from '../../ui/Combobox.tsx';
import type { Choice } from '../../ui/matchingChoices.ts';
import { nearTwins } from '../../ui/nearTwins.ts';
import type { HeadField } from './CodingCell.tsx';
import { NewAccountDialog } from './NewAccountDialog.tsx';

const ORDER: readonly HeadField[] = ['payeeId', 'accountId', 'taxCodeId'];
const LABELS: Readonly<Record<HeadField, string>> = {
  payeeId: 'Payee',
  accountId: 'Account',
  taxCodeId: 'Tax',
};

/** The next field that is still empty, or null after the last. */
export function nextEmptyField(field: HeadField, coding: DraftCoding): HeadField | null {
  return ORDER.slice(ORDER.indexOf(field) + 1).find((each) => coding[each] === null) ?? null;
}

/** The field before or after one, or null at the end. */
export function besideField(field: HeadField, isBack: boolean): HeadField | null {
  return ORDER[ORDER.indexOf(field) + (isBack ? -1 : 1)] ?? null;
}

interface CodingInputProps {
  readonly field: HeadField;
  readonly coding: DraftCoding;
  /** What a payee made here is made from. */
  readonly line: { readonly description: string; readonly isOut: boolean };
  readonly onChange: (coding: DraftCoding) => void;
  /** Enter was pressed; gets the coding as it stands then. */
  readonly onNext: (coding: DraftCoding) => void;
  /** Tab was pressed; without it the focus goes where Tab leads. */
  readonly onTab?: (isBack: boolean) => void;
  readonly onCancel: () => void;
  readonly autoFocus?: boolean;
}

/** The input for one field of a coding, with what can be chosen there. A new payee is made in place. */
export function CodingInput(props: CodingInputProps) {
  const { field, coding, line, onChange } = props;
  const { booksId, setup } = useBooks();
  const choices = useChoices(field);
  const [createPayee] = api.useCreatePayeeMutation();
  const [newAccount, setNewAccount] = useState<string | null>(null);
  let latest = coding;

  function take(id: string | null): void {
    // A tax corrected by hand belongs to the code it was corrected for.
    const tax = field === 'taxCodeId' ? null : coding.tax;
    latest = { ...coding, [field]: id, tax };
    onChange(latest);
  }

  async function create(typed: string): Promise<void> {
    const kind = line.isOut ? 'supplier' : 'customer';
    const answer = await createPayee({ booksId, name: typed, kind });
    if (answer.data) {
      take(answer.data.id);
      toast(answer.data.words);
      const twins = nearTwins(setup.payees, typed);
      if (twins[0]) toast.warning(`${typed} is much like ${twins[0].name}. Undo takes it back.`);
    } else toast.error(shownProblem(answer.error).message);
  }

  return (
    <>
      <Combobox
        label={LABELS[field]}
        choices={choices}
        value={coding[field]}
        onChange={take}
        {...(field === 'payeeId'
          ? {
              onCreate: (typed: string) => {
                void create(typed);
                return undefined;
              },
            }
          : field === 'accountId'
            ? {
                onCreate: (typed: string) => {
                  setNewAccount(typed);
                  return 'stay' as const;
                },
              }
            : {})}
        onNext={() => props.onNext(latest)}
        {...(props.onTab ? { onTab: props.onTab } : {})}
        onCancel={props.onCancel}
        placeholder={LABELS[field]}
        autoFocus={props.autoFocus ?? false}
      />
      {newAccount !== null && (
        <NewAccountDialog
          typed={newAccount}
          isOut={line.isOut}
          onClose={() => setNewAccount(null)}
          onMade={(id) => {
            setNewAccount(null);
            take(id);
          }}
        />
      )}
    </>
  );
}

function useChoices(field: HeadField): readonly Choice[] {
  const { setup } = useBooks();
  if (field === 'payeeId') {
    return setup.payees.filter(({ isOn }) => isOn).map(({ id, name }) => ({ id, label: name }));
  }
  if (field === 'taxCodeId') {
    return setup.taxCodes.filter(({ isOn }) => isOn).map(({ id, name }) => ({ id, label: name }));
  }
  const parents = new Set(setup.accounts.map(({ parentId }) => parentId));
  const banks = new Set(setup.bankAccounts.map(({ accountId }) => accountId));
  return setup.accounts
    .filter(({ id, isOn }) => isOn && !banks.has(id))
    .sort((a, b) => Number(parents.has(a.id)) - Number(parents.has(b.id)))
    .map((account) => ({ id: account.id, label: accountLabel(account), hint: account.type }));
}
