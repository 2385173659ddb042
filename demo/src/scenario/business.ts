import type { MadeLine } from './makeLines.ts';
import type { Random } from './random.ts';

/** A made-up business with its bank accounts and what recurs in them. */
export interface Business {
  readonly name: string;
  readonly currency: string;
  readonly seed: number;
  readonly accounts: readonly ExtraAccount[];
  readonly bankAccounts: readonly MadeBankAccount[];
  readonly patterns: readonly Pattern[];
  /** Files that came in beside the monthly ones, made from the lines so far. */
  readonly oddFiles?: (lines: readonly MadeLine[]) => readonly OddFile[];
}

/** A file that brings trouble, and the day it was kept. */
export interface OddFile {
  readonly bank: string;
  readonly fileName: string;
  readonly text: string;
  readonly day: string;
}

/** A ledger account beside the starter chart. */
export interface ExtraAccount {
  readonly code: string;
  readonly name: string;
  readonly type: 'income' | 'expense' | 'asset' | 'liability';
  readonly parent: string;
}

export interface MadeBankAccount {
  readonly key: string;
  readonly name: string;
  readonly kind: 'current' | 'savings' | 'card' | 'cash';
  readonly number: string | null;
  /** Balance before the first line, in the holder's view. */
  readonly opening: number;
  /** The format its bank hands out. */
  readonly format: 'ofx1' | 'ofx2' | 'csvSemicolon' | 'csvComma';
  /** Of a card: how its bank names those who pay with it, each with the wordings of what they buy. */
  readonly holders?: readonly { readonly name: string; readonly buys: RegExp }[];
}

/** What a line really is: the coding a careful bookkeeper gives it. */
export interface Truth {
  readonly payee: string | null;
  /** The code of an account, or `bank:` and the key of the bank account that money moved to or from. */
  readonly account: string;
  readonly tax: string | null;
}

/** Something that recurs: where, how often, how much, in what words. */
export interface Pattern extends Truth {
  readonly bank: string;
  readonly payeeKind?: 'supplier' | 'customer' | 'employee' | 'owner' | 'taxOffice' | 'other';
  /** Lines a month, from and to; a fraction below one is a chance. */
  readonly perMonth: readonly [number, number];
  /** Days of the month it falls on; any day where not given. */
  readonly day?: readonly [number, number];
  /** Amount in minor units, from and to, signed. */
  readonly amount: readonly [number, number];
  readonly wording: (random: Random) => string;
  readonly reference?: (random: Random) => string;
  /** Only in these months, as `YYYY-MM`. */
  readonly from?: string;
  readonly to?: string;
  /** The other half, on another own account some days later. */
  readonly mirror?: {
    readonly bank: string;
    readonly wording: (random: Random) => string;
    readonly days: number;
  };
}
