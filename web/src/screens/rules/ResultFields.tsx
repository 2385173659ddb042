import type { RuleResult } from '@zubrell/contract/rules';
import { excludeReasons } from '@zubrell/core/ledger/excludeReasons';
import { noteFields } from '@zubrell/core/propose/rule/proposeFromRule';
import { ruleExcludeReasons } from '@zubrell/core/propose/rule/rule';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { useChoices, useUses } from '../../app/codingChoices.ts';
import { useBooks } from '../../app/useBooks.ts';
import { Combobox } from '../../ui/Combobox.tsx';
import { AccountAndTax } from './AccountAndTax.tsx';
import { RulePartRow } from './RulePartRow.tsx';
import {
  type DraftResult,
  type DraftRulePart,
  emptyPart,
  emptyResult,
  withConditionAt,
} from './ruleDraft.ts';

const KINDS = [
  ['code', t`code as`],
  ['transfer', t`transfer to or from`],
  ['exclude', t`exclude as`],
  ['ask', t`ask`],
] as const;

type Code = Extract<DraftResult, { kind: 'code' }>;
type PayeeKind = Extract<RuleResult, { kind: 'code' }>['payee'];

/** Action that a rule takes. */
export function ResultFields({
  result,
  onChange,
}: {
  readonly result: DraftResult;
  readonly onChange: (result: DraftResult) => void;
}) {
  return (
    <>
      <div className="sentence">
        <span className="lab">{t`Then`}</span>
        <select
          className="form-select"
          aria-label={t`Action`}
          value={result.kind}
          onChange={({ target }) => onChange(emptyResult(target.value as DraftResult['kind']))}
        >
          {KINDS.map(([kind, text]) => (
            <option key={kind} value={kind}>
              {text}
            </option>
          ))}
        </select>
        {result.kind === 'code' && <PayeeField result={result} onChange={onChange} />}
        {result.kind === 'code' && result.parts.length === 1 && (
          <OnePart result={result} onChange={onChange} />
        )}
        {result.kind === 'transfer' && <TransferField result={result} onChange={onChange} />}
        {result.kind === 'exclude' && (
          <select
            className="form-select"
            aria-label={t`Reason`}
            value={result.reason}
            onChange={({ target }) =>
              onChange({ kind: 'exclude', reason: target.value as typeof result.reason })
            }
          >
            {ruleExcludeReasons.map((reason) => (
              <option key={reason} value={reason}>
                {excludeReasons[reason]}
              </option>
            ))}
          </select>
        )}
        {result.kind === 'exclude' && (
          <span className="quiet">{t`only where true for the line`}</span>
        )}
        {result.kind === 'ask' && <AskFields result={result} onChange={onChange} />}
        {result.kind === 'code' && (
          <Button variant="plain" onClick={() => onChange(withPart(result))}>
            {t`+ part`}
          </Button>
        )}
      </div>
      {result.kind === 'code' && result.parts.length > 1 && (
        <Parts result={result} onChange={onChange} />
      )}
      {result.kind === 'code' && <NoteField result={result} onChange={onChange} />}
    </>
  );
}

/** The first part given becomes a share of its own, and what is left goes to the next. */
function withPart(result: Code): Code {
  if (result.parts.length > 1) {
    return {
      ...result,
      parts: [...result.parts, { ...emptyPart, share: { kind: 'fixed', amount: 0 } }],
    };
  }
  return {
    ...result,
    parts: [{ ...emptyPart, share: { kind: 'fixed', amount: 0 } }, ...result.parts],
  };
}

/** The special choices beside the payees of the books. */
const BANK = 'bank';
const OPEN = 'open';

function PayeeField({
  result,
  onChange,
}: {
  readonly result: Code;
  readonly onChange: (result: DraftResult) => void;
}) {
  const payees = useChoices('payeeId', useUses());
  const { payee } = result;
  const choices = [
    { id: OPEN, label: t`any payee` },
    { id: BANK, label: t`the payee that the bank names` },
    ...payees,
  ];
  const take = (id: string | null): PayeeKind => {
    if (id === null || id === OPEN) return { kind: 'open' };
    return id === BANK ? { kind: 'bank' } : { kind: 'fixed', payeeId: id };
  };
  return (
    <Combobox
      label={t`Payee`}
      placeholder={t`Payee`}
      className="payee"
      choices={choices}
      value={payee.kind === 'fixed' ? payee.payeeId : payee.kind}
      onChange={(id) => onChange({ ...result, payee: take(id) })}
    />
  );
}

function OnePart({
  result,
  onChange,
}: {
  readonly result: Code;
  readonly onChange: (result: DraftResult) => void;
}) {
  const [part = emptyPart] = result.parts;
  return <AccountAndTax part={part} onChange={(next) => onChange({ ...result, parts: [next] })} />;
}

function Parts({
  result,
  onChange,
}: {
  readonly result: Code;
  readonly onChange: (result: DraftResult) => void;
}) {
  const { parts } = result;
  const put = (next: readonly DraftRulePart[]): void => {
    // What is left alone is the whole again.
    const whole =
      next.length === 1 ? next.map((part) => ({ ...part, share: emptyPart.share })) : next;
    onChange({ ...result, parts: whole });
  };
  return (
    <div className="condition-group">
      {parts.map((part, at) => (
        <RulePartRow
          // biome-ignore lint/suspicious/noArrayIndexKey: a part is known by its place
          key={at}
          number={at + 1}
          part={part}
          onChange={(next) => put(withConditionAt(parts, at, next))}
          onRemove={() => put(withConditionAt(parts, at, null))}
        />
      ))}
    </div>
  );
}

function TransferField({
  result,
  onChange,
}: {
  readonly result: Extract<DraftResult, { kind: 'transfer' }>;
  readonly onChange: (result: DraftResult) => void;
}) {
  const { setup } = useBooks();
  return (
    <>
      <select
        className="form-select"
        aria-label={t`Own bank account`}
        value={result.bankAccountId ?? ''}
        onChange={({ target }) =>
          onChange({ kind: 'transfer', bankAccountId: target.value || null })
        }
      >
        <option value="">{t`which account?`}</option>
        {setup.bankAccounts.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
      <span className="quiet">{t`booked once: both sides go through Between own accounts`}</span>
    </>
  );
}

function AskFields({
  result,
  onChange,
}: {
  readonly result: Extract<DraftResult, { kind: 'ask' }>;
  readonly onChange: (result: DraftResult) => void;
}) {
  const { setup } = useBooks();
  return (
    <>
      <input
        className="form-control"
        aria-label={t`Who to ask`}
        placeholder={setup.books.owners[0] ?? t`who`}
        maxLength={100}
        value={result.askedOf}
        onChange={({ target }) => onChange({ ...result, askedOf: target.value })}
      />
      <input
        className="form-control grow"
        aria-label={t`The question`}
        placeholder={t`What was {description} for?`}
        maxLength={1_000}
        value={result.words}
        onChange={({ target }) => onChange({ ...result, words: target.value })}
      />
    </>
  );
}

function NoteField({
  result,
  onChange,
}: {
  readonly result: Code;
  readonly onChange: (result: DraftResult) => void;
}) {
  const { isHidden } = useBooks();
  if (isHidden('note')) return null;
  return (
    <div className="sentence">
      <span className="lab" />
      <input
        className="form-control grow"
        aria-label={t`Note`}
        placeholder={t`no note`}
        maxLength={1_000}
        value={result.note ?? ''}
        onChange={({ target }) => onChange({ ...result, note: target.value || null })}
      />
      <span className="quiet">
        {t`may take ${noteFields
          .slice(0, 3)
          .map((field) => `{${field}}`)
          .join(', ')} and others`}
      </span>
    </div>
  );
}
