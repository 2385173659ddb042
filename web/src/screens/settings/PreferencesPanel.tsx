import type { BankField, HideableField } from '@zubrell/contract/books';
import { BankField as BankFields, HideableField as HideableFields } from '@zubrell/contract/books';
import { t } from '@zubrell/core/words/t';
import { booksApi } from '../../api/books.ts';
import { shownProblem } from '../../app/problem.ts';
import { toast } from '../../app/toast.ts';
import { useBooks } from '../../app/useBooks.ts';
import { bankFieldNames } from '../desk/bankFieldNames.ts';

const FIELD_NAMES: Readonly<Record<HideableField, string>> = {
  taxCodeId: t`Tax`,
  note: t`Note`,
  costCentreId: t`Cost centre`,
  jobId: t`Job`,
};

/** What this user sees of a line: coding fields, and the bank's own. */
export function PreferencesPanel() {
  const { booksId, setup } = useBooks();
  const [save] = booksApi.useSavePreferencesMutation();
  const { preferences } = setup.books;

  async function put(changed: Partial<typeof preferences>): Promise<void> {
    const { error } = await save({ booksId, ...preferences, ...changed });
    if (error) toast.error(shownProblem(error).message);
  }

  return (
    <section className="sheet">
      <h2>{t`Your view`}</h2>
      <p className="quiet">{t`For you alone, in these books.`}</p>
      <Ticks<HideableField>
        legend={t`Coding fields in the Desk`}
        all={HideableFields.options}
        names={FIELD_NAMES}
        isOn={(field) => !preferences.hiddenFields.includes(field)}
        onChange={(field, isOn) => {
          const { hiddenFields } = preferences;
          const others = hiddenFields.filter((each) => each !== field);
          void put({ hiddenFields: isOn ? others : [...others, field] });
        }}
      />
      <Ticks<BankField>
        legend={t`The bank’s own fields of a line`}
        all={BankFields.options}
        names={bankFieldNames}
        isOn={(field) => preferences.bankFields.includes(field)}
        onChange={(field, isOn) => {
          const wanted = (each: BankField) =>
            each === field ? isOn : preferences.bankFields.includes(each);
          void put({ bankFields: BankFields.options.filter(wanted) });
        }}
      />
    </section>
  );
}

function Ticks<Field extends string>({
  legend,
  all,
  names,
  isOn,
  onChange,
}: {
  readonly legend: string;
  readonly all: readonly Field[];
  readonly names: Readonly<Record<Field, string>>;
  readonly isOn: (field: Field) => boolean;
  readonly onChange: (field: Field, isOn: boolean) => void;
}) {
  return (
    <fieldset className="ticks">
      <legend className="small-heading">{legend}</legend>
      {all.map((field) => (
        <label key={field}>
          <input
            type="checkbox"
            className="form-check-input"
            checked={isOn(field)}
            onChange={({ target }) => onChange(field, target.checked)}
          />
          {names[field]}
        </label>
      ))}
    </fieldset>
  );
}
