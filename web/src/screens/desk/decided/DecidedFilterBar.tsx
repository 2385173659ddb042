import type { DecidedSum } from '@zubrell/contract/desk';
import { postedWays } from '@zubrell/core/ledger/decisions';
import { decisionSources } from '@zubrell/core/propose/proposal';
import { t } from '@zubrell/core/words/t';
import { X } from 'lucide-react';
import { Button } from 'react-bootstrap';
import { linesApi } from '../../../api/lines.ts';
import { rulesApi } from '../../../api/rules.ts';
import { stepsApi } from '../../../api/steps.ts';
import { type CodedField, useChoices, useUses } from '../../../app/codingChoices.ts';
import { countLines } from '../../../app/formats.ts';
import { useAppDispatch } from '../../../app/store.ts';
import { useBooks } from '../../../app/useBooks.ts';
import { Amount } from '../../../ui/Amount.tsx';
import { Combobox } from '../../../ui/Combobox.tsx';
import { Picker } from '../../../ui/Picker.tsx';
import { filterNames } from '../deskScope.ts';
import { allTicked } from '../deskSlice.ts';
import type { DeskRow } from '../rows.ts';
import { decidedOf } from '../rowsAsked.ts';
import { useDeskScope } from '../useDeskScope.ts';
import { sourceNames, wayNames } from './decidedWords.ts';

const FIELDS = [
  ['accountId', t`Account`],
  ['payeeId', t`Payee`],
  ['taxCodeId', t`Tax`],
] as const;

/** What decided lines are filtered by, how many match, and a way to tick all of them. */
export function DecidedFilterBar({ rows }: { readonly rows: readonly DeskRow[] }) {
  const { booksId, isHidden } = useBooks();
  const shown = useDeskScope();
  const { decided, change } = shown;
  const { data: sum } = linesApi.useDecidedSumQuery({ booksId, ...decidedOf(shown) });
  const { data: steps } = stepsApi.useStepsInfiniteQuery({ booksId });
  const people = steps?.pages[0]?.people ?? [];
  const isFiltered = Object.keys(decided).length > 0;
  const clear = () =>
    change(Object.fromEntries(Object.values(filterNames).map((name) => [name, null])));
  return (
    <section className="decided-filter" aria-label={t`Filter decided lines`}>
      {FIELDS.filter(([field]) => field !== 'taxCodeId' || !isHidden(field)).map(
        ([field, label]) => (
          <FilterField key={field} field={field} label={label} />
        ),
      )}
      <Picker
        label={t`Proposed by`}
        value={decided.by ?? null}
        all={t`Anything`}
        choices={decisionSources.map((each) => [each, sourceNames[each]])}
        onChange={(proposedBy) => change({ proposedBy })}
      />
      <Picker
        label={t`Posted`}
        value={decided.way ?? null}
        all={t`Any way`}
        choices={postedWays.map((each) => [each, wayNames[each]])}
        onChange={(posted) => change({ posted })}
      />
      {(people.length > 1 || decided.userId !== undefined) && (
        <Picker
          label={t`Who`}
          value={decided.userId ?? null}
          all={t`Everybody`}
          choices={people.map(({ id, name }) => [id, name])}
          onChange={(who) => change({ who })}
        />
      )}
      <FilterChips />
      {isFiltered && (
        <Button variant="link" onClick={clear}>
          {t`Clear filter`}
        </Button>
      )}
      <Found sum={sum} rows={rows} />
    </section>
  );
}

/** An account, payee or tax code that decided lines have. */
function FilterField({ field, label }: { readonly field: CodedField; readonly label: string }) {
  const { decided, change } = useDeskScope();
  const choices = useChoices(field, useUses());
  return (
    <Combobox
      label={t`Coded to: ${label}`}
      placeholder={label}
      className={decided[field] === undefined ? '' : 'is-set'}
      choices={choices}
      value={decided[field] ?? null}
      onChange={(id) => change({ [filterNames[field]]: id })}
    />
  );
}

/** What the filter came with from elsewhere: a rule, a step, look-alikes. Each can be taken off. */
function FilterChips() {
  const { booksId } = useBooks();
  const { decided, change } = useDeskScope();
  const { ruleId, step, stem } = decided;
  const { data: rules } = rulesApi.useRulesQuery(booksId, { skip: ruleId === undefined });
  const ruleName = rules?.rules.find(({ id }) => id === ruleId)?.name ?? 'deleted';
  const chips = [
    ...(ruleId === undefined ? [] : [['ruleId', t`Rule: ${ruleName}`] as const]),
    ...(step === undefined ? [] : [['step', t`Step ${step}`] as const]),
    ...(stem === undefined ? [] : [['stem', t`Look-alikes: ${stem.join(', ')}`] as const]),
  ];
  return chips.map(([field, text]) => (
    <button
      key={field}
      type="button"
      className="chip"
      title={text}
      aria-label={t`${text}: remove from the filter`}
      onClick={() => change({ [filterNames[field]]: null })}
    >
      <span>{text}</span>
      <X size={12} aria-hidden />
    </button>
  ));
}

/** How many lines match and what they come to; a press ticks all of them, those not fetched yet too. */
function Found({
  sum,
  rows,
}: {
  readonly sum: DecidedSum | undefined;
  readonly rows: readonly DeskRow[];
}) {
  const { currencyOf } = useBooks();
  const dispatch = useAppDispatch();
  if (sum === undefined) return null;
  const { count, total, currency } = sum;
  const lines = rows.flatMap((row) => (row.kind === 'line' ? [row.line] : []));
  return (
    <span className="found">
      {countLines(count)}
      {total !== null && count > 0 && (
        <>
          , <Amount minor={total} currency={currency} />
        </>
      )}
      {count > 0 && (
        <Button
          variant="link"
          onClick={() =>
            dispatch(
              allTicked(
                lines.map(({ id, amount, bankAccountId }) => ({
                  id,
                  amount,
                  currency: currencyOf(bankAccountId),
                  stack: '',
                })),
              ),
            )
          }
        >
          {t`Tick all`}
        </Button>
      )}
    </span>
  );
}
