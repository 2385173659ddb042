import type { LineId } from '@zubrell/core/ids';
/*
 * What books should say, worked out from what was done to them and from nothing that the program itself works out:
 * each step is what it put and took away, and the books at any time are the steps in force, one after the other.
 */

/** A leg of an entry; debit is positive. */
export interface Leg {
  readonly account: string;
  readonly amount: number;
}

/** Money that was booked. */
export interface Entry {
  readonly key: string;
  readonly date: string;
  readonly legs: readonly Leg[];
  /**
   * Whether a leg on a bank account may wait for its line: `always`, as what was entered by hand; where its other
   * `half` is a line; or `never`.
   */
  readonly waits: 'always' | 'half' | 'never';
  /** Things that have to be there for it. */
  readonly uses: readonly string[];
}

/** A line of the bank. */
export interface Line {
  readonly id: string;
  readonly bank: string;
  readonly date: string;
  readonly amount: number;
  readonly text: string;
}

/** A bill, invoice, credit note, or credit that was left. */
export interface Paper {
  readonly id: string;
  readonly kind: 'bill' | 'invoice' | 'creditNote' | 'credit';
  readonly side: 'payables' | 'receivables';
  readonly payee: string;
  readonly number: string;
  readonly date: string;
  /** What a line would have to come to that settles it. */
  readonly amount: number;
  /** The entry that books it; null for credit, which its payment books. */
  readonly entry: Entry | null;
}

/** Something decided about lines, or documents settled without any. */
export interface Decision {
  readonly key: string;
  readonly kind: 'posted' | 'paired' | 'excluded';
  /** Whether its lines weigh in the balance all the same. */
  readonly weighs: boolean;
  readonly lines: readonly string[];
  /** The legs that it ties, by entry and account. */
  readonly ties: readonly { readonly entry: string; readonly account: string }[];
  readonly settles: readonly { readonly paper: string; readonly amount: number }[];
  readonly credit: Paper | null;
  /** What has to be there for it: `line …`, `copy …`, `decision …`, `entry …`, or a thing. */
  readonly rests: readonly string[];
}

/** Books at one time. */
export interface State {
  readonly own: Map<string, true>;
  readonly batches: Map<string, readonly string[]>;
  readonly decisions: Map<string, Decision>;
  readonly entries: Map<string, Entry>;
  readonly papers: Map<string, Paper>;
  readonly things: Map<string, string>;
  readonly lock: Map<'lock', string>;
}

type Change<M extends keyof State> = {
  readonly in: M;
  readonly key: string;
  /** Undefined where it is taken away. */
  readonly value: (State[M] extends Map<string, infer V> ? V : string) | undefined;
};
/** One thing that a step puts or takes away. */
export type Patch = { [M in keyof State]: Change<M> }[keyof State];

/** A step that was done. */
export interface Step {
  readonly no: number;
  readonly words: string;
  readonly patches: readonly Patch[];
  isInForce: boolean;
}

/** That a step was undone, or redone. */
export interface Turned {
  readonly no: number;
  readonly isUndone: boolean;
}

/** Something that can't be, unless a step was taken back without what rests on it. */
export class Hole extends Error {}

function emptyState(): State {
  return {
    own: new Map(),
    batches: new Map(),
    decisions: new Map(),
    entries: new Map(),
    papers: new Map(),
    things: new Map(),
    lock: new Map(),
  };
}

/** The books by what was done to them. */
export class Model {
  readonly steps: Step[] = [];
  /** All lines and entries that ever were, in force or not. */
  readonly lines = new Map<string, Line>();
  readonly made = new Map<string, Entry>();
  state = emptyState();

  add(no: number, words: string, patches: readonly Patch[]): void {
    for (const patch of patches) apply(this.state, patch);
    this.steps.push({ no, words, patches, isInForce: true });
    this.check();
  }

  /** Takes steps back and brings others back. @throws {Hole} where what is in force can't stand so */
  turn(turned: readonly Turned[]): void {
    for (const { no, isUndone } of turned) {
      const step = this.steps.find((each) => each.no === no);
      if (!step) throw new Hole(`step ${no} was turned, which nobody did`);
      if (step.isInForce !== isUndone) throw new Hole(`step ${no} was turned twice`);
      step.isInForce = !isUndone;
    }
    this.state = emptyState();
    for (const step of this.steps) {
      if (!step.isInForce) continue;
      try {
        for (const patch of step.patches) apply(this.state, patch);
      } catch (error) {
        if (error instanceof Hole) error.message += `, in step ${step.no}: ${step.words}`;
        throw error;
      }
    }
    this.check();
  }

  /** Whether two steps have to do with each other: both touched the same, or one uses what the other touched. */
  areBound(one: Step, other: Step): boolean {
    const [left, right] = [this.reachOf(one), this.reachOf(other)];
    const meets = (a: ReadonlySet<string>, b: ReadonlySet<string>) =>
      [...a].some((key) => b.has(key));
    return (
      meets(left.touched, right.touched) ||
      meets(left.touched, right.used) ||
      meets(left.used, right.touched)
    );
  }

  /** What a step touched, and what it uses. */
  private reachOf({ patches }: Step) {
    const touched = new Set<string>();
    const used = new Set<string>();
    for (const { in: place, key, value } of patches) {
      touched.add(place === 'own' ? `line ${key}` : `${place} ${key}`);
      if (place === 'things' && key.startsWith('asked ')) touched.add(`line ${key.slice(6)}`);
      if (place === 'things' && key.startsWith('apart ')) used.add(value ?? '');
      if (place === 'things' && key.startsWith('rule ')) {
        for (const account of value?.split(', ') ?? []) used.add(`things ${account}`);
      }
    }
    // What takes something away has to do with all that it was.
    for (const { in: place, key, value } of this.steps.flatMap((step) => step.patches)) {
      if (!touched.has(`${place} ${key}`)) continue;
      for (const name of namesIn(key, value)) touched.add(name);
      const named = namedBy(value);
      for (const each of named.touched) touched.add(each);
      for (const each of named.used) used.add(each);
    }
    for (const key of [...touched]) {
      const line = key.startsWith('line ') ? this.lines.get(key.slice(5)) : undefined;
      if (line) used.add(`things bank ${line.bank}`);
    }
    return { touched, used };
  }

  isHere(lineId: LineId): boolean {
    const { own, batches } = this.state;
    return own.has(lineId) || [...batches.values()].some((ids) => ids.includes(lineId));
  }

  decisionOf(lineId: LineId): Decision | null {
    return [...this.state.decisions.values()].find(({ lines }) => lines.includes(lineId)) ?? null;
  }

  openLines(): readonly Line[] {
    return [...this.lines.values()].filter(
      ({ id }) => this.isHere(id) && this.decisionOf(id) === null,
    );
  }

  /** Documents and credit that are in force. */
  papers(): readonly Paper[] {
    const { papers, decisions } = this.state;
    return [...papers.values(), ...[...decisions.values()].flatMap(({ credit }) => credit ?? [])];
  }

  openOf({ id, amount }: Paper): number {
    return amount - sum(this.settled(id));
  }

  /** What decisions in force settle of a document. */
  private settled(paperId: string): readonly number[] {
    return [...this.state.decisions.values()].flatMap(({ settles }) =>
      settles.filter(({ paper }) => paper === paperId).map(({ amount }) => amount),
    );
  }

  /** Entries in force: those by hand, those of documents, and those that decisions in force tie. */
  entries(): readonly Entry[] {
    const { entries, decisions } = this.state;
    const tied = new Set(
      [...decisions.values()].flatMap(({ ties }) => ties.map(({ entry }) => entry)),
    );
    return [
      ...entries.values(),
      ...[...this.made.values()].filter(({ key }) => tied.has(key)),
      ...this.papers().flatMap(({ entry }) => entry ?? []),
    ];
  }

  balances(): ReadonlyMap<string, number> {
    const balances = new Map<string, number>();
    for (const { legs } of this.entries()) {
      for (const { account, amount } of legs) {
        balances.set(account, (balances.get(account) ?? 0) + amount);
      }
    }
    return balances;
  }

  /** The decision that ties a leg. */
  tieOf(entry: string, account: string): Decision | null {
    const isTie = (tie: { entry: string; account: string }) =>
      tie.entry === entry && tie.account === account;
    return [...this.state.decisions.values()].find(({ ties }) => ties.some(isTie)) ?? null;
  }

  /** What of a bank account's legs no line is tied to yet and may wait for one. */
  waiting(account: string): readonly { readonly entry: Entry; readonly amount: number }[] {
    return this.entries().flatMap((entry) => {
      const leg = entry.legs.find((each) => each.account === account);
      if (!leg || entry.waits === 'never' || this.tieOf(entry.key, account)) return [];
      const isHalf = entry.legs.some(
        (each) => each.account !== account && this.tieOf(entry.key, each.account) !== null,
      );
      return entry.waits === 'always' || isHalf ? [{ entry, amount: leg.amount }] : [];
    });
  }

  /** The proof of a bank account on a day, term by term. */
  proof(bank: string, account: string, day: string): Readonly<Record<string, number>> {
    const opening = [...this.state.entries.values()].find(({ key }) => key === `opening ${bank}`);
    const since = opening?.date ?? '0000-00-00';
    const lines = [...this.lines.values()].filter(
      ({ id, bank: own, date }) => own === bank && date <= day && date > since && this.isHere(id),
    );
    const decided = new Map(lines.map(({ id }) => [id, this.decisionOf(id)]));
    const sumWhere = (of: (decision: Decision | null) => boolean) =>
      sum(lines.filter(({ id }) => of(decided.get(id) ?? null)).map(({ amount }) => amount));
    const start = sum(legsOn(opening, account));
    const calculated =
      start + sumWhere((decision) => decision?.kind !== 'excluded' || decision.weighs);
    const open = sumWhere((decision) => decision === null);
    const keptOut = sumWhere((decision) => decision?.kind === 'excluded' && decision.weighs);
    const upTo = this.entries().filter(({ date }) => date <= day);
    const books = sum(upTo.flatMap((entry) => legsOn(entry, account)));
    const waits = this.waiting(account).filter(({ entry }) => entry.date <= day);
    const outstanding = sum(waits.map(({ amount }) => amount)) + this.across(account, lines, upTo);
    const unexplained = calculated - open - keptOut + outstanding - books;
    return { bank: calculated, open, keptOut, books, outstanding, unexplained };
  }

  /** What journals put on a bank account that no line is awaited for: just that is unexplained. */
  unexplained(bank: string, account: string, day: string): number {
    const own = this.entries().filter(
      ({ key, waits, date }) => waits === 'never' && date <= day && key !== `opening ${bank}`,
    );
    const untied = own.filter(({ key }) => this.tieOf(key, account) === null);
    return 0 - sum(untied.flatMap((entry) => legsOn(entry, account)));
  }

  /** Pairings over the day: what is booked of them by the day, less their lines by the day. */
  private across(account: string, lines: readonly Line[], upTo: readonly Entry[]): number {
    const byDay = new Set(lines.map(({ id }) => id));
    const dated = new Set(upTo.map(({ key }) => key));
    return sum(
      [...this.state.decisions.values()].map(({ lines: ids, ties, kind }) => {
        if (kind === 'excluded') return 0;
        const own = ids.filter((id) => byDay.has(id)).map((id) => this.lines.get(id)?.amount ?? 0);
        const booked = ties
          .filter((tie) => tie.account === account && dated.has(tie.entry))
          .flatMap(({ entry }) => legsOn(this.entryBy(entry), account));
        return sum(booked) - sum(own);
      }),
    );
  }

  entryBy(key: string): Entry | undefined {
    return this.state.entries.get(key) ?? this.made.get(key);
  }

  /** What holds in books whatever was done to them. @throws {Hole} */
  private check(): void {
    const { decisions, papers, things, entries } = this.state;
    const decided = new Set<string>();
    const tied = new Set<string>();
    const hole = (words: string) => {
      throw new Hole(words);
    };
    const isThere = (what: string): boolean => {
      const [place, id = ''] = what.split(/ (.*)/s);
      if (place === 'line') return this.isHere(id);
      if (place === 'copy') return this.state.own.has(id);
      if (place === 'decision') return decisions.has(id);
      if (place === 'entry') return entries.has(id) || this.made.has(id);
      if (place === 'paper') return this.papers().some((paper) => paper.id === id);
      return things.has(what);
    };
    for (const { key, lines, ties, settles, rests } of decisions.values()) {
      for (const id of lines) {
        if (!this.isHere(id)) hole(`${key} decides line ${id}, which is gone`);
        if (decided.has(id)) hole(`line ${id} is decided twice`);
        decided.add(id);
      }
      for (const { entry, account } of ties) {
        if (tied.has(`${entry} ${account}`)) hole(`a leg of ${entry} is tied twice`);
        tied.add(`${entry} ${account}`);
      }
      const needed = [...rests, ...settles.map(({ paper }) => `paper ${paper}`)];
      for (const what of needed) if (!isThere(what)) hole(`${key} rests on ${what}, which is gone`);
    }
    for (const paper of this.papers()) {
      const settled = sum(this.settled(paper.id));
      const isWithin =
        settled === 0 ||
        (Math.sign(settled) === Math.sign(paper.amount) &&
          Math.abs(settled) <= Math.abs(paper.amount));
      if (!isWithin) hole(`${paper.kind} ${paper.number} is settled by ${settled}`);
    }
    const inForce = [
      ...entries.values(),
      ...[...papers.values()].flatMap(({ entry }) => entry ?? []),
    ];
    for (const { key, uses, legs } of inForce) {
      for (const what of uses) if (!isThere(what)) hole(`${key} uses ${what}, which is gone`);
      if (sum(legs.map(({ amount }) => amount)) !== 0) hole(`${key} does not balance`);
    }
  }
}

function apply(state: State, { in: place, key, value }: Patch): void {
  const map = state[place] as Map<string, unknown>;
  if (value !== undefined) map.set(key, value);
  else if (!map.delete(key) && place !== 'lock') throw new Hole(`${place} ${key} is not there`);
}

/** The name or code that a thing takes: nothing else can have it. */
function namesIn(key: string, value: Patch['value']): readonly string[] {
  if (typeof value !== 'string') return [];
  if (key.startsWith('payee ')) return [`name ${value.toUpperCase()}`];
  return key.startsWith('account ') ? [`code ${value.slice(0, 4)}`] : [];
}

/** Everything that a value names: what is changed by it, and what it only uses. */
function namedBy(value: unknown): { touched: readonly string[]; used: readonly string[] } {
  if (value === null || typeof value !== 'object') return { touched: [], used: [] };
  if (Array.isArray(value)) return { touched: value.map((id) => `line ${id}`), used: [] };
  const {
    lines = [],
    ties = [],
    settles = [],
    rests = [],
    uses = [],
    entry,
    credit,
  } = value as Partial<Decision> & Partial<Entry> & { entry?: Entry | null };
  return {
    touched: [
      ...lines.map((id) => `line ${id}`),
      ...ties.map((tie) => `entries ${tie.entry}`),
      ...settles.map(({ paper }) => `papers ${paper}`),
      ...(credit ? [`papers ${credit.id}`] : []),
    ],
    used: [...rests, ...uses, ...(entry?.uses ?? [])].map(placeOf),
  };
}

/** What something rests on, by the place where that stands. */
function placeOf(what: string): string {
  const [place, id] = what.split(/ (.*)/s);
  if (place === 'line' || place === 'copy') return `line ${id}`;
  if (place === 'decision') return `decisions ${id}`;
  if (place === 'entry') return `entries ${id}`;
  return `things ${what}`;
}

const legsOn = (entry: Entry | undefined, account: string): readonly number[] =>
  (entry?.legs ?? []).filter((leg) => leg.account === account).map(({ amount }) => amount);

export const sum = (amounts: readonly number[]): number =>
  amounts.reduce((total, amount) => total + amount, 0);
