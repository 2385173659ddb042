import type { AccountType } from './kinds.ts';

/** What the program itself uses an account for, and another account can be given. */
export const assignableRoles = [
  'drawings',
  'capital',
  'clientMoney',
  'suspense',
  'transfers',
  'fixedAssets',
  'deposits',
  'taxOwed',
  'wagesOwed',
  'loans',
  'exchange',
  'receivables',
  'payables',
] as const;

/** All that it uses accounts for: the first ones are fixed when books are made. */
export const accountRoles = ['openingEquity', 'inputTax', 'outputTax', ...assignableRoles] as const;
export type AccountRole = (typeof accountRoles)[number];

/** Accounts for what customers owe and suppliers are owed: kept by documents and payments, never coded to directly. */
export const controlRoles = ['receivables', 'payables'] as const satisfies readonly AccountRole[];

/** Whether an account with this use is kept by documents and payments. */
export function isControlRole(role: AccountRole | null): role is (typeof controlRoles)[number] {
  return role === 'receivables' || role === 'payables';
}

/** Which types of account can be given a use. */
export const roleTypes: Readonly<Record<(typeof assignableRoles)[number], readonly AccountType[]>> =
  {
    drawings: ['equity', 'liability', 'asset'],
    capital: ['equity', 'liability', 'asset'],
    clientMoney: ['liability'],
    suspense: ['asset', 'liability'],
    transfers: ['asset', 'liability'],
    fixedAssets: ['asset'],
    deposits: ['asset'],
    taxOwed: ['liability', 'asset'],
    wagesOwed: ['liability'],
    loans: ['liability', 'asset'],
    exchange: ['expense', 'income'],
    receivables: ['asset'],
    payables: ['liability'],
  };

/** What an account is used for, in words. */
export const roleNames: Readonly<Record<(typeof assignableRoles)[number], string>> = {
  drawings: 'personal spending',
  capital: 'money put in by the owner',
  clientMoney: 'what is held for clients',
  suspense: 'what waits for an answer',
  transfers: 'moves between own accounts',
  fixedAssets: 'fixed assets',
  deposits: 'deposits paid',
  taxOwed: 'tax owed',
  wagesOwed: 'wages owed',
  loans: 'loans',
  exchange: 'exchange gains and losses',
  receivables: 'what customers owe',
  payables: 'what suppliers are owed',
};
