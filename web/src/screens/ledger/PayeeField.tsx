import type { PayeeId } from '@zubrell/core/ids';
import { booksApi } from '../../api/books.ts';
import { useChoices, useUses } from '../../app/codingChoices.ts';
import { shownProblem } from '../../app/problem.ts';
import { toast } from '../../app/toast.ts';
import { useBooks } from '../../app/useBooks.ts';
import { Combobox } from '../../ui/Combobox.tsx';

/** A payee, which can be made in place. */
export function PayeeField({
  label,
  kind,
  value,
  onChange,
  autoFocus = false,
}: {
  readonly label: string;
  /** What a payee made here is. */
  readonly kind: 'supplier' | 'customer' | 'other';
  readonly value: string | null;
  readonly onChange: (payeeId: PayeeId | null) => void;
  readonly autoFocus?: boolean;
}) {
  const { booksId } = useBooks();
  const choices = useChoices('payeeId', useUses());
  const [createPayee] = booksApi.useCreatePayeeMutation();

  async function create(name: string): Promise<void> {
    const answer = await createPayee({ booksId, name, kind });
    if (answer.data) {
      onChange(answer.data.id);
      toast(answer.data.words);
    } else toast.error(shownProblem(answer.error).message);
  }

  return (
    <div>
      <span className="small-heading">{label}</span>
      <Combobox
        label={label}
        placeholder={label}
        choices={choices}
        value={value}
        autoFocus={autoFocus}
        onChange={onChange}
        onCreate={(typed) => {
          void create(typed);
          return undefined;
        }}
      />
    </div>
  );
}
