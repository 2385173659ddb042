import { piecesOf } from '@zubrell/core/words/t';
import { createElement, Fragment, type ReactNode } from 'react';

/**
 * A text that people see, in their language, with elements in it.
 *
 * @example tx`Asked by ${<b>Ida</b>}`
 */
export function tx(texts: readonly string[], ...values: readonly ReactNode[]): ReactNode {
  const parts = piecesOf(texts).map((piece) => (typeof piece === 'number' ? values[piece] : piece));
  return createElement(Fragment, null, ...parts);
}
