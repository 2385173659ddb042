import type { PostedWay } from '@zubrell/core/ledger/decisions';
import type { decisionSources } from '@zubrell/core/propose/proposal';
import { t } from '@zubrell/core/words/t';

/** What proposes, as a filter names it. */
export const sourceNames: Readonly<Record<(typeof decisionSources)[number], string>> = {
  pair: t`Pairing`,
  transfer: t`Transfer`,
  rule: t`Rule`,
  habit: t`Habit`,
  file: t`Prepared file`,
  otherBooks: t`Your other books`,
  starter: t`General knowledge`,
  hand: t`Nothing: coded by hand`,
};

/** How lines are posted, as a filter names it. */
export const wayNames: Readonly<Record<PostedWay, string>> = {
  line: t`One by one`,
  stack: t`As a stack`,
  sweep: t`In a sweep`,
  suspense: t`Post to suspense`,
  rule: t`At once by a rule`,
};
