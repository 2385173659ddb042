import type { CostObject } from '@zubrell/contract/books';
import type { CostObjects } from '@zubrell/core/ledger/coding';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { booksApi } from '../../api/books.ts';
import { shownProblem } from '../../app/problem.ts';
import { toast } from '../../app/toast.ts';
import { useBooks } from '../../app/useBooks.ts';
import { Combobox } from '../../ui/Combobox.tsx';

const FIELDS = [
  ['costCentreId', 'costCentre', t`Cost centre`],
  ['jobId', 'job', t`Job`],
] as const;

/**
 * What a cost is for, beside its account. Books that use neither cost centres nor jobs see one quiet
 * button instead of the fields.
 */
export function CostObjectFields({
  coding,
  part = '',
  onChange,
}: {
  readonly coding: CostObjects;
  /** Of which part of a split, as in “of part 2”. */
  readonly part?: string;
  readonly onChange: (objects: CostObjects) => void;
}) {
  const { booksId, setup, isHidden } = useBooks();
  const [isShown, setIsShown] = useState(setup.costObjects.length > 0);
  const [create] = booksApi.useCreateCostObjectMutation();

  async function make(field: 'costCentreId' | 'jobId', kind: CostObject['kind'], name: string) {
    const { data, error } = await create({ booksId, kind, name });
    if (data) {
      onChange({ ...objectsOf(coding), [field]: data.id });
      toast(data.words);
    } else toast.error(shownProblem(error).message);
  }

  if (isHidden('costCentreId') && isHidden('jobId')) return null;
  if (!isShown) {
    return (
      <Button variant="link" className="p-0 mt-1" onClick={() => setIsShown(true)}>
        {t`Cost centre or job …`}
      </Button>
    );
  }
  return (
    <div className="coding-form mt-1">
      {FIELDS.filter(([field]) => !isHidden(field)).map(([field, kind, name]) => (
        <div key={field} className="field">
          <span>{name}</span>
          <Combobox
            label={part === '' ? name : `${name} ${part}`}
            placeholder={part === '' ? t`none` : name}
            value={coding[field] ?? null}
            choices={setup.costObjects
              .filter((each) => each.kind === kind && each.isOn)
              .map(({ id, name: label }) => ({ id, label }))}
            onChange={(id) => onChange({ ...objectsOf(coding), [field]: id })}
            onCreate={(typed) => {
              void make(field, kind, typed);
              return undefined;
            }}
          />
        </div>
      ))}
      {coding.jobId && (
        <label className="field">
          <span>{t`Recharge`}</span>
          <input
            type="checkbox"
            className="form-check-input"
            aria-label={t`Charge the job’s customer for this cost`}
            checked={coding.isRecharged ?? false}
            onChange={({ target }) =>
              onChange({ ...objectsOf(coding), isRecharged: target.checked })
            }
          />
        </label>
      )}
    </div>
  );
}

function objectsOf({ costCentreId, jobId, isRecharged }: CostObjects): CostObjects {
  return { costCentreId, jobId, isRecharged };
}
