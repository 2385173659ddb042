/**
 * The decimal mark of a whole column of amounts: the last mark before one or two digits, by majority; a
 * point where nothing tells.
 *
 * @example decimalMarkOf(['1.234,50', '48']) // ','
 */
export function decimalMarkOf(amounts: readonly string[]): '.' | ',' {
  let comma = 0;
  let dot = 0;
  for (const amount of amounts) {
    const last = markBeforeTwo(amount) ?? /([.,])\d{1,2}\D*$/.exec(amount.trim())?.[1];
    if (last === ',') comma += 1;
    else if (last === '.') dot += 1;
  }
  return comma > dot ? ',' : '.';
}

/** The mark before the last two characters where these are digits, as most amounts end. */
function markBeforeTwo(amount: string): string | undefined {
  const mark = amount.charAt(amount.length - 3);
  if (mark !== '.' && mark !== ',') return undefined;
  return isDigitAt(amount, amount.length - 2) && isDigitAt(amount, amount.length - 1)
    ? mark
    : undefined;
}

function isDigitAt(text: string, at: number): boolean {
  const code = text.charCodeAt(at);
  return code >= ZERO && code <= NINE;
}

const ZERO = 48;
const NINE = 57;
