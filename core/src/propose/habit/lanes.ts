/** A habit at least this sure is Ready, unless the books say otherwise. */
export const READY_FROM = 0.95;

/** A habit less sure than this proposes nothing. */
export const BLANK_BELOW = 0.2;
