import type { HideableField } from '@zubrell/contract/books';
import type { DraftCoding } from '@zubrell/contract/coding';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { booksApi } from '../../api/books.ts';
import { type CodedField, useChoices, useUses } from '../../app/codingChoices.ts';
import { shownProblem } from '../../app/problem.ts';
import { toast } from '../../app/toast.ts';
import { mayMakeAccounts, useBooks } from '../../app/useBooks.ts';
import { Combobox } from '../../ui/Combobox.tsx';
import { lateDialog } from '../../ui/late.tsx';
import { nearTwins } from '../../ui/nearTwins.ts';
import { withUsual } from './withUsual.ts';

const NewAccountDialog = lateDialog(
  async () => (await import('./NewAccountDialog.tsx')).NewAccountDialog,
);

const ORDER: readonly CodedField[] = ['payeeId', 'accountId', 'taxCodeId'];
const LABELS: Readonly<Record<CodedField, string>> = {
  payeeId: t`Payee`,
  accountId: t`Account`,
  taxCodeId: t`Tax`,
};

/** The next field that is still empty, or null after the last. */
export function nextEmptyField(
  field: CodedField,
  coding: DraftCoding,
  isHidden: IsHidden,
): CodedField | null {
  const later = shownFields(isHidden).slice(ORDER.indexOf(field) + 1);
  return later.find((each) => coding[each] === null) ?? null;
}

type IsHidden = (field: HideableField) => boolean;

function shownFields(isHidden: IsHidden): readonly CodedField[] {
  return ORDER.filter((field) => field !== 'taxCodeId' || !isHidden(field));
}

/** The field before or after one, or null at the end. */
export function besideField(
  field: CodedField,
  isBack: boolean,
  isHidden: IsHidden,
): CodedField | null {
  return shownFields(isHidden)[ORDER.indexOf(field) + (isBack ? -1 : 1)] ?? null;
}

interface CodingInputProps {
  readonly field: CodedField;
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
  const books = useBooks();
  const { booksId, setup } = books;
  const uses = useUses();
  const choices = useChoices(field, uses);
  const [createPayee] = booksApi.useCreatePayeeMutation();
  const [newAccount, setNewAccount] = useState<string | null>(null);
  let latest = coding;

  function take(id: string | null): void {
    // A tax corrected by hand belongs to the code it was corrected for.
    const tax = field === 'taxCodeId' ? null : coding.tax;
    const taken = { ...coding, [field]: id, tax };
    latest = id === null ? taken : withUsual(taken, uses, books);
    onChange(latest);
  }

  async function create(typed: string): Promise<void> {
    const kind = line.isOut ? 'supplier' : 'customer';
    const answer = await createPayee({ booksId, name: typed, kind });
    if (answer.data) {
      take(answer.data.id);
      toast(answer.data.words);
      const twins = nearTwins(setup.payees, typed);
      if (twins[0])
        toast.warning(t`${typed} is very similar to ${twins[0].name}. Undo removes it again.`);
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
