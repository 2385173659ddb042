/** What an account is: where it stands in the reports, and which side it grows on. */
export const accountTypes = ['asset', 'liability', 'equity', 'income', 'expense'] as const;
export type AccountType = (typeof accountTypes)[number];

/** What a tax code does. */
export const taxKinds = ['standard', 'zero', 'exempt', 'outside', 'reverseCharge'] as const;
export type TaxKind = (typeof taxKinds)[number];

/** Which tax an account takes: as its type says, none, or on the side that the tax code says. */
export const accountTaxes = ['byType', 'never', 'byCode'] as const;
export type AccountTax = (typeof accountTaxes)[number];

/** What a tax code is for. */
export const taxUses = ['both', 'purchases', 'sales'] as const;
export type TaxUse = (typeof taxUses)[number];

/** Which tax: what is paid to suppliers, or what is charged to customers. */
export const taxSides = ['input', 'output'] as const;
export type TaxSide = (typeof taxSides)[number];

/** What a payee is to the business. */
export const payeeKinds = [
  'supplier',
  'customer',
  'employee',
  'owner',
  'relatedBusiness',
  'taxOffice',
  'other',
] as const;
export type PayeeKind = (typeof payeeKinds)[number];

/** What a bank account is. */
export const bankAccountKinds = ['current', 'savings', 'card', 'cash', 'clientMoney'] as const;
export type BankAccountKind = (typeof bankAccountKinds)[number];

/** What a part of a coding can be for, beside its account. */
export const costObjectKinds = ['costCentre', 'job'] as const;
