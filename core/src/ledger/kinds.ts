/** What an account is: where it stands in the reports, and which side it grows on. */
export const accountTypes = ['asset', 'liability', 'equity', 'income', 'expense'] as const;
export type AccountType = (typeof accountTypes)[number];

/** What a tax code does. */
export const taxKinds = ['standard', 'zero', 'exempt', 'outside', 'reverseCharge'] as const;
export type TaxKind = (typeof taxKinds)[number];

/** What a payee is to the business. */
export const payeeKinds = [
  'supplier',
  'customer',
  'employee',
  'owner',
  'taxOffice',
  'other',
] as const;

/** What a bank account is. */
export const bankAccountKinds = ['current', 'savings', 'card', 'cash'] as const;

/** What a part of a coding can be for, beside its account. */
export const costObjectKinds = ['costCentre', 'job'] as const;
