import type { PostedWay } from '@zubrell/core/ledger/decisions';
import type { decisionSources } from '@zubrell/core/propose/proposal';

/** What proposes, as a filter names it. */
export const sourceNames: Readonly<Record<(typeof decisionSources)[number], string>> = {
  pair: 'Pairing',
  transfer: 'Transfer',
  rule: 'Rule',
  habit: 'Habit',
  file: 'Prepared file',
  otherBooks: 'Your other books',
  starter: 'General knowledge',
  hand: 'Nothing: coded by hand',
};

/** How lines are posted, as a filter names it. */
export const wayNames: Readonly<Record<PostedWay, string>> = {
  line: 'One by one',
  stack: 'As a stack',
  sweep: 'In a sweep',
  suspense: 'Post to suspense',
  rule: 'At once by a rule',
};
