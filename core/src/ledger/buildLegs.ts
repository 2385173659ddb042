import { fail } from '../errors.ts';
import type { AccountId, TaxCodeId } from '../ids.ts';
import { type Minor, roundedQuotient, sumMinor } from '../money/minor.ts';
import { splitAmount } from '../money/splitAmount.ts';
import { taxInside, taxOn } from '../money/taxInside.ts';
import type { Coding, CodingPart, CostObjects } from './coding.ts';
import type { TaxKind, TaxSide, TaxUse } from './kinds.ts';
import { useOfSide } from './taxSide.ts';

/** A tax code as it stands on the line's date. */
export interface TaxInForce {
  readonly id: string;
  readonly name: string;
  readonly kind: TaxKind;
  readonly use: TaxUse;
  /** Hundredths of a percent. */
  readonly rate: number;
  readonly inputAccountId: AccountId | null;
  readonly outputAccountId: AccountId | null;
  /** How much of input tax comes back, in hundredths of a percent; the rest stays with the cost. */
  readonly recoverable: number;
}

/** A leg of an entry. Debit is positive, credit is negative. */
export interface Leg extends CostObjects {
  readonly accountId: AccountId;
  readonly amount: Minor;
  readonly taxCodeId: TaxCodeId | null;
  /**
   * `bank`: on a bank account; `base`: what was coded; `tax`: tax that came with it; `control`: what a payee
   * owes or is owed.
   */
  readonly role: LegRole;
  /** On which side of the tax return it counts; null for none. */
  readonly taxSide?: TaxSide | null;
  /** What of a base leg was taxed: its amount without tax, also where part of that doesn't come back. */
  readonly taxable?: Minor | null;
}

export const legRoles = ['bank', 'base', 'tax', 'control'] as const;
export type LegRole = (typeof legRoles)[number];

/** What building an entry needs to know of the books. */
export interface LegLookups {
  /** Which side of the tax an account takes; null for none. */
  readonly taxSide: (accountId: AccountId, use: TaxUse) => TaxSide | null;
  /** Code and name of an account, for errors. */
  readonly accountName: (accountId: AccountId) => string;
  readonly tax: (taxCodeId: TaxCodeId) => TaxInForce;
  /** Whether it stands for a bank account of these books: then money moved there. */
  readonly isBank: (accountId: AccountId) => boolean;
}

/** How far a tax may be corrected by hand, in minor units. */
const CORRECTION = 5;
const WHOLE = 10_000;

/**
 * The legs of the entry that a coded line or document makes. They add up to zero.
 *
 * @param line the amount, in positive, out negative
 * @param ownAccountId the ledger account of the line's bank account, or what a document is owed to
 * @param lookups with what the first leg is, unless it is the bank's: `base` where an owner paid
 * @throws {ZubrellError} the errors of `splitAmount`, TAX_NOT_HERE, TAX_OTHER_SIDE, TAX_CORRECTION, TAX_ACCOUNT_MISSING
 * @example a line of −48.50 at 20 % gives bank −48.50, cost +40.42, input tax +8.08
 */
export function buildLegs(
  line: Minor,
  ownAccountId: AccountId,
  coding: Coding,
  { role = 'bank', ...lookups }: LegLookups & { readonly role?: Exclude<LegRole, 'tax'> },
): Leg[] {
  const amounts = splitAmount(
    line,
    coding.parts.map((part) => part.share),
  );
  const own: Leg = { accountId: ownAccountId, amount: line, taxCodeId: null, role };
  const legs = [
    own,
    ...coding.parts.flatMap((part, index) => partLegs(part, amounts[index] ?? 0, lookups)),
  ].filter((leg) => leg.amount !== 0 || leg.role !== 'tax');
  if (sumMinor(legs.map((leg) => leg.amount)) !== 0) fail('ENTRY_UNBALANCED');
  return legs;
}

function partLegs(part: CodingPart, amount: Minor, lookups: LegLookups): Leg[] {
  const gross = amount === 0 ? 0 : -amount;
  const { accountId, taxCodeId, costCentreId = null, jobId = null, isRecharged = false } = part;
  const ofClient = part.clientId ? { clientId: part.clientId } : {};
  const objects = {
    costCentreId,
    jobId,
    isRecharged: jobId !== null && isRecharged,
    ...ofClient,
  };
  const base = (value: Minor, taxSide: TaxSide | null = null, taxable = value): Leg => ({
    accountId,
    amount: value,
    taxCodeId,
    role: lookups.isBank(accountId) ? 'bank' : 'base',
    ...objects,
    taxSide,
    taxable: taxSide === null ? null : taxable,
  });
  if (taxCodeId === null) return [base(gross)];
  const code = lookups.tax(taxCodeId);
  if (code.kind === 'outside') return [base(gross)];
  const side = lookups.taxSide(accountId, code.use);
  const account = lookups.accountName(accountId);
  if (side === null) fail('TAX_NOT_HERE', { account, code: code.name });
  if (code.use !== 'both' && code.use !== useOfSide[side]) {
    fail('TAX_OTHER_SIDE', { account, code: code.name, use: code.use });
  }
  if (code.kind === 'zero' || code.kind === 'exempt') return [base(gross, side)];
  // The customer accounts for the tax on what is sold under reverse charge.
  if (code.kind === 'reverseCharge' && side === 'output') return [base(gross, side)];
  const taxLeg = (taxSide: TaxSide, value: Minor): Leg => ({
    accountId:
      (taxSide === 'input' ? code.inputAccountId : code.outputAccountId) ??
      fail('TAX_ACCOUNT_MISSING', { name: code.name }),
    amount: value,
    taxCodeId,
    role: 'tax',
    taxSide,
    ...ofClient,
  });
  const tax = correctedTax(part, gross, code);
  if (side === 'output') return [base(gross - tax, side), taxLeg('output', tax)];
  const back = roundedQuotient(BigInt(tax) * BigInt(code.recoverable), BigInt(WHOLE));
  if (code.kind === 'reverseCharge') {
    return [base(gross + tax - back, side, gross), taxLeg('input', back), taxLeg('output', -tax)];
  }
  return [base(gross - back, side, gross - tax), taxLeg('input', back)];
}

/** The tax of a part in debit view, corrected by hand where that was done. */
function correctedTax(part: CodingPart, gross: Minor, code: TaxInForce): Minor {
  const expected =
    code.kind === 'reverseCharge' ? taxOn(gross, code.rate) : taxInside(gross, code.rate);
  if (part.tax === null) return expected;
  if (Math.abs(-part.tax - expected) > CORRECTION) {
    fail('TAX_CORRECTION', { tax: -part.tax, expected, rate: code.rate / 100 });
  }
  return -part.tax;
}
