import type { DecisionKind } from '@zubrell/core/ledger/decisions';
import { t } from '@zubrell/core/words/t';

/** How a line stands, in a word. */
export const lineStateNames: Readonly<Record<'open' | DecisionKind, string>> = {
  open: t`open`,
  posted: t`posted`,
  paired: t`paired`,
  excluded: t`excluded`,
  deleted: t`deleted`,
};
