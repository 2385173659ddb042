import type { DecisionId } from '@zubrell/core/ids';
import type { StepItem } from '../steps/recordStep.ts';

/** That a decision without lines, which settles documents or leaves credit, comes into force or goes out of it. */
export function offsetItem(decisionId: DecisionId, isLive: boolean): StepItem {
  return {
    thing: 'offset',
    thingId: decisionId,
    before: { isLive: !isLive },
    after: { isLive },
  };
}
