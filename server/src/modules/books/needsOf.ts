import type { Coding } from '@zubrell/core/ledger/coding';
import type { NeededThing } from '@zubrell/core/steps/stepThings';
import type { Need } from '../steps/recordStep.ts';

/** Things of one kind as needs; null is none. */
export function needs(thing: NeededThing, ids: Iterable<string | null | undefined>): Need[] {
  return [...new Set(ids)].flatMap((thingId) => (thingId ? [{ thing, thingId }] : []));
}

/** What has to be there for codings to hold: their payees, accounts, tax codes, cost centres and jobs. */
export function needsOfCodings(codings: readonly Coding[]): Need[] {
  const parts = codings.flatMap((coding) => coding.parts);
  return [
    ...needs('payee', [
      ...codings.map(({ payeeId }) => payeeId),
      ...parts.map(({ clientId }) => clientId),
    ]),
    ...needs(
      'account',
      parts.map(({ accountId }) => accountId),
    ),
    ...needs(
      'taxCode',
      parts.map(({ taxCodeId }) => taxCodeId),
    ),
    ...needs(
      'costObject',
      parts.flatMap(({ costCentreId, jobId }) => [costCentreId, jobId]),
    ),
  ];
}
