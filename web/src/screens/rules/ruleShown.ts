import type { ListedRule, RuleHealth, RuleTurns, TriedLine } from '@zubrell/contract/rules';
import { groupBy } from '@zubrell/core/groupBy';
import type { RuleId } from '@zubrell/core/ids';
import type { Missed } from '@zubrell/core/propose/rule/nearMiss';
import { type RuleNames, ruleWords } from '@zubrell/core/propose/rule/ruleWords';
import { plainWording } from '@zubrell/core/text/plainWording';
import { t } from '@zubrell/core/words/t';
import { countLines, formatCount } from '../../app/formats.ts';

/** Rules with what trying them on all lines found, which is there a moment after the list. */
export function withTurns(
  rules: readonly ListedRule[],
  found: RuleTurns['found'],
): readonly ListedRule[] {
  const byRule = groupBy(found, ({ ruleId }) => ruleId);
  return rules.map((rule) => {
    const more = byRule.get(rule.id) ?? [];
    return { ...rule, health: [...rule.health, ...more.map(({ health }) => health)] };
  });
}

/** What is wrong with a rule, or worth a look, in a few words. @param numberOf gives a rule's number */
export function healthWords(
  health: RuleHealth,
  numberOf: (ruleId: RuleId) => number | null,
): string {
  switch (health.kind) {
    case 'neverATurn':
      return t`never applies: rule ${numberOf(health.by) ?? '—'} takes all its lines`;
    case 'overruled':
      return t`changed by hand on ${formatCount(health.of - health.kept)} of its last ${formatCount(health.of)} lines`;
    case 'gone':
      return t`names ${health.what}, which is gone or switched off`;
    case 'takesNothing':
      return health.nearMisses === 0
        ? t`matches no lines`
        : t`matches no lines, and just misses ${health.nearMisses}`;
    case 'stopped':
      return t`no longer posts at once: a line that it posted was changed by hand`;
    case 'overlaps':
      return t`takes ${countLines(health.lines)} that rule ${numberOf(health.with) ?? '—'} would code differently`;
  }
}

/** How much of what somebody looked at was kept. @example '83 % kept'; empty where nothing was looked at */
export function keptWords({
  kept,
  looked,
}: {
  readonly kept: number;
  readonly looked: number;
}): string {
  return looked === 0 ? '' : t`${Math.round((100 * kept) / looked)} % kept`;
}

/** For want of what a rule misses a line. */
export const missedNames: Readonly<Record<Missed, string>> = {
  direction: t`the direction`,
  bankAccount: t`the bank account`,
  amount: t`the amount`,
  date: t`the date`,
  day: t`the day of the month`,
  wording: t`a word`,
};

/** What a line was coded by. @example 'rule 3, changed' */
export function takenFrom(
  line: Pick<TriedLine, 'source' | 'sourceRuleId' | 'isChanged' | 'state'>,
  numberOf: (ruleId: RuleId) => number | null,
): string {
  const changed = line.isChanged ? ', changed' : '';
  switch (line.source) {
    case 'rule': {
      const number = line.sourceRuleId === null ? null : numberOf(line.sourceRuleId);
      return `${number === null ? t`a deleted rule` : t`rule ${number}`}${changed}`;
    }
    case 'pair':
      return line.state === 'open' ? t`in the books` : t`paired${changed}`;
    case 'transfer':
      return t`its other side${changed}`;
    case 'habit':
      return t`habit${changed}`;
    case 'file':
      return t`its file${changed}`;
    case 'otherBooks':
      return t`your other books${changed}`;
    case 'starter':
      return t`general knowledge${changed}`;
    case 'hand':
      return line.state === 'open' ? '' : t`by hand`;
  }
}

/** How rules are sorted. */
export type RuleOrder = 'number' | 'use' | 'payee' | 'account' | 'lastUse';

/** Rules whose name or meaning has what was typed, in the wanted order. */
export function shownRules(
  rules: readonly ListedRule[],
  typed: string,
  order: RuleOrder,
  names: RuleNames & { readonly payee: (id: string) => string },
): readonly ListedRule[] {
  const wanted = plainWording(typed);
  const payeeOf = ({ body: { result } }: ListedRule) =>
    result.kind === 'code' && result.payee.kind === 'fixed'
      ? names.payee(result.payee.payeeId)
      : '';
  const accountOf = ({ body: { result } }: ListedRule) =>
    result.kind === 'code' ? names.account(result.parts[0]?.accountId ?? '') : '';
  const found = rules.filter((rule) =>
    plainWording(`${rule.name} ${ruleWords(rule.body, names)} ${payeeOf(rule)}`).includes(wanted),
  );
  const uses = ({ used, open }: ListedRule) => used + open;
  const last = (text: string) => (text === '' ? '\uffff' : text);
  switch (order) {
    case 'number':
      return found;
    case 'use':
      return found.sort((a, b) => uses(b) - uses(a));
    case 'payee':
      return found.sort((a, b) => last(payeeOf(a)).localeCompare(last(payeeOf(b))));
    case 'account':
      return found.sort((a, b) => last(accountOf(a)).localeCompare(last(accountOf(b))));
    case 'lastUse':
      return found.sort((a, b) => (b.lastUsed ?? '').localeCompare(a.lastUsed ?? ''));
  }
}

/** The rule that one goes before when it is moved up or down; undefined where it can't be. */
export function beforeWhenMoved(
  rules: readonly Pick<ListedRule, 'id'>[],
  ruleId: RuleId,
  by: -1 | 1,
): string | null | undefined {
  const at = rules.findIndex(({ id }) => id === ruleId);
  const to = at + by;
  if (at < 0 || to < 0 || to >= rules.length) return undefined;
  return (by < 0 ? rules[to]?.id : rules[to + 1]?.id) ?? null;
}

/** The rule that one goes before when it is dropped on the place of another. */
export function beforeWhenDropped(
  rules: readonly Pick<ListedRule, 'id'>[],
  ruleId: RuleId,
  overId: string,
): string | null {
  const from = rules.findIndex(({ id }) => id === ruleId);
  const to = rules.findIndex(({ id }) => id === overId);
  return (from < to ? rules[to + 1]?.id : overId) ?? null;
}
