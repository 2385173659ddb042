import type { AccountRole } from './accountRoles.ts';
import type { AccountTax, AccountType, TaxKind } from './kinds.ts';

/** An account of the starter chart; `role` marks the ones the program itself posts to. */
export interface StarterAccount {
  readonly code: string;
  readonly name: string;
  readonly type: AccountType;
  readonly parent: string | null;
  readonly role: AccountRole | null;
  readonly tax: AccountTax;
  /** Words for what goes there, to find it by. */
  readonly purpose: string;
}

/** A tax code of the starter set, with its rate in hundredths of a percent. */
export interface StarterTaxCode {
  readonly name: string;
  readonly kind: TaxKind;
  readonly rate: number;
}

const ACCOUNTS = `
1000 Bank and cash|asset
1090 Between own accounts|asset|1000|transfers
1200 Receivables|asset||receivables
1300 Deposits paid|asset||deposits|bond security
1400 Stock|asset|||goods for sale inventory
1500 Equipment|asset||fixedAssets|machines tools computers furniture vehicles fixed assets
2000 Payables|liability||payables
2100 Card accounts|liability
2200 Tax|liability||taxOwed
2210 Input tax|asset|2200|inputTax
2220 Output tax|liability|2200|outputTax
2300 Wages and social charges owed|liability||wagesOwed|payroll social security
2400 Loans|liability||loans|bank loan mortgage borrowing instalments
3000 Equity|equity
3010 Opening equity|equity|3000|openingEquity
3020 Owner’s drawings|equity|3000|drawings|personal private own spending
3030 Capital introduced|equity|3000|capital|money put in by the owner paid privately
4000 Sales|income
4010 Sales of goods|income|4000||shop market takings invoices
4020 Services|income|4000||fees work hours
4030 Rent received|income|4000||letting lease
4090 Interest received|income|4000
5000 Materials|expense|||raw supplies
6000 Running costs|expense
6010 Freight out|expense|6000||postage courier parcels shipping delivery
6020 Market and stall fees|expense|6000||pitch fair festival booth
6030 Phone and data|expense|6000||mobile internet broadband line
6040 Rent|expense|6000||lease premises studio shop
6050 Energy and water|expense|6000||gas electricity power heating
6060 Insurance|expense|6000||policy premium cover
6070 Office and software|expense|6000||stationery paper subscription hosting licence domain
6080 Travel|expense|6000||fuel petrol diesel train taxi parking hotel
6090 Repairs|expense|6000||maintenance parts servicing
6100 Wages|expense|6000||salary pay staff
6110 Advertising|expense|6000||marketing notices signs print promotion
6120 Meals and refreshments|expense|6000||coffee food lunch restaurant entertaining
6130 Professional fees|expense|6000||accountant lawyer adviser consultant
6900 Bank charges|expense|6000||fee commission card terminal interest
6950 Exchange gains and losses|expense|6000|exchange|currency rate difference
9000 Suspense|asset||suspense`;

/** Accounts of the starter chart that are never taxed, though their type would be. */
const UNTAXED_CODES: ReadonlySet<string> = new Set(['6100']);

/** The chart of accounts that new books start with. */
export const starterAccounts: readonly StarterAccount[] = ACCOUNTS.trim()
  .split('\n')
  .map((row) => {
    const [title = '', type, parent, role, purpose] = row.split('|');
    return {
      code: title.slice(0, 4),
      name: title.slice(5),
      type: type as AccountType,
      parent: parent || null,
      role: (role || null) as AccountRole | null,
      tax: UNTAXED_CODES.has(title.slice(0, 4)) ? 'never' : 'byType',
      purpose: purpose ?? '',
    };
  });

/** What of a coded part counts in a box of the tax return: amounts without tax, and the tax, on either side. */
export const taxParts = ['outputNet', 'outputTax', 'inputNet', 'inputTax'] as const;
export type TaxPart = (typeof taxParts)[number];

/** The box of the tax return that each part counts in; null for none. */
export type TaxBoxes = Readonly<Record<TaxPart, string | null>>;

/** What counts in no box. */
export const noBoxes: TaxBoxes = {
  outputNet: null,
  outputTax: null,
  inputNet: null,
  inputTax: null,
};

/** The tax codes that new books can start with. */
export const taxSets = ['standardAndReduced', 'oneRate', 'none'] as const;
export type TaxSet = (typeof taxSets)[number];

const standard = { name: '20 %', kind: 'standard', rate: 2000 } as const;
const reduced = { name: '5 %', kind: 'standard', rate: 500 } as const;
const zero = { name: '0 %', kind: 'zero', rate: 0 } as const;
const exempt = { name: 'Exempt', kind: 'exempt', rate: 0 } as const;
const outside = { name: 'Outside', kind: 'outside', rate: 0 } as const;
const reverse = { name: 'Reverse charge 20 %', kind: 'reverseCharge', rate: 2000 } as const;

/** The tax codes of each set, named by what they are. */
export const starterTaxCodes: Readonly<Record<TaxSet, readonly StarterTaxCode[]>> = {
  standardAndReduced: [standard, reduced, zero, exempt, outside, reverse],
  oneRate: [standard, zero, exempt, outside, reverse],
  none: [outside],
};

/** The boxes that a starter tax code counts in. */
export function starterBoxes(kind: TaxKind): TaxBoxes {
  if (kind === 'outside') return noBoxes;
  return {
    outputNet: kind === 'exempt' ? 'C Exempt sales' : 'A Sales without tax',
    outputTax: kind === 'reverseCharge' ? 'E Tax owed on reverse charge' : 'B Tax on sales',
    inputNet:
      kind === 'reverseCharge' ? 'D Purchases under reverse charge' : 'F Purchases without tax',
    inputTax: 'G Input tax',
  };
}
