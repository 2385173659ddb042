import type { ListedRule, RuleBody, RuleResult, RuleTakes } from '@zubrell/contract/rules';
import type { AccountId, BankAccountId } from '@zubrell/core/ids';
import { sameText } from '@zubrell/core/propose/rule/ruleFile';
import { t } from '@zubrell/core/words/t';

type Takes = RuleTakes;
type Code = Extract<RuleResult, { kind: 'code' }>;
/** A condition of a rule, or a group of them. */
export type AnyCondition = Takes['conditions'][number];
/** A condition alone. */
export type OneCondition = Exclude<AnyCondition, { kind: 'group' }>;
/** A part of what a rule codes, of which the account may not be chosen yet. */
export type DraftRulePart = Omit<Code['parts'][number], 'accountId'> & {
  readonly accountId: AccountId | null;
};
/** What becomes of a line, as far as it is filled in. */
export type DraftResult =
  | (Omit<Code, 'parts'> & { readonly parts: readonly DraftRulePart[] })
  | Exclude<RuleResult, { kind: 'code' | 'transfer' }>
  | { readonly kind: 'transfer'; readonly bankAccountId: BankAccountId | null };

/** A rule that is being written. */
export interface RuleDraft {
  readonly name: string;
  readonly isOn: boolean;
  readonly takes: Takes;
  readonly result: DraftResult;
  readonly after: RuleBody['after'];
}

/** A condition on the whole wording with nothing typed yet. */
export const emptyCondition: OneCondition = {
  kind: 'text',
  field: 'wording',
  test: 'has',
  text: '',
  isExact: false,
};

/** A part of 100 % with nothing chosen yet. */
export const emptyPart: DraftRulePart = {
  accountId: null,
  taxCodeId: null,
  share: { kind: 'rest' },
};

/** A new rule in which nothing is filled in. */
export const emptyDraft: RuleDraft = {
  name: '',
  isOn: true,
  takes: { direction: 'out', bankAccountIds: null, match: 'all', conditions: [emptyCondition] },
  result: { kind: 'code', payee: { kind: 'open' }, parts: [emptyPart], note: null },
  after: { kind: 'hold' },
};

/** A rule as a draft that can be changed. */
export function draftOfRule({
  name,
  isOn = true,
  body,
}: {
  readonly name: string;
  readonly isOn?: boolean;
  readonly body: RuleBody;
}): RuleDraft {
  const { takes, result, after } = body;
  const isEmpty = result.kind === 'code' && result.parts.length === 0;
  return { name, isOn, takes, result: isEmpty ? { ...result, parts: [emptyPart] } : result, after };
}

/** A rule as it was when its draft was begun, and the draft. */
export interface RuleEditing {
  readonly opened: ListedRule;
  readonly draft: RuleDraft;
}

/**
 * What becomes of a draft when its rule was changed elsewhere: with nothing typed, or the same, it follows the
 * rule; what was typed otherwise is kept, and whoever saves it learns that the rule says something else by now.
 */
export function followRule(editing: RuleEditing, now: ListedRule): RuleEditing {
  if (now.lastStep === editing.opened.lastStep) return editing;
  const [before, typed, after] = [draftOfRule(editing.opened), editing.draft, draftOfRule(now)].map(
    sameText,
  );
  // A move, or what has been saved just now.
  if (after === before || after === typed) return { ...editing, opened: now };
  return typed === before ? { opened: now, draft: draftOfRule(now) } : editing;
}

/** A draft as it can be tried: parts without an account are left out, so that the wording is tried alone. */
export function bodyToTry({ takes, result, after }: RuleDraft): RuleBody {
  const nothing: RuleResult = { kind: 'code', payee: { kind: 'open' }, parts: [], note: null };
  return { takes, result: completeResult(result) ?? nothing, after };
}

/** A draft as it can be saved, or what is still missing, in words. */
export function bodyToSave(
  draft: RuleDraft,
): { readonly body: RuleBody } | { readonly missing: string } {
  if (draft.name.trim() === '') return { missing: t`a name` };
  const result = completeResult(draft.result);
  if (result === null) {
    return { missing: draft.result.kind === 'transfer' ? t`the bank account` : t`the account` };
  }
  return { body: { takes: draft.takes, result, after: draft.after } };
}

function completeResult(result: DraftResult): RuleResult | null {
  if (result.kind === 'transfer') {
    const { bankAccountId } = result;
    return bankAccountId === null ? null : { kind: 'transfer', bankAccountId };
  }
  if (result.kind !== 'code') return result;
  const parts = result.parts.flatMap(({ accountId, ...part }) =>
    accountId === null ? [] : [{ ...part, accountId }],
  );
  return parts.length < result.parts.length ? null : { ...result, parts };
}

/** What a result of another kind begins with. */
export function emptyResult(kind: DraftResult['kind']): DraftResult {
  switch (kind) {
    case 'code':
      return emptyDraft.result;
    case 'transfer':
      return { kind, bankAccountId: null };
    case 'exclude':
      return { kind, reason: 'beforeOpening' };
    case 'ask':
      return { kind, askedOf: '', words: '' };
  }
}

/** Conditions with one changed, or taken out. */
export function withConditionAt<Each>(
  conditions: readonly Each[],
  at: number,
  condition: Each | null,
): Each[] {
  return conditions.flatMap((each, place) =>
    place !== at ? [each] : condition === null ? [] : [condition],
  );
}

/**
 * The same rule for money back: it takes the other direction. Percentages and the rest stay, fixed amounts
 * turn.
 */
export function twinOf(draft: RuleDraft): RuleDraft {
  const { direction } = draft.takes;
  const turned = direction === 'out' ? 'in' : direction === 'in' ? 'out' : 'either';
  const result: DraftResult =
    draft.result.kind !== 'code'
      ? draft.result
      : {
          ...draft.result,
          parts: draft.result.parts.map((part) =>
            part.share.kind === 'fixed'
              ? { ...part, share: { kind: 'fixed', amount: -part.share.amount } }
              : part,
          ),
        };
  return {
    ...draft,
    name: t`${draft.name}, money back`.slice(0, 100),
    takes: { ...draft.takes, direction: turned },
    result,
    after: { kind: 'hold' },
  };
}

/** All words that a rule looks for, to be marked where they stand. */
export function wordsToMark(conditions: readonly AnyCondition[]): readonly string[] {
  return conditions.flatMap((each) =>
    each.kind === 'group'
      ? wordsToMark(each.conditions)
      : each.kind === 'text' && each.test !== 'hasNot' && each.test !== 'isEmpty'
        ? each.text.split(/\s+/).filter((word) => word !== '')
        : [],
  );
}
