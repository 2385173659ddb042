import { t } from '@zubrell/core/words/t';
import { DateField } from '../../ui/DateField.tsx';

/** What of a register is shown; empty for all of it. */
export interface RegisterFilter {
  readonly search: string;
  readonly from: string;
  readonly to: string;
}

/** All of a register. */
export const NO_FILTER: RegisterFilter = { search: '', from: '', to: '' };

/** Searches a register, and limits it to a period. */
export function RegisterBar({
  filter,
  onChange,
}: {
  readonly filter: RegisterFilter;
  readonly onChange: (filter: RegisterFilter) => void;
}) {
  return (
    <search className="register-bar">
      <input
        type="search"
        className="form-control"
        aria-label={t`Search this account`}
        placeholder={t`Text, number, payee or amount`}
        value={filter.search}
        onChange={({ target }) => onChange({ ...filter, search: target.value })}
      />
      <DateField
        label={t`From`}
        labelled="beside"
        value={filter.from}
        onChange={(from) => onChange({ ...filter, from })}
      />
      <DateField
        label={t`To`}
        labelled="beside"
        value={filter.to}
        onChange={(to) => onChange({ ...filter, to })}
      />
    </search>
  );
}
