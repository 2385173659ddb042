import type { Grouping, Scope } from '@zubrell/contract/desk';
import { lastDayOf } from '@zubrell/core/dates/calendarDate';
import { useMemo } from 'react';
import { useSearchParams } from 'react-router';
import { useAppDispatch } from '../../app/store.ts';
import { scopeChanged } from './deskSlice.ts';

/** The places on the left of the Desk. */
export type DeskLane = 'ready' | 'check' | 'blank' | 'asked' | 'decided';

/** What the Desk looks at; all of it is in the address. */
export interface DeskScope {
  readonly lane: DeskLane;
  readonly grouping: Grouping;
  /** `YYYY-MM`, or null for all periods. */
  readonly period: string | null;
  readonly bankAccountId: string | null;
  readonly search: string;
  /** Only this decision, in Decided. */
  readonly decision: 'posted' | 'excluded' | null;
  /** The scope as the server takes it. */
  readonly scope: Scope;
}

type Change = Partial<{
  lane: string;
  by: string;
  period: string | null;
  account: string | null;
  q: string | null;
  decision: string | null;
}>;

const LANES: readonly DeskLane[] = ['ready', 'check', 'blank', 'asked', 'decided'];

/** Reads the Desk's scope from the address, and changes it there. */
export function useDeskScope(): DeskScope & { readonly change: (change: Change) => void } {
  const [params, setParams] = useSearchParams();
  const dispatch = useAppDispatch();
  const read = useMemo(() => scopeFrom(params), [params]);
  return {
    ...read,
    change: (wanted) => {
      dispatch(scopeChanged());
      setParams((before) => {
        const next = new URLSearchParams(before);
        for (const [name, value] of Object.entries(wanted)) {
          if (value === null || value === '') next.delete(name);
          else next.set(name, value);
        }
        return next;
      });
    },
  };
}

function scopeFrom(params: URLSearchParams): DeskScope {
  const lane = params.get('lane');
  const by = params.get('by');
  const decision = params.get('decision');
  const month = params.get('period');
  const period = month !== null && /^\d{4}-\d{2}$/.test(month) ? month : null;
  const bankAccountId = params.get('account');
  const search = params.get('q') ?? '';
  return {
    lane: LANES.find((each) => each === lane) ?? 'ready',
    grouping: by === 'payee' || by === 'date' ? by : 'lookAlikes',
    period,
    bankAccountId,
    search,
    decision: decision === 'posted' || decision === 'excluded' ? decision : null,
    scope: {
      ...(bankAccountId === null ? {} : { bankAccountId: [bankAccountId] }),
      ...(period === null ? {} : { from: `${period}-01`, to: lastDayOf(period) }),
      ...(search === '' ? {} : { search }),
    },
  };
}
