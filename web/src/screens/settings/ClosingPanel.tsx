import type { ChangeBooks } from '@zubrell/contract/books';
import { type AgeLimit, ageLimits } from '@zubrell/core/closing/months';
import { monthNames } from '@zubrell/core/dates/calendarDate';
import {
  type Leave,
  type LeaveRole,
  leaveRoles,
  leaves,
  leaveWords,
} from '@zubrell/core/people/leaves';
import { t } from '@zubrell/core/words/t';
import { Form, Table } from 'react-bootstrap';
import { booksApi } from '../../api/books.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { AmountField } from '../../ui/AmountField.tsx';
import { useTyped } from '../../ui/useTyped.ts';
import { roleNames } from './roleWords.ts';

const AGES: Readonly<Record<AgeLimit, string>> = {
  suspense: t`On suspense`,
  transit: t`In transit between own accounts`,
  outstanding: t`Outstanding: entered, not yet at the bank`,
};

/** Which roles may set aside, close and reopen, and what is too old to be left: the owner's to say. */
export function ClosingPanel() {
  const { booksId, setup } = useBooks();
  const { told } = useUndo();
  const [changeBooks, { isLoading }] = booksApi.useChangeBooksMutation();
  const { role, leaves: given, ages, receiptFrom, owners, yearBegins } = setup.books;
  const isLocked = role !== 'owner' || isLoading;

  async function change(wanted: ChangeBooks): Promise<void> {
    told(await changeBooks({ booksId, ...wanted }));
  }

  function toggle(leave: Leave, to: LeaveRole): void {
    const own = given[leave];
    const next = own.includes(to) ? own.filter((each) => each !== to) : [...own, to];
    void change({ leaves: { ...given, [leave]: next } });
  }

  return (
    <section className="sheet">
      <h2>{t`Permissions and closing`}</h2>
      <p className="quiet">
        {role === 'owner'
          ? t`Owners may do all of these. Tick which other roles may.`
          : t`${owners.join(', ')} can change this.`}
      </p>
      <Table className="demands">
        <thead>
          <tr>
            <th>{t`Permission`}</th>
            {leaveRoles.map((each) => (
              <th key={each}>{roleNames[each]}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {leaves.map((leave) => (
            <tr key={leave}>
              <th scope="row">{leaveWords[leave]}</th>
              {leaveRoles.map((each) => (
                <td key={each}>
                  <input
                    type="checkbox"
                    className="form-check-input"
                    aria-label={t`${roleNames[each]} may ${leaveWords[leave]}`}
                    disabled={isLocked}
                    checked={given[leave].includes(each)}
                    onChange={() => toggle(leave, each)}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Table>
      <h3 className="small-heading">{t`Too old after`}</h3>
      {ageLimits.map((limit) => (
        <DaysField
          key={`${limit} ${ages[limit]}`}
          label={AGES[limit]}
          days={ages[limit]}
          isLocked={isLocked}
          onChange={(days) => void change({ ages: { ...ages, [limit]: days } })}
        />
      ))}
      <h3 className="small-heading">{t`Year and receipts`}</h3>
      <div className="setting">
        <span>{t`The year begins in`}</span>
        <Form.Select
          aria-label={t`Month in which the year begins`}
          size="sm"
          disabled={isLocked}
          value={yearBegins}
          onChange={({ target }) => void change({ yearBegins: Number(target.value) })}
        >
          {monthNames.map((name, index) => (
            <option key={name} value={index + 1}>
              {name}
            </option>
          ))}
        </Form.Select>
      </div>
      <div className="setting">
        <span>{t`Receipt required for costs from`}</span>
        <fieldset disabled={isLocked}>
          <AmountField
            label={t`Amount from which a cost needs a receipt`}
            placeholder={t`never`}
            value={receiptFrom}
            onChange={(amount) => {
              const wanted = amount === null || amount === 0 ? null : Math.abs(amount);
              if (wanted !== receiptFrom) void change({ receiptFrom: wanted });
            }}
          />
        </fieldset>
      </div>
    </section>
  );
}

function DaysField({
  label,
  days,
  isLocked,
  onChange,
}: {
  readonly label: string;
  readonly days: number;
  readonly isLocked: boolean;
  readonly onChange: (days: number) => void;
}) {
  const [typed, setTyped] = useTyped(String(days));
  const number = Number(typed);
  const isRight = Number.isInteger(number) && number >= 1 && number <= 3_650;
  return (
    <div className="setting">
      <span>{label}</span>
      <Form.Control
        aria-label={t`${label}, in days`}
        size="sm"
        type="number"
        min={1}
        max={3_650}
        disabled={isLocked}
        isInvalid={!isRight}
        value={typed}
        onChange={({ target }) => setTyped(target.value)}
        onBlur={() => isRight && number !== days && onChange(number)}
      />
      <span>{t`days`}</span>
    </div>
  );
}
