import { excludeReasons } from '../../ledger/excludeReasons.ts';
import type { Minor } from '../../money/minor.ts';
import { t } from '../../words/t.ts';
import type {
  Condition,
  ConditionGroup,
  RuleBody,
  RuleResult,
  TextField,
  TextTest,
} from './rule.ts';

/** Fields as they are named in a sentence. */
export const fieldNames: Readonly<Record<TextField, string>> = {
  wording: t`whole wording`,
  description: t`description`,
  reference: t`reference`,
  payee: t`bank’s payee`,
  counterparty: t`counterparty account`,
  type: t`type`,
  chequeNumber: t`cheque number`,
  category: t`merchant category`,
};

/** Tests as they are named in a sentence. */
export const testNames: Readonly<Record<TextTest, string>> = {
  has: t`has`,
  hasNot: t`has not`,
  is: t`is`,
  startsWith: t`starts with`,
  endsWith: t`ends with`,
  isEmpty: t`is empty`,
  looksLike: t`looks like`,
};

/** Names what a rule refers to, in short. */
export interface RuleNames {
  readonly account: (id: string) => string;
  readonly bankAccount: (id: string) => string;
  readonly amount: (minor: Minor) => string;
}

/**
 * What a rule means, in one line.
 *
 * @example 'out, any of 2 accounts, has “tidemark” and “import” → 5000 Clay and glazes'
 */
export function ruleWords({ takes, result, after }: RuleBody, names: RuleNames): string {
  const { direction, bankAccountIds, match, conditions } = takes;
  const where = [
    ...(direction === 'either' ? [] : [direction === 'in' ? t`in` : t`out`]),
    ...(bankAccountIds === null
      ? []
      : bankAccountIds.length === 1
        ? [names.bankAccount(bankAccountIds[0] ?? '')]
        : [t`any of ${bankAccountIds.length} accounts`]),
  ];
  const meaning = [...where, allWords(match, conditions, names)].join(', ');
  const atOnce = after.kind === 'post' ? t`, at once` : '';
  return `${meaning} → ${resultWords(result, names)}${atOnce}`;
}

function allWords(
  match: 'all' | 'any',
  conditions: readonly (Condition | ConditionGroup)[],
  names: RuleNames,
): string {
  const joint = match === 'all' ? ` ${t`and`} ` : ` ${t`or`} `;
  let before = '';
  return conditions
    .map((condition) => {
      if (condition.kind === 'group') {
        before = '';
        return `(${allWords(condition.match, condition.conditions, names)})`;
      }
      const [start, text] = conditionWords(condition, names);
      // “has a and b” reads better than “has a and has b”.
      const isSame = start === before;
      before = start;
      return isSame || start === '' ? text : `${start} ${text}`;
    })
    .join(joint);
}

/** A condition in words: how it begins, and what it looks for. */
function conditionWords(condition: Condition, names: RuleNames): [start: string, text: string] {
  switch (condition.kind) {
    case 'text': {
      const { field, test, text } = condition;
      const start =
        field === 'wording' ? testNames[test] : `${fieldNames[field]} ${testNames[test]}`;
      return test === 'isEmpty' ? ['', start] : [start, `“${text}”`];
    }
    case 'amount': {
      const { from, to } = condition;
      if (from !== null && from === to) return ['', t`amount is ${names.amount(from)}`];
      if (to === null) return ['', t`amount at least ${names.amount(from ?? 0)}`];
      if (from === null) return ['', t`amount at most ${names.amount(to)}`];
      return ['', t`amount ${names.amount(from)} to ${names.amount(to)}`];
    }
    case 'date': {
      const { from, to } = condition;
      if (from === null) return ['', t`up to ${to}`];
      return ['', to === null ? t`from ${from}` : t`${from} to ${to}`];
    }
    case 'day':
      return ['', t`day ${condition.from} to ${condition.to}`];
  }
}

/** What becomes of a line, in few words. @example '5000 Clay and glazes' */
export function resultWords(result: RuleResult, names: RuleNames): string {
  switch (result.kind) {
    case 'code':
      return [...new Set(result.parts.map(({ accountId }) => names.account(accountId)))].join(', ');
    case 'transfer':
      return t`transfer, ${names.bankAccount(result.bankAccountId)}`;
    case 'exclude':
      return t`exclude, ${excludeReasons[result.reason]}`;
    case 'ask':
      return t`ask ${result.askedOf}`;
  }
}
