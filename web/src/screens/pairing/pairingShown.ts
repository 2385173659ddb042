import type { PairingView, PairRow, PairSet } from '@zubrell/contract/pairing';
import { sumOf } from '@zubrell/core/money/minor';
import { candidateNames } from '@zubrell/core/pair/candidateNames';
import { lowerFirst } from '@zubrell/core/text/lowerFirst';
import { t } from '@zubrell/core/words/t';

/** A row of the pairing table: one thing in the books, or several that add up. */
export type Offer =
  | { readonly kind: 'one'; readonly id: string; readonly row: PairRow }
  | { readonly kind: 'set'; readonly id: string; readonly set: PairSet };

/** Rows under a heading; the first ones stand under none. */
export interface OfferGroup {
  readonly heading: string | null;
  readonly offers: readonly Offer[];
}

/** Less alike than this is offered below. */
const LIKELY = 3;

/** All that lines could be, in groups by how likely it is. What stands further up is not shown again. */
export function offerGroups(view: PairingView): readonly OfferGroup[] {
  const all: readonly Offer[] = [
    ...view.sets.map(
      (set): Offer => ({ kind: 'set', id: `set ${set.rows.map(({ id }) => id).join()}`, set }),
    ),
    ...view.fits.map(one),
  ];
  const proposed = [...view.proposed].sort().join();
  const isProposed = (offer: Offer) => idsOf(offer).sort().join() === proposed;
  const ordered = [...all].sort(
    (a, b) => Number(isProposed(b)) - Number(isProposed(a)) || likenessOf(b) - likenessOf(a),
  );
  const likely = ordered.filter((offer) => isProposed(offer) || likenessOf(offer) >= LIKELY);
  const others = ordered.filter((offer) => !likely.includes(offer));
  const seen = new Set(view.fits.map(({ id }) => id));
  const misses = view.nearMisses.filter(({ id }) => !seen.has(id));
  for (const { id } of misses) seen.add(id);
  const found = view.found.filter(({ id }) => !seen.has(id));
  return [
    { heading: null, offers: likely },
    { heading: likely.length > 0 ? t`Also fits, less likely` : t`Fits`, offers: others },
    { heading: t`Found by your search`, offers: found.map(one) },
    { heading: t`Near misses`, offers: misses.map(one) },
  ].filter(({ offers }) => offers.length > 0);
}

const one = (row: PairRow): Offer => ({ kind: 'one', id: row.id, row });

/** The ids that ticking an offer ticks. */
export function idsOf(offer: Offer): string[] {
  return offer.kind === 'one' ? [offer.row.id] : offer.set.rows.map(({ id }) => id);
}

export function likenessOf(offer: Offer): number {
  return offer.kind === 'one' ? offer.row.likeness : offer.set.likeness;
}

/** Everything that can be ticked, by its id. */
export function rowsById(view: PairingView): ReadonlyMap<string, PairRow> {
  const rows = [
    ...view.found,
    ...view.nearMisses,
    ...view.sets.flatMap((set) => set.rows),
    ...view.fits,
  ];
  return new Map(rows.filter(({ pairedWith }) => pairedWith === null).map((row) => [row.id, row]));
}

/** What is ticked at first: what is proposed, else the only likely offer. */
export function tickedAtFirst(view: PairingView): readonly string[] {
  if (view.proposed.length > 0) return view.proposed;
  const [first] = offerGroups(view);
  const [only, ...others] = first?.heading === null ? first.offers : [];
  return only && others.length === 0 && likenessOf(only) >= LIKELY ? idsOf(only) : [];
}

/** What the main button says. @example 'Pair with Invoices 1039, 1042' */
export function pairLabel(rows: readonly PairRow[]): string {
  if (rows.length === 0) return t`Pair`;
  return t`Pair with ${lowerFirst(candidateNames(rows))}`;
}

/** What can be done with a difference, in the order in which it should be thought of. */
export interface DifferenceChoices {
  /** What of ours may be wrong and can be corrected from here. */
  readonly correctable: readonly PairRow[];
  readonly canBePartPaid: boolean;
  readonly canBeCredit: boolean;
}

const MOST_CORRECTED = 2;
const NOT_CORRECTED = new Set(['journal', 'transfer', 'creditNote', 'credit', 'invoice']);

/** @param by how much more the bank moved than what is ticked comes to */
export function differenceChoices(rows: readonly PairRow[], by: number): DifferenceChoices {
  const documents = rows.filter(({ side }) => side !== null);
  const [first] = documents;
  const bank = sumOf(rows) + by;
  return {
    // Of many, none is more likely wrong than another.
    correctable:
      rows.length > MOST_CORRECTED
        ? []
        : rows.filter(
            ({ kind, amount }) =>
              !NOT_CORRECTED.has(kind) &&
              amount !== 0 &&
              Math.sign(amount + by) === Math.sign(amount),
          ),
    canBePartPaid: documents.some(
      ({ amount }) => Math.sign(by) === -Math.sign(amount) && Math.abs(by) < Math.abs(amount),
    ),
    canBeCredit:
      first !== undefined &&
      Math.sign(by) === Math.sign(bank) &&
      documents.every(({ payeeId, side }) => payeeId === first.payeeId && side === first.side),
  };
}
