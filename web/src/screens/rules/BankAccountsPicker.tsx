import { t } from '@zubrell/core/words/t';
import { Dropdown } from 'react-bootstrap';
import { useBooks } from '../../app/useBooks.ts';

/** Any set of the bank accounts; null for every one there is or will be. */
export function BankAccountsPicker({
  ids,
  onChange,
}: {
  readonly ids: readonly string[] | null;
  readonly onChange: (ids: string[] | null) => void;
}) {
  const { setup } = useBooks();
  const chosen = setup.bankAccounts.filter(({ id }) => ids?.includes(id));
  const text = ids === null ? t`every account` : chosen.map(({ name }) => name).join(', ');
  const toggle = (id: string): void => {
    const next =
      ids === null ? [id] : ids.includes(id) ? ids.filter((each) => each !== id) : [...ids, id];
    onChange(next.length === 0 ? null : next);
  };
  return (
    <Dropdown autoClose="outside">
      <Dropdown.Toggle variant="plain" id="rule-accounts" aria-label={t`Bank accounts: ${text}`}>
        {text}
      </Dropdown.Toggle>
      <Dropdown.Menu>
        <Dropdown.Item
          as="button"
          type="button"
          active={ids === null}
          onClick={() => onChange(null)}
        >
          {t`every account`}
        </Dropdown.Item>
        {setup.bankAccounts.map(({ id, name }) => (
          <Dropdown.Item as="label" key={id}>
            <input
              type="checkbox"
              className="form-check-input me-2"
              checked={ids?.includes(id) ?? false}
              onChange={() => toggle(id)}
            />
            {name}
          </Dropdown.Item>
        ))}
      </Dropdown.Menu>
    </Dropdown>
  );
}
