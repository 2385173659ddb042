import type { BooksSetup } from '@zubrell/contract/books';
import type { Outstanding } from '@zubrell/contract/ledger';
import { type Dice, dice } from '@zubrell/core/testing/dice';
import { type Bookkeeper, bookkeeper } from '../bookkeeper.ts';
import type { Client, TestBooks } from '../client.ts';
import { Model, type Patch } from './model.ts';

/** A bank account of the books that are walked through. */
export interface WalkedBank {
  readonly id: string;
  /** The ledger account that it stands for. */
  readonly account: string;
}

/** What a move did: the step that it made, and what that put and took away. */
export interface Moved {
  readonly step: number | null;
  readonly words: string;
  readonly patches: readonly Patch[];
}

/** One kind of move: does something to the books; null where there is nothing to do it to. */
export type Move = (walker: Walker) => Promise<Moved | null>;

/** Somebody who does one thing after another to books, as dice fall. */
export class Walker {
  readonly dice: Dice;
  readonly model = new Model();
  readonly client: Client;
  readonly books: TestBooks;
  readonly mo: Bookkeeper;
  /** Bank accounts that were ever made; those in force are among the things. */
  readonly banks: WalkedBank[];
  readonly setup: BooksSetup;
  /** Lines that were made of rows of a batch, with the batch. */
  readonly apart = new Map<string, string>();
  private serial = 0;
  /** The last step that was done before the walk. */
  firstSteps = 0;
  /** The day up to which all is closed, and what each bank account came to then. */
  closed: { readonly day: string; readonly books: ReadonlyMap<string, number> } | null = null;
  /** Whether anything was ever closed. */
  wasClosed = false;

  constructor(seed: number, client: Client, books: TestBooks, setup: BooksSetup) {
    this.dice = dice(seed);
    this.client = client;
    this.books = books;
    this.mo = bookkeeper(client, books.id);
    this.setup = setup;
    this.banks = setup.bankAccounts.map(({ id, accountId }) => ({ id, account: accountId }));
  }

  account(code: string): string {
    return this.setup.accounts.find((account) => account.code === code)?.id ?? '';
  }

  /** The tax code of 20 %. */
  get tax(): string {
    return this.setup.taxCodes.find(({ name }) => name === '20 %')?.id ?? '';
  }

  /** A name or wording that there was none of before. */
  fresh(word: string): string {
    this.serial += 1;
    return `${word} ${this.serial}${this.dice.letters(2)}`;
  }

  /** One of some; null of none. */
  oneOf<T>(all: readonly T[]): T | null {
    return all.length === 0 ? null : this.dice.pick(all);
  }

  /** Up to so many of some, each once. */
  someOf<T>(all: readonly T[], most: number): readonly T[] {
    const left = [...all];
    const wanted = this.dice.whole(1, most);
    const taken: T[] = [];
    while (taken.length < wanted && left.length > 0) {
      taken.push(...left.splice(this.dice.whole(0, left.length - 1), 1));
    }
    return taken;
  }

  /** A day of March. */
  day(from = 1, to = 31): string {
    return `2026-03-${String(this.dice.whole(from, to)).padStart(2, '0')}`;
  }

  /** Things of a kind that are in force, by id. @example things('payee') */
  things(kind: string): readonly string[] {
    return [...this.model.state.things.keys()].flatMap((key) =>
      key.startsWith(`${kind} `) ? [key.slice(kind.length + 1)] : [],
    );
  }

  banksHere(): readonly WalkedBank[] {
    const here = new Set(this.things('bank'));
    return this.banks.filter(({ id }) => here.has(id));
  }

  bankOf(id: string): WalkedBank {
    const bank = this.banks.find((each) => each.id === id);
    if (!bank) throw new Error(`no bank account ${id}`);
    return bank;
  }

  /** An account that money can be coded to, with whether it takes tax. */
  codable(): { readonly account: string; readonly isTaxed: boolean; readonly uses: string[] } {
    const made = this.things('account');
    const own = this.dice.chance(0.3) ? this.oneOf(made) : null;
    if (own !== null) return { account: own, isTaxed: true, uses: [`account ${own}`] };
    const code = this.dice.pick(['6010', '5000', '6090', '4010', '4020', '3020', '2400']);
    return { account: this.account(code), isTaxed: !/^[23]/.test(code), uses: [] };
  }

  /** A payee, or nobody. */
  payee(): string | null {
    return this.dice.chance(0.5) ? this.oneOf(this.things('payee')) : null;
  }

  /** Keeps in mind what bank accounts come to on a day when that is closed anew. */
  async seeClosed(): Promise<void> {
    const day = this.model.state.lock.get('lock') ?? null;
    if (day === (this.closed?.day ?? null)) return;
    this.wasClosed ||= day !== null;
    const books = new Map<string, number>();
    if (day !== null) {
      for (const { id } of this.banksHere()) books.set(id, (await this.mo.proof(id, day)).books);
    }
    this.closed = day === null ? null : { day, books };
  }

  post<T>(place: string, body: object): Promise<T> {
    return this.client.send<T>('POST', `${this.mo.path}${place}`, body);
  }

  /** The leg of an entry that the bank has not reported, as pairing names it. */
  async legOf(entryKey: string, bankId: string): Promise<string | null> {
    const { entries } = await this.client.get<Outstanding>(`${this.mo.path}/outstanding`);
    const own = entries.filter(({ bankAccountId }) => bankAccountId === bankId);
    for (const { entryId, legId } of own) {
      if (entryId === entryKey || this.realIds.get(entryKey) === entryId) return legId;
    }
    return null;
  }

  /** The ids of entries that decisions made, by the model's own names for them. */
  readonly realIds = new Map<string, string>();
}
