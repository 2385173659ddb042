import type { BankAccountId } from '../../ids.ts';
import type { Minor } from '../../money/minor.ts';
import { plainWording } from '../../text/plainWording.ts';
import { isMovementWord } from '../../text/stemOf.ts';
import type { Aspects } from './separators.ts';

/** A line as habits look at it. */
export interface HabitLine {
  readonly date: string;
  /** In positive, out negative. */
  readonly amount: Minor;
  readonly description: string;
  readonly reference: string | null;
  /** The other side, where the bank names it apart. */
  readonly payee: string | null;
  readonly bankAccountId: BankAccountId;
}

/** What a wording is made of, once numbers are set apart. */
export interface WordingFeatures {
  /** Words with letters, in their order, each once; digits within them are left out. */
  readonly words: readonly string[];
  /** Sequences of four letters over all words without their spaces, each once. */
  readonly grams: readonly string[];
  /** Numbers that may be of a terminal, a contract or a customer, each once: most come but once. */
  readonly numbers: readonly string[];
}

const DIGIT = /\p{N}/gu;
const LETTERS = /\p{L}+/gu;
const LONG_RUNS = /\p{N}{4,}/gu;

const GRAM = 4;
/** Up to so many letters beside digits are part of a reference, as in AB1234. */
const MARK = 3;
/** More letters than this say nothing new. */
const LONGEST = 80;

/**
 * Takes a wording apart. Case, accents, punctuation and spacing do not count, and numbers are left out, so
 * that references and dates do not make a payee look new, and so are words for how money moved, unless there
 * are no others.
 *
 * @example wordingFeatures('CRD PUR TIDEMARK FRT 20318').words // ['TIDEMARK', 'FRT']
 */
export function wordingFeatures(text: string): WordingFeatures {
  const all: string[] = [];
  const tokens = plainWording(text).split(' ');
  for (const token of tokens) {
    if (digitsIn(token) === 0) {
      if (token !== '') all.push(token);
      continue;
    }
    for (const part of token.match(LETTERS) ?? []) if (part.length > MARK) all.push(part);
  }
  // Few payees may have come by card so far: that would make the card telling.
  const telling = all.filter((word) => !isMovementWord(word));
  // Each once: lines with the same words have to be alike in all.
  const words = [...new Set(telling.length > 0 ? telling : all)];
  const squeezed = words.join('').slice(0, LONGEST);
  const grams = new Set<string>();
  for (let at = 0; at + GRAM <= squeezed.length; at += 1) grams.add(squeezed.slice(at, at + GRAM));
  return { words, grams: [...grams], numbers: numbersIn(tokens) };
}

/** Runs of so many digits can name something; beside letters fewer do. */
const DIGITS = 3;
const DIGITS_BESIDE_LETTERS = 2;
/** No number is longer, and so many of one line are looked at. */
const LONGEST_NUMBER = 24;
const MOST_NUMBERS = 12;

/** Runs of three digits and more, and what mixes letters with two and more. */
function numbersIn(tokens: readonly string[]): string[] {
  const found = new Set<string>();
  for (const token of tokens) {
    if (token.length > LONGEST_NUMBER) continue;
    const digits = digitsIn(token);
    if (digits < DIGITS_BESIDE_LETTERS) continue;
    const isMixed = digits < token.length;
    if (isMixed || digits >= DIGITS) found.add(token);
    if (isMixed) for (const run of token.match(LONG_RUNS) ?? []) found.add(run);
    if (found.size >= MOST_NUMBERS) break;
  }
  return [...found];
}

/** How many digits a token has, of any script. */
function digitsIn(token: string): number {
  let digits = 0;
  for (let at = 0; at < token.length; at += 1) {
    const code = token.charCodeAt(at);
    if (code > 127) return token.match(DIGIT)?.length ?? 0;
    if (code >= 48 && code <= 57) digits += 1;
  }
  return digits;
}

/** What a line shows that may tell accounts apart. */
export function aspectsOf(
  { amount, bankAccountId, date }: HabitLine,
  { words, numbers }: WordingFeatures,
): Aspects {
  // Written out: taking lists apart is slow.
  const day = daysOf(date);
  const monthDay = monthDayOf(day);
  const weekday = weekdayOf(day);
  return { amount, bankAccountId, words, numbers, monthDay, weekday };
}

/** All texts of a line that can tell something, as one. */
export function textOf({ description, reference, payee }: HabitLine): string {
  const named = payee ? `${description} ${payee}` : description;
  return reference ? `${named} ${reference}` : named;
}

/** Days since 1970, for distances between dates. @example daysOf('1970-01-11') // 10 */
export function daysOf(date: string): number {
  return Math.floor(Date.parse(date) / 86_400_000);
}

/** The day of the week, from 0 for Monday, of a date as days since 1970. @example weekdayOf(20_543) // 1 */
export function weekdayOf(day: number): number {
  return (day + 3) % 7;
}

/** The day of the month of a date as days since 1970. @example monthDayOf(20_543) // 31 */
export function monthDayOf(day: number): number {
  return new Date(day * 86_400_000).getUTCDate();
}
