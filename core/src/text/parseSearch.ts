import { ZubrellError } from '../errors.ts';
import type { Minor } from '../money/minor.ts';
import { parseAmount } from '../money/parseAmount.ts';

/** What a search looks for: nothing, amounts by size, or text. Bounds are included. */
export type Search =
  | { readonly kind: 'all' }
  | { readonly kind: 'amount'; readonly from: Minor; readonly to: Minor }
  | { readonly kind: 'text'; readonly text: string };

/**
 * Reads what was typed into a search field. Amounts are sizes, without sign.
 *
 * @example parseSearch('48.50', 'EUR') // { kind: 'amount', from: 4850, to: 4850 }
 * @example parseSearch('>500', 'EUR') // from 50001
 * @example parseSearch('40..60', 'EUR') // from 4000 to 6000
 * @example parseSearch('freight', 'EUR') // { kind: 'text', text: 'freight' }
 */
export function parseSearch(typed: string, currency: string): Search {
  const text = typed.trim();
  if (text === '') return { kind: 'all' };
  const range = /^(.+?)\s*\.\.\s*(.+)$/.exec(text);
  const compared = /^([<>])\s*(.+)$/.exec(text);
  const amounts = (range ? range.slice(1) : [compared?.[2] ?? text]).map((each) =>
    sizeOf(each, currency),
  );
  const [first, second] = amounts;
  if (first === undefined || first === null || second === null) return { kind: 'text', text };
  if (second !== undefined) {
    return { kind: 'amount', from: Math.min(first, second), to: Math.max(first, second) };
  }
  if (compared?.[1] === '>') {
    return { kind: 'amount', from: first + 1, to: Number.MAX_SAFE_INTEGER };
  }
  if (compared?.[1] === '<') return { kind: 'amount', from: 0, to: Math.max(first - 1, 0) };
  return { kind: 'amount', from: first, to: first };
}

function sizeOf(text: string, currency: string): Minor | null {
  try {
    return Math.abs(parseAmount(text, '.', currency));
  } catch (error) {
    if (error instanceof ZubrellError) return null;
    throw error;
  }
}
