import { useEffect, useState } from 'react';

/** A value a moment after it last changed, so that not every key asks the server. */
export function useLater<T>(value: T, pause = 200): T {
  const [later, setLater] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setLater(value), pause);
    return () => clearTimeout(timer);
  }, [value, pause]);
  return later;
}

/** Whether what shows this has been there for a moment: what only passes by asks the server nothing. */
export function useIsResting(pause = 120): boolean {
  const [isResting, setResting] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setResting(true), pause);
    return () => clearTimeout(timer);
  }, [pause]);
  return isResting;
}
