import type { Prediction } from './predict.ts';

/**
 * A habit at least this sure is Ready. Of what is, more than 99 of 100 are right, as most are much surer
 * (`npm run bench -- accuracy`; docs/decisions/0014).
 */
export const READY_FROM = 0.87;

/** A habit less sure than this proposes nothing, unless the payee is beyond doubt. */
const BLANK_BELOW = 0.3;
/** From here on, likeness and share of a payee are beyond doubt. */
const SAME = 0.8;

/** Less alike than this, a wording need not be the payee's at all. */
export const SAME_PAYEE = 0.5;
/** And less alike than this it is never Ready, whatever else speaks for it. */
const LEAST_ALIKE = 0.35;

/** Seen so often at least, whatever else speaks for it. */
const OFTEN_ENOUGH = 2;

/** Whether enough speaks for a prediction to propose it at all. */
export function isProposed({ signs }: Prediction, sureness: number): boolean {
  return sureness >= BLANK_BELOW || (signs.likeness >= SAME && signs.payeeShare >= SAME);
}

/** Where the newest went elsewhere, one mistake among many is likelier than a change only from here on. */
const SURE_AFTER_ALL = 0.95;

/** Whether a prediction is sure enough to be Ready. */
export function isSure({ signs, lastElsewhere }: Prediction, sureness: number): boolean {
  return (
    sureness >= READY_FROM &&
    signs.timesFirst >= OFTEN_ENOUGH &&
    signs.likeness >= LEAST_ALIKE &&
    (lastElsewhere === null || sureness >= SURE_AFTER_ALL)
  );
}
