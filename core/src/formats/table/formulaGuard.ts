const RISKY = /^'*[=+\-@\t\r]/;

/**
 * A text with an apostrophe in front if a spreadsheet would take it for a formula.
 *
 * @example guardFormula('=1+1') // "'=1+1"
 */
export function guardFormula(text: string): string {
  return RISKY.test(text) ? `'${text}` : text;
}

/** A text as it was before `guardFormula`. @example unguardFormula("'=1+1") // '=1+1' */
export function unguardFormula(text: string): string {
  return text.startsWith("'") && RISKY.test(text) ? text.slice(1) : text;
}
