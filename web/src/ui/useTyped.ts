import { useState } from 'react';

/**
 * What is typed over a value, until that changes: by saving it, by undo, or by somebody else. So a field never shows what
 * is no more, and leaving it doesn't save that again.
 */
export function useTyped<Value extends string | null>(
  value: Value,
): readonly [typed: Value, setTyped: (typed: Value) => void] {
  const [{ over, typed }, setState] = useState({ over: value, typed: value });
  if (over !== value) setState({ over: value, typed: value });
  return [over === value ? typed : value, (wanted) => setState({ over: value, typed: wanted })];
}
