import type { CostObject } from '@zubrell/contract/books';
import type { DecidedTarget } from '@zubrell/contract/desk';
import type { AccountId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { type FormEvent, type ReactNode, useState } from 'react';
import { Button } from 'react-bootstrap';
import { linesApi } from '../../../api/lines.ts';
import { useBooks } from '../../../app/useBooks.ts';
import { useUndo } from '../../../app/useUndo.tsx';
import { Combobox } from '../../../ui/Combobox.tsx';
import { CodingInput } from '../CodingInput.tsx';
import { emptyCoding } from '../rows.ts';
import { useSeenStep } from '../useSeenStep.ts';

const OBJECTS = [
  ['costCentreId', 'costCentre', t`Cost centre`],
  ['jobId', 'job', t`Job`],
] as const satisfies readonly (readonly [string, CostObject['kind'], string])[];

/** What decided lines are to be coded to instead; an empty field leaves what is there. */
export function RecodeFields({
  target,
  isOut,
  fromAccountId,
  autoFocus = false,
  onDone,
  onCancel,
  children,
}: {
  readonly target: DecidedTarget;
  readonly isOut: boolean;
  /** The account whose parts are coded otherwise; without it whole lines are. */
  readonly fromAccountId?: AccountId | undefined;
  /** Whether the account is to be typed at once. */
  readonly autoFocus?: boolean;
  readonly onDone: () => void;
  readonly onCancel?: () => void;
  /** What the button says. */
  readonly children: ReactNode;
}) {
  const { booksId, setup, isHidden } = useBooks();
  const { told } = useUndo();
  const seenStep = useSeenStep();
  const [coding, setCoding] = useState(emptyCoding);
  const [recode, { isLoading }] = linesApi.useRecodeLinesMutation();
  const { payeeId, accountId, taxCodeId, costCentreId = null, jobId = null, note } = coding;
  const wanted = Object.fromEntries(
    Object.entries({ payeeId, accountId, taxCodeId, costCentreId, jobId, note }).filter(
      ([, value]) => value !== null && value !== '',
    ),
  );
  const isEmpty = Object.keys(wanted).length === 0;
  const objects = OBJECTS.filter(
    ([field, kind]) =>
      !isHidden(field) && setup.costObjects.some((each) => each.kind === kind && each.isOn),
  );

  async function send(event?: FormEvent): Promise<void> {
    event?.preventDefault();
    if (isEmpty) return;
    const from = fromAccountId === undefined ? {} : { fromAccountId };
    if (told(await recode({ booksId, target, ...wanted, ...from, seenStep }))) onDone();
  }

  return (
    <form className="recode-fields" onSubmit={(event) => void send(event)}>
      {(['payeeId', 'accountId', 'taxCodeId'] as const)
        .filter((field) => field !== 'taxCodeId' || !isHidden(field))
        .map((field) => (
          <CodingInput
            key={field}
            field={field}
            coding={coding}
            line={{ isOut }}
            autoFocus={autoFocus && field === 'accountId'}
            onChange={setCoding}
            onNext={() => undefined}
            onCancel={() => onCancel?.()}
          />
        ))}
      {objects.map(([field, kind, name]) => (
        <Combobox
          key={field}
          label={name}
          placeholder={name}
          value={coding[field] ?? null}
          choices={setup.costObjects
            .filter((each) => each.kind === kind && each.isOn)
            .map(({ id, name: label }) => ({ id, label }))}
          onChange={(id) => setCoding({ ...coding, [field]: id })}
        />
      ))}
      <input
        className="form-control form-control-sm"
        aria-label={t`Note`}
        placeholder={t`Note`}
        maxLength={1_000}
        value={note ?? ''}
        onChange={({ target: { value } }) => setCoding({ ...coding, note: value })}
      />
      {onCancel && (
        <Button variant="plain" onClick={onCancel}>
          {t`Cancel`}
        </Button>
      )}
      <Button type="submit" variant="main" disabled={isEmpty || isLoading}>
        {children}
      </Button>
    </form>
  );
}
