import type { AccountUse, BooksSetup, HideableField, PayeeUse } from '@zubrell/contract/books';
import type { DraftCoding } from '@zubrell/contract/coding';
import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import { api } from '../../app/api.ts';
import { shownProblem } from '../../app/problem.ts';
import { accountLabel, mayMakeAccounts, useBooks } from '../../app/useBooks.ts';
import { Combobox } from '../../ui/Combobox.tsx';
import type { Choice } from '../../ui/matchingChoices.ts';
import { nearTwins } from '../../ui/nearTwins.ts';
import type { HeadField } from './CodingCell.tsx';
import { NewAccountDialog } from './NewAccountDialog.tsx';
import { type Uses, withUsual } from './withUsual.ts';

const ORDER: readonly HeadField[] = ['payeeId', 'accountId', 'taxCodeId'];
const LABELS: Readonly<Record<HeadField, string>> = {
  payeeId: 'Payee',
  accountId: 'Account',
  taxCodeId: 'Tax',
};

/** The next field that is still empty, or null after the last. */
export function nextEmptyField(
  field: HeadField,
  coding: DraftCoding,
  isHidden: IsHidden,
): HeadField | null {
  const later = shownFields(isHidden).slice(ORDER.indexOf(field) + 1);
  return later.find((each) => coding[each] === null) ?? null;
}

type IsHidden = (field: HideableField) => boolean;

function shownFields(isHidden: IsHidden): readonly HeadField[] {
  return ORDER.filter((field) => field !== 'taxCodeId' || !isHidden(field));
}

/** The field before or after one, or null at the end. */
export function besideField(
  field: HeadField,
  isBack: boolean,
  isHidden: IsHidden,
): HeadField | null {
  return shownFields(isHidden)[ORDER.indexOf(field) + (isBack ? -1 : 1)] ?? null;
}

interface CodingInputProps {
  readonly field: HeadField;
  readonly coding: DraftCoding;
  /** What a payee made here is made from. */
  readonly line: {
    /** A clean name, where one can be made of its wording. */
    readonly payeeName?: string;
    readonly isOut: boolean;
  };
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
  const uses = useUses();
  const choices = useChoices(field, uses);
  const [createPayee] = api.useCreatePayeeMutation();
  const [newAccount, setNewAccount] = useState<string | null>(null);
  let latest = coding;

  function take(id: string | null): void {
    // A tax corrected by hand belongs to the code it was corrected for.
    const tax = field === 'taxCodeId' ? null : coding.tax;
    const taken = { ...coding, [field]: id, tax };
    latest = id === null ? taken : withUsual(taken, uses);
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
              ...(coding.payeeId === null && line.payeeName !== undefined
                ? { newName: line.payeeName }
                : {}),
            }
          : field === 'accountId' && mayMakeAccounts(setup)
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

/** What was posted so far, as far as it is known here. */
function useUses(): Uses {
  const { booksId } = useBooks();
  const payees = api.usePayeeUsesQuery(booksId).data?.uses;
  const accounts = api.useAccountUsesQuery(booksId).data?.uses;
  return useMemo(() => ({ payees: payees ?? [], accounts: accounts ?? [] }), [payees, accounts]);
}

/** What can be chosen for a field, what is used most first. */
function useChoices(field: HeadField, { payees, accounts }: Uses): readonly Choice[] {
  const { setup } = useBooks();
  return useMemo(
    () =>
      field === 'payeeId'
        ? payeeChoices(setup, payees)
        : field === 'accountId'
          ? accountChoices(setup, accounts)
          : taxChoices(setup),
    [field, setup, payees, accounts],
  );
}

function taxChoices(setup: BooksSetup): Choice[] {
  return setup.taxCodes.filter(({ isOn }) => isOn).map(({ id, name }) => ({ id, label: name }));
}

function payeeChoices(setup: BooksSetup, uses: readonly PayeeUse[]): Choice[] {
  const times = new Map(uses.map(({ payeeId, entryCount }) => [payeeId, entryCount]));
  return setup.payees
    .filter(({ isOn }) => isOn)
    .sort((a, b) => (times.get(b.id) ?? 0) - (times.get(a.id) ?? 0))
    .map(({ id, name }) => ({ id, label: name }));
}

function accountChoices(setup: BooksSetup, uses: readonly AccountUse[]): Choice[] {
  const times = new Map(uses.map((use) => [use.accountId, use.times]));
  const parents = new Set(setup.accounts.map(({ parentId }) => parentId));
  const banks = new Set(setup.bankAccounts.map(({ accountId }) => accountId));
  return setup.accounts
    .filter(({ id, isOn }) => isOn && !banks.has(id))
    .sort(
      (a, b) =>
        (times.get(b.id) ?? 0) - (times.get(a.id) ?? 0) ||
        Number(parents.has(a.id)) - Number(parents.has(b.id)),
    )
    .map((account) => ({
      id: account.id,
      label: accountLabel(account),
      hint: account.type,
      words: account.purpose,
    }));
}
