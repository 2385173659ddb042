import { type RefObject, useEffect } from 'react';
import { isCovered } from './isCovered.ts';

/**
 * Gives the list the focus at the start, so that its keys work at once, and whenever nothing else has it: after a
 * press beside everything, or when what had it is gone.
 */
export function useListFocus(list: RefObject<HTMLElement | null>): void {
  useEffect(() => {
    list.current?.focus();
    const look = () =>
      setTimeout(() => {
        if (document.activeElement !== document.body || isCovered()) return;
        list.current?.focus({ preventScroll: true });
      });
    const events = ['focusout', 'click'] as const;
    for (const event of events) document.addEventListener(event, look);
    return () => {
      for (const event of events) document.removeEventListener(event, look);
    };
  }, [list]);
}
