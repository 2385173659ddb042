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
    const last = /([.,])\d{1,2}\D*$/.exec(amount.trim())?.[1];
    if (last === ',') comma += 1;
    else if (last === '.') dot += 1;
  }
  return comma > dot ? ',' : '.';
}
