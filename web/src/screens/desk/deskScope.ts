import type { Decided, DecisionKind, Grouping, Scope } from '@zubrell/contract/desk';
import { lastDayOf } from '@zubrell/core/dates/calendarDate';
import type { BankAccountId } from '@zubrell/core/ids';
import { decisionKinds, postedWays } from '@zubrell/core/ledger/decisions';
import { decisionSources } from '@zubrell/core/propose/proposal';
import { type Sorting, sortingOf } from './sortRows.ts';

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
  /** Only lines that no attachment is kept with. */
  readonly isWithoutAttachment: boolean;
  /** Only this decision, in Decided. */
  readonly decision: DecisionKind | null;
  readonly sorting: Sorting;
  /** What else decided lines are filtered by. */
  readonly decided: DecidedFilter;
  /** The scope as the server takes it. */
  readonly scope: Scope;
}

/** How decided lines were decided, as far as it is asked for. */
export type DecidedFilter = Omit<Decided, keyof Scope | 'kind'>;

/** What in the address each of it is called. */
export const filterNames: Readonly<Record<keyof DecidedFilter, string>> = {
  accountId: 'codedTo',
  payeeId: 'payee',
  taxCodeId: 'tax',
  by: 'proposedBy',
  ruleId: 'rule',
  stem: 'alike',
  way: 'posted',
  userId: 'who',
  step: 'step',
};

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
  const isWithoutAttachment = params.get('attachment') === 'none';
  return {
    lane: LANES.find((each) => each === lane) ?? 'ready',
    grouping: by === 'payee' || by === 'date' ? by : 'lookAlikes',
    period,
    bankAccountId,
    search,
    side,
    isWithoutAttachment,
    decision: decisionKinds.find((each) => each === decision) ?? null,
    sorting: sortingOf(params.get('sort')),
    decided: decidedFilterOf(params),
    scope: {
      ...(bankAccountId === null ? {} : { bankAccountId: [bankAccountId] }),
      ...(period === null ? {} : { from: `${period}-01`, to: lastDayOf(period) }),
      ...(search === '' ? {} : { search }),
      ...(side === null ? {} : { direction: side }),
      ...(isWithoutAttachment ? { attachment: 'none' as const } : {}),
    },
  };
}

/** What of a scope a proof goes by: it is of whole bank accounts and days. */
export function proofScope({ bankAccountId, from, to }: Scope): Scope {
  return { bankAccountId, from, to };
}

function decidedFilterOf(params: URLSearchParams): DecidedFilter {
  const said = (field: keyof DecidedFilter) => params.get(filterNames[field]) || undefined;
  const by = decisionSources.find((each) => each === said('by'));
  const way = postedWays.find((each) => each === said('way'));
  const step = Number(said('step'));
  const stems = params.getAll(filterNames.stem).filter(Boolean);
  const all: DecidedFilter = {
    accountId: said('accountId'),
    payeeId: said('payeeId'),
    taxCodeId: said('taxCodeId'),
    by,
    ruleId: said('ruleId'),
    stem: stems.length > 0 ? stems : undefined,
    way,
    userId: said('userId'),
    step: Number.isInteger(step) && step > 0 ? step : undefined,
  };
  return Object.fromEntries(Object.entries(all).filter(([, value]) => value !== undefined));
}

/** The address of the decided lines that were decided so, below the books. @example decidedPath({ ruleId }) */
export function decidedPath(filter: DecidedFilter): string {
  const query = new URLSearchParams({ lane: 'decided' });
  for (const [field, value] of Object.entries(filter)) {
    for (const each of [value].flat()) {
      query.append(filterNames[field as keyof DecidedFilter], String(each));
    }
  }
  return `desk?${query}`;
}
