import type { DecisionKind, Grouping, Scope } from '@zubrell/contract/desk';
import { lastDayOf } from '@zubrell/core/dates/calendarDate';
import type { BankAccountId } from '@zubrell/core/ids';
import { decisionKinds } from '@zubrell/core/ledger/decisions';

/** The places on the left of the Desk. */
export type DeskLane = 'ready' | 'check' | 'blank' | 'asked' | 'decided';

/** What the Desk looks at; all of it is in the address. */
export interface DeskScope {
  readonly lane: DeskLane;
  readonly grouping: Grouping;
  /** `YYYY-MM`, or null for all periods. */
  readonly period: string | null;
  readonly bankAccountId: BankAccountId | null;
  readonly search: string;
  /** Only money in, or only money out. */
  readonly side: 'in' | 'out' | null;
  /** Only lines that no paper is kept with. */
  readonly isWithoutPaper: boolean;
  /** Only this decision, in Decided. */
  readonly decision: DecisionKind | null;
  /** The scope as the server takes it. */
  readonly scope: Scope;
}

const LANES: readonly DeskLane[] = ['ready', 'check', 'blank', 'asked', 'decided'];

/** The scope that an address's query says; what is not understood is left out. */
export function deskScopeOf(params: URLSearchParams): DeskScope {
  const lane = params.get('lane');
  const by = params.get('by');
  const decision = params.get('decision');
  const month = params.get('period');
  const period = month !== null && /^\d{4}-\d{2}$/.test(month) ? month : null;
  const bankAccountId = params.get('account');
  const search = params.get('q') ?? '';
  const wanted = params.get('side');
  const side = wanted === 'in' || wanted === 'out' ? wanted : null;
  const isWithoutPaper = params.get('paper') === 'none';
  return {
    lane: LANES.find((each) => each === lane) ?? 'ready',
    grouping: by === 'payee' || by === 'date' ? by : 'lookAlikes',
    period,
    bankAccountId,
    search,
    side,
    isWithoutPaper,
    decision: decisionKinds.find((each) => each === decision) ?? null,
    scope: {
      ...(bankAccountId === null ? {} : { bankAccountId: [bankAccountId] }),
      ...(period === null ? {} : { from: `${period}-01`, to: lastDayOf(period) }),
      ...(search === '' ? {} : { search }),
      ...(side === null ? {} : { direction: side }),
      ...(isWithoutPaper ? { paper: 'none' as const } : {}),
    },
  };
}

/** What of a scope a proof goes by: it is of whole bank accounts and days. */
export function proofScope({ bankAccountId, from, to }: Scope): Scope {
  return { bankAccountId, from, to };
}
