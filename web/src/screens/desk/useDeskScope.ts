import { useMemo } from 'react';
import { useSearchParams } from 'react-router';
import { useAppDispatch } from '../../app/store.ts';
import { type DecidedFilter, type DeskScope, deskScopeOf, type filterNames } from './deskScope.ts';
import { scopeChanged } from './deskSlice.ts';

export type ScopeChange = Partial<{
  lane: string;
  by: string;
  period: string | null;
  account: string | null;
  q: string | null;
  decision: string | null;
  side: string | null;
  attachment: string | null;
  sort: string | null;
}> &
  Partial<Record<(typeof filterNames)[keyof DecidedFilter], string | null>>;

/** Reads the Desk's scope from the address, and changes it there. */
export function useDeskScope(): DeskScope & { readonly change: (change: ScopeChange) => void } {
  const [params, setParams] = useSearchParams();
  const dispatch = useAppDispatch();
  const read = useMemo(() => deskScopeOf(params), [params]);
  return {
    ...read,
    change: (wanted) => {
      dispatch(scopeChanged());
      setParams((before) => {
        const next = new URLSearchParams(before);
        for (const [name, value] of Object.entries(wanted)) {
          if (!value) next.delete(name);
          else next.set(name, value);
        }
        return next;
      });
    },
  };
}
