import type { AccountId } from '../../ids.ts';
import { type CutWords, cutWordsOf } from './cutWords.ts';
import type { Example } from './memory.ts';
import {
  type Aspects,
  NEWEST_TRIED,
  placesOf,
  type Separator,
  separatorsOf,
  sideOf,
} from './separators.ts';

/** What stands in the table of what is listened to, for each example one behind the other. */
export const DAY = 0;
export const SIZE = 1;
export const AMOUNT = 2;
export const WEIGHT = 3;
/** The place of its account in `accountIds`, of its bank account in `bankIds`, of its tax code in `taxCodeIds`. */
export const ACCOUNT = 4;
export const BANK = 5;
export const TAX_CODE = 6;
/** On which side of each separator it lies: a bit each. */
export const SIDES = 7;
/** The place of its wording. */
export const WORDING = 8;
export const COLUMNS = 9;

/** The decisions of one payee, or of look-alikes, that are listened to, and what weighing needs of them in a table. */
export interface Heard<Own extends Example = Example> {
  /** In the order in which they were decided, never more than {@link MOST_HEARD}. */
  readonly examples: readonly Own[];
  readonly separators: readonly Separator[];
  /** What of their wordings is cut off; null where nothing has to be told apart. */
  readonly cutWords: CutWords | null;
  /** One table, as most of a proposal's time goes into fetching from memory. */
  readonly table: Float64Array;
  /** The numbers among the separators, and which of these they are: a bit each. */
  readonly numbers: readonly string[];
  readonly numberSides: number;
  /** For each separator, what is left of a decision on its other side. */
  readonly otherSide: readonly number[];
  readonly accountIds: readonly AccountId[];
  readonly bankIds: readonly string[];
  readonly taxCodeIds: readonly (string | null)[];
  /** The examples whose account no other has. */
  readonly odd: readonly number[];
  /** From here on all went to an account that none went to before; 0 where nothing changed for good. */
  readonly changedAt: number;
  /** The places of the examples that have a number, if all of them went to one account. */
  readonly ofNumber: (number: string) => readonly number[];
}

/** So many of the newest examples are listened to. */
const MOST_EXAMPLES = 40;
/**
 * Beside them, so many of each account, of each wording and account, and of what a separator sets apart are listened
 * to.
 */
const MOST_OF_ACCOUNT = 4;
const MOST_OF_WORDING = 2;
const MOST_OF_SIDE = 4;
const MOST_BESIDE = 30;
export const MOST_HEARD = MOST_EXAMPLES + MOST_BESIDE;

/** So many of the newest in a row, on an account that had none before, are a change that lasts. */
const LASTING = 2;

/** What is listened to of decisions. @param isParted whether they went to several accounts */
export function hearAll<Own extends Example>(all: readonly Own[], isParted: boolean): Heard<Own> {
  const cutWords = isParted ? cutWordsOf(all.slice(-NEWEST_TRIED)) : null;
  const whole = cutWords ? all.map(cutWords.madeWhole) : all;
  const separators = isParted ? separatorsOf(whole) : [];
  const places = heardPlaces(whole, separators);
  const examples = places.flatMap((at) => all[at] ?? []);
  const accountIds: AccountId[] = [];
  const bankIds: string[] = [];
  const taxCodeIds: (string | null)[] = [];
  const table = new Float64Array(COLUMNS * examples.length);
  for (const [at, example] of examples.entries()) {
    const row = at * COLUMNS;
    const shown = whole[places[at] ?? 0] ?? example;
    table[row + DAY] = example.day;
    table[row + SIZE] = example.size;
    table[row + AMOUNT] = example.amount;
    table[row + WEIGHT] = example.weight;
    table[row + ACCOUNT] = placeIn(accountIds, example.accountId);
    table[row + BANK] = placeIn(bankIds, example.bankAccountId);
    table[row + TAX_CODE] = placeIn(taxCodeIds, example.taxCodeId);
    table[row + SIDES] = sidesOf(separators, shown);
    table[row + WORDING] = example.wording;
  }
  const numbers: string[] = [];
  let numberSides = 0;
  for (const [place, separator] of separators.entries()) {
    if (separator.kind !== 'number') continue;
    numbers.push(separator.number);
    numberSides |= 1 << place;
  }
  const accounts = examples.map(({ accountId }) => accountIds.indexOf(accountId));
  return {
    examples,
    separators,
    cutWords,
    table,
    numbers,
    numberSides,
    otherSide: separators.map(({ gain }) => (1 - gain) ** 2),
    accountIds,
    bankIds,
    taxCodeIds,
    odd: accountIds.length > 1 ? oddOf(accounts, accountIds.length) : [],
    changedAt: accountIds.length > 1 ? changedAt(accounts) : 0,
    ofNumber: numbered(examples),
  };
}

/** The account of an example that is listened to, by its place in `accountIds`. */
export function accountAt({ table }: Heard, at: number): number | undefined {
  return table[at * COLUMNS + ACCOUNT];
}

/** On which side of each separator something lies: a bit each. */
export function sidesOf(separators: readonly Separator[], aspects: Aspects): number {
  let sides = 0;
  for (let place = 0; place < separators.length; place += 1) {
    const separator = separators[place];
    if (separator && sideOf(separator, aspects)) sides |= 1 << place;
  }
  return sides;
}

/** The place of something in a list, at whose end it is put if it is not there. */
function placeIn<Value>(list: Value[], value: Value): number {
  const known = list.indexOf(value);
  return known >= 0 ? known : list.push(value) - 1;
}

/** The places of the newest examples, and of what is rarer those of the newest few, in their order. */
function heardPlaces(all: readonly Example[], separators: readonly Separator[]): readonly number[] {
  const from = Math.max(0, all.length - MOST_EXAMPLES);
  const beside: number[] = [];
  const ofAccount = new Map<string, { count: number; wordings: Map<number, number> }>();
  const ofSide = new Int32Array(separators.length);
  for (let at = all.length - 1; from > 0 && at >= 0 && beside.length < MOST_BESIDE; at -= 1) {
    const example = all[at];
    if (!example) continue;
    const own = ofAccount.get(example.accountId) ?? { count: 0, wordings: new Map() };
    ofAccount.set(example.accountId, own);
    own.count += 1;
    const wording = (own.wordings.get(example.wording) ?? 0) + 1;
    own.wordings.set(example.wording, wording);
    let isRare = own.count <= MOST_OF_ACCOUNT || wording <= MOST_OF_WORDING;
    for (const [place, separator] of separators.entries()) {
      if (!sideOf(separator, example)) continue;
      const side = (ofSide[place] ?? 0) + 1;
      ofSide[place] = side;
      isRare ||= side <= MOST_OF_SIDE;
    }
    if (at < from && isRare) beside.push(at);
  }
  const newest = Array.from({ length: all.length - from }, (_, at) => from + at);
  return [...beside.reverse(), ...newest];
}

function oddOf(accounts: readonly number[], count: number): readonly number[] {
  const times = new Int32Array(count);
  for (const account of accounts) times[account] = (times[account] ?? 0) + 1;
  const odd: number[] = [];
  for (const [at, account] of accounts.entries()) if (times[account] === 1) odd.push(at);
  return odd;
}

function changedAt(accounts: readonly number[]): number {
  const newest = accounts.at(-1);
  let from = accounts.length;
  while (from > 0 && accounts[from - 1] === newest) from -= 1;
  const isNew = newest !== undefined && !accounts.slice(0, from).includes(newest);
  return isNew && accounts.length - from >= LASTING ? from : 0;
}

/** Looks places up by number; what stands with several accounts, as a customer's number may, tells none. */
function numbered(examples: readonly Example[]): (number: string) => readonly number[] {
  let places: ReadonlyMap<string, readonly number[]> | null = null;
  return (number) => {
    places ??= placesOf(examples, ({ numbers }) => numbers);
    const own = places.get(number) ?? [];
    const account = examples[own[0] ?? 0]?.accountId;
    return own.every((at) => examples[at]?.accountId === account) ? own : [];
  };
}
