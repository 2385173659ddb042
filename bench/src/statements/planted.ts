import type { StatementFacts, StatementLine } from '@zubrell/core/closing/statementFacts';
import { addDays } from '@zubrell/core/dates/calendarDate';
import { groupBy } from '@zubrell/core/groupBy';
import type { DatedBalance } from '@zubrell/core/intake/balanceChain';
import { sumOf } from '@zubrell/core/money/minor';
import type { Dice } from '@zubrell/core/testing/dice';
import { stemOf } from '@zubrell/core/text/stemOf';
import { type Business, rowsOf } from '../accuracy/businesses.ts';

/** What can be planted. */
export const faultKinds = [
  'twice',
  'turned',
  'swapped',
  'missing',
  'keptOut',
  'overEdge',
  'set',
  'announced',
  'opening',
  'closing',
] as const;
export type FaultKind = (typeof faultKinds)[number];

/** A fault as it was planted: what has to be found. */
export interface Fault {
  readonly kind: FaultKind;
  /** The lines that a right explanation names, in any order; of copies either one will do. */
  readonly lineIds: readonly string[];
  /** What it changes of what lines add up to, to make it right. */
  readonly amount: number;
  /** Where a line is missing. */
  readonly date: string | null;
}

/** A statement with faults, and what they are. */
export interface Planted {
  readonly facts: StatementFacts;
  readonly faults: readonly Fault[];
}

/** A statement as the bank has it, and all around it. */
interface Scene {
  readonly throws: Dice;
  facts: StatementFacts;
  readonly touched: Set<string>;
}

/** The lines of a business's bank accounts, of those that have enough. */
export function accountsOf(business: Business, variant: number): Rows[] {
  const byAccount = groupBy(rowsOf(business, variant), (row) => row.bankAccount);
  return [...byAccount.values()].filter((rows) => rows.length >= 160);
}

/** Statements of bank accounts, each with the faults asked for, as far as they can be had there. */
export function* plantedIn(
  accounts: readonly Rows[],
  throws: Dice,
  kindsOf: (throws: Dice) => readonly FaultKind[],
  count: number,
): Generator<Planted> {
  if (accounts.length === 0) return;
  for (let made = 0, tries = 0; made < count && tries < count * 4; tries += 1) {
    const scene = sceneOf(throws, throws.pick(accounts));
    const faults = kindsOf(throws).map((kind) => PLANT[kind](scene));
    const found = faults.flatMap((fault) => fault ?? []);
    const { facts } = scene;
    const off = facts.closing - facts.opening - sumOf(facts.lines);
    const isWhole = found.length === faults.length && off !== 0;
    if (!isWhole || found.reduce((sum, { amount }) => sum + amount, 0) !== off) continue;
    made += 1;
    yield { facts, faults: found };
  }
}

type Rows = ReturnType<typeof rowsOf>;

function sceneOf(throws: Dice, rows: Rows): Scene {
  // Accounts that no feed or file is there for are typed, and those are small; in others a few lines are.
  const isTyped = throws.chance(0.3);
  const size = throws.whole(40, isTyped ? 90 : Math.min(400, Math.floor(rows.length / 2)));
  const first = throws.whole(Math.floor(rows.length * 0.3), rows.length - size - 12);
  const typedShare = isTyped ? 1 : throws.next() * 0.15;
  const all = rows.map(
    (row, at): StatementLine => ({
      id: `l${at}`,
      date: row.date,
      amount: row.amount,
      balance: null,
      wording: row.description,
      stem: stemOf({ description: row.description, payee: null, reference: row.reference }),
      isTyped: throws.chance(typedShare),
      isDoubted: false,
    }),
  );
  // Whole days only: an edge lies between two days.
  const from = rows[first]?.date ?? '';
  const to = addDays(rows[first + size - 1]?.date ?? '', throws.whole(0, 1));
  const isIn = ({ date }: { readonly date: string }) => date >= from && date <= to;
  const opening = throws.whole(-300_000, 3_000_000);
  let balance = opening;
  const running = all.filter(isIn).map((line) => {
    balance += line.amount;
    return { ...line, balance };
  });
  const states = throws.pick(['none', 'none', 'lines', 'days'] as const);
  const lines: readonly StatementLine[] =
    states === 'lines' && !isTyped ? running : running.map((line) => ({ ...line, balance: null }));
  const before = all.filter(({ date }) => date < from);
  // Some other lines are kept out rightly: copies of lines that count.
  const keptOut = Array.from({ length: throws.whole(0, 3) }, (_, at) => ({
    ...throws.pick(lines),
    id: `k${at}`,
    balance: null,
  }));
  return {
    throws,
    touched: new Set(),
    facts: {
      period: { from, to },
      opening,
      statedOpening: throws.chance(0.4) ? opening : null,
      closing: balance,
      isClosingTyped: throws.chance(0.5),
      lines,
      keptOut,
      before: before.filter(({ date }) => date >= addDays(from, -6)),
      after: all.filter(({ date }) => date > to && date <= addDays(to, 6)),
      announced: [],
      earlier: before.filter(({ date }) => date >= addDays(from, -200)),
      stated: states === 'days' ? statedDays(throws, running) : [],
    },
  };
}

function statedDays(throws: Dice, lines: readonly StatementLine[]): DatedBalance[] {
  const last = new Map(lines.map(({ date, balance }) => [date, balance ?? 0]));
  return [...last].flatMap(([date, amount]) => (throws.chance(0.8) ? [{ date, amount }] : []));
}

/** A line that nothing was done to yet. */
function untouched(scene: Scene, lines: readonly StatementLine[]): StatementLine | null {
  const free = lines.filter(({ id, amount }) => !scene.touched.has(id) && amount !== 0);
  if (free.length === 0) return null;
  const line = scene.throws.pick(free);
  scene.touched.add(line.id);
  return line;
}

function withLines(scene: Scene, lines: readonly StatementLine[]): void {
  const sorted = [...lines].sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0));
  scene.facts = { ...scene.facts, lines: sorted };
}

const without = (lines: readonly StatementLine[], ids: readonly string[]) =>
  lines.filter(({ id }) => !ids.includes(id));

const PLANT: Readonly<Record<FaultKind, (scene: Scene) => Fault | null>> = {
  twice: (scene) => {
    const { throws, facts } = scene;
    const line = untouched(scene, facts.lines);
    const date = addDays(line?.date ?? facts.period.to, throws.pick([0, 0, 1, 1, 2, 3]));
    if (!line || date > facts.period.to) return null;
    const wording = throws.pick([
      line.wording,
      line.wording.slice(0, Math.max(8, line.wording.length - 6)),
      line.wording.replace(/\d+/, (digits) => throws.digits(digits.length)),
    ]);
    const copy = { ...line, id: 'copy', date, wording, balance: null };
    withLines(scene, [
      ...facts.lines,
      { ...copy, stem: stemOf({ description: wording, payee: null, reference: null }) },
    ]);
    return { kind: 'twice', lineIds: [line.id, 'copy'], amount: -line.amount, date: null };
  },
  turned: (scene) => replaced(scene, 'turned', (amount) => -amount),
  swapped: (scene) => replaced(scene, 'swapped', (amount) => swappedDigits(scene.throws, amount)),
  missing: (scene) => {
    const { facts } = scene;
    const isStated = facts.stated.length > 0 || facts.lines.some(({ balance }) => balance !== null);
    if (!isStated) return null;
    const line = untouched(scene, facts.lines);
    if (!line) return null;
    withLines(scene, without(facts.lines, [line.id]));
    return { kind: 'missing', lineIds: [], amount: line.amount, date: line.date };
  },
  keptOut: (scene) => {
    const { facts } = scene;
    const line = untouched(scene, facts.lines);
    if (!line) return null;
    withLines(scene, without(facts.lines, [line.id]));
    scene.facts = { ...scene.facts, keptOut: [...facts.keptOut, { ...line, balance: null }] };
    return { kind: 'keptOut', lineIds: [line.id], amount: line.amount, date: null };
  },
  overEdge: (scene) => moved(scene, 1),
  set: (scene) => moved(scene, scene.throws.whole(2, 3)),
  announced: (scene) => {
    const { throws, facts } = scene;
    const line = untouched(scene, facts.lines);
    if (!line) return null;
    const date = addDays(line.date, -throws.whole(1, 4));
    const amount = Math.round(line.amount * (1 + (throws.next() - 0.5) * 0.4));
    if (date < facts.period.from || amount === line.amount || amount === 0) return null;
    withLines(scene, [...facts.lines, { ...line, id: 'announced', date, amount, balance: null }]);
    return { kind: 'announced', lineIds: ['announced'], amount: -amount, date: null };
  },
  opening: (scene) => {
    const { throws, facts } = scene;
    const by = throws.chance(0.5) ? throws.pick(facts.lines).amount : throws.whole(-50_000, 50_000);
    if (by === 0) return null;
    scene.facts = { ...facts, opening: facts.opening - by, statedOpening: facts.opening };
    return { kind: 'opening', lineIds: [], amount: by, date: null };
  },
  closing: (scene) => {
    const { throws, facts } = scene;
    const closing = throws.chance(0.25) ? -facts.closing : swappedDigits(throws, facts.closing);
    if (closing === null) return null;
    scene.facts = { ...facts, closing, isClosingTyped: true };
    return { kind: 'closing', lineIds: [], amount: closing - facts.closing, date: null };
  },
};

/** Puts another amount on a line. */
function replaced(
  scene: Scene,
  kind: FaultKind,
  change: (amount: number) => number | null,
): Fault | null {
  // Mostly it happens where somebody types; now and then a file is wrong.
  const typed = scene.facts.lines.filter(({ isTyped }) => isTyped);
  const line = untouched(scene, scene.throws.chance(0.85) ? typed : scene.facts.lines);
  const amount = line === null ? null : change(line.amount);
  if (line === null || amount === null) return null;
  const wrong = { ...line, amount, balance: null };
  withLines(scene, [...without(scene.facts.lines, [line.id]), wrong]);
  return { kind, lineIds: [line.id], amount: line.amount - amount, date: null };
}

function swappedDigits(throws: Dice, amount: number): number | null {
  const digits = String(Math.abs(amount));
  const places = [...digits].flatMap((digit, at) =>
    at + 1 < digits.length && digit !== digits[at + 1] && !(at === 0 && digits[1] === '0')
      ? [at]
      : [],
  );
  if (places.length === 0) return null;
  const at = throws.pick(places);
  const turned = `${digits.slice(0, at)}${digits[at + 1]}${digits[at]}${digits.slice(at + 2)}`;
  return Math.sign(amount) * Number(turned);
}

/** Lines that the bank has on the other side of an edge. */
function moved(scene: Scene, count: number): Fault | null {
  const { throws, facts } = scene;
  const kind = count === 1 ? 'overEdge' : 'set';
  const { from, to } = facts.period;
  const isOut = throws.chance(0.5);
  const isLate = throws.chance(0.6);
  const own = isLate
    ? facts.lines.filter(({ date }) => date >= addDays(to, -2))
    : facts.lines.filter(({ date }) => date <= addDays(from, 2));
  const others = isLate
    ? facts.after.filter(({ date }) => date <= addDays(to, 3))
    : facts.before.filter(({ date }) => date >= addDays(from, -3));
  const chosen: StatementLine[] = [];
  while (chosen.length < count) {
    const line = untouched(scene, isOut ? own : others);
    if (!line) return null;
    chosen.push(line);
  }
  // The bank's closing balance is without those that it has elsewhere, and with those that we have elsewhere.
  const sum = sumOf(chosen) * (isOut ? -1 : 1);
  const lines = facts.lines.map((line) => ({ ...line, balance: null }));
  scene.facts = { ...facts, closing: facts.closing + sum, stated: [], lines };
  return { kind, lineIds: chosen.map(({ id }) => id), amount: sum, date: null };
}
