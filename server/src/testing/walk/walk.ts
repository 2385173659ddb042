import type { LaneCounts, UndoDone } from '@zubrell/contract/desk';
import type { Documents } from '@zubrell/contract/documents';
import type { BatchLines, BatchSheet } from '@zubrell/contract/intake';
import type { BooksId } from '@zubrell/core/ids';
import { type Client, makeBooks, Problem } from '../client.ts';
import { Hole, type Model, type Turned } from './model.ts';
import * as lineMoves from './moves.ts';
import * as paperMoves from './paperMoves.ts';
import { reportsDisagree } from './reportsAgree.ts';
import * as thingMoves from './thingMoves.ts';
import { type Move, Walker } from './walker.ts';

/** What is done how often, against the others. */
const MOVES: readonly (readonly [weight: number, name: string, move: Move])[] = [
  [6, 'handLine', lineMoves.handLine],
  [5, 'file', lineMoves.file],
  [2, 'takeBack', lineMoves.takeBack],
  [2, 'keepApart', lineMoves.keepApart],
  [9, 'post', lineMoves.post],
  [3, 'transfer', lineMoves.transfer],
  [4, 'recode', lineMoves.recode],
  [5, 'reopen', lineMoves.reopen],
  [3, 'secondCopy', lineMoves.secondCopy],
  [2, 'bankError', lineMoves.bankError],
  [3, 'moveLine', lineMoves.moveLine],
  [2, 'ask', lineMoves.ask],
  [2, 'suspend', lineMoves.suspend],
  [4, 'payee', thingMoves.payee],
  [1, 'renamePayee', thingMoves.renamePayee],
  [2, 'account', thingMoves.account],
  [2, 'changeAccount', thingMoves.changeAccount],
  [2, 'bankAccount', thingMoves.bankAccount],
  [2, 'opening', thingMoves.opening],
  [1, 'costObject', thingMoves.costObject],
  [1, 'settings', thingMoves.settings],
  [1, 'lock', thingMoves.lock],
  [1, 'rule', thingMoves.rule],
  [1, 'merge', thingMoves.merge],
  [1, 'markHabit', thingMoves.markHabit],
  [1, 'dismissNudge', thingMoves.dismissNudge],
  [6, 'enter', paperMoves.enter],
  [2, 'voidEntry', paperMoves.voidEntry],
  [2, 'changeEntry', paperMoves.changeEntry],
  [6, 'document', paperMoves.document],
  [1, 'voidDocument', paperMoves.voidDocument],
  [2, 'changeDocument', paperMoves.changeDocument],
  [3, 'offset', paperMoves.offset],
  [6, 'pairEntry', paperMoves.pairEntry],
  [7, 'pairDocument', paperMoves.pairDocument],
  [2, 'advance', paperMoves.advance],
  [3, 'returned', paperMoves.returned],
  [2, 'correct', paperMoves.correct],
];
const UNDO_SHARE = 0.16;
/** The books are compared with the model after so many moves. */
const CHECK_EVERY = 25;
/** So many moves may come to nothing one after the other. */
const MOST_IDLE = 200;

/** What came of a walk. */
export interface Walked {
  readonly seed: number;
  readonly done: ReadonlyMap<string, number>;
  readonly refused: ReadonlyMap<string, number>;
}

/** Books are not what they should be. */
class Wrong extends Error {}

/**
 * Does random things to books of its own over the API, one after the other, and compares the books every so often
 * with a model that knows only what was done. At the end it undoes all, and redoes all.
 *
 * @param holds fails where something else does not hold that has to; asked every so often and at the end
 * @throws {Error} where books and model differ, where anything answers as it should not, or where undo sticks; it
 * tells the seed and the last moves
 */
export async function walk(
  client: Client,
  seed: number,
  moves: number,
  holds: (booksId: BooksId) => Promise<void> = async () => undefined,
): Promise<Walked> {
  const books = await makeBooks(client);
  const walker = new Walker(seed, client, books, await books.setup());
  const log: string[] = [];
  const done = new Map<string, number>();
  const refused = new Map<string, number>();
  const tally = (counts: Map<string, number>, key: string) =>
    counts.set(key, (counts.get(key) ?? 0) + 1);
  try {
    await begin(walker);
    const start = await snapshot(walker);
    for (let count = 0, idle = 0; count < moves; ) {
      const name = await oneMove(walker, log, (code) => tally(refused, code));
      if (name === null) {
        idle += 1;
        if (idle > MOST_IDLE) throw new Wrong('nothing is left to do');
        continue;
      }
      idle = 0;
      count += 1;
      tally(done, name);
      if (count % CHECK_EVERY > 0) continue;
      await compare(walker);
      await holds(books.id);
      const filed = await thingMoves.taxReturn(walker);
      if (filed?.step) walker.model.add(filed.step, filed.words, filed.patches);
    }
    await compare(walker);
    await undoAndRedoAll(walker, log, start);
    await holds(books.id);
  } catch (error) {
    const told = error instanceof Error ? (error.stack ?? error.message) : String(error);
    throw new Error(`walk ${seed}: ${told}\nafter\n${log.slice(-60).join('\n')}`, {
      cause: error,
    });
  }
  return { seed, done, refused };
}

/** What was done before the walk: the bank account that books are made with. */
async function begin(walker: Walker): Promise<void> {
  const { mo, model, banks } = walker;
  for (const { no, words } of (await mo.steps()).reverse()) {
    const isBank = words.includes('Everyday');
    const key = `bank ${banks[0]?.id}`;
    model.add(no, words, isBank ? [{ in: 'things', key, value: 'Everyday' }] : []);
    walker.firstSteps = no;
  }
}

/** Does one thing. @returns what, or null where there was nothing to do it to, or it was refused */
async function oneMove(
  walker: Walker,
  log: string[],
  onRefused: (code: string) => void,
): Promise<string | null> {
  const { dice } = walker;
  const [name, move] = dice.chance(UNDO_SHARE) ? (['turn', turn] as const) : weighted(dice.next());
  try {
    const moved = await move(walker);
    if (moved === null) return null;
    log.push(`${name}: ${moved.step ?? 'nothing'} ${moved.words}`);
    if (moved.step === null) return null;
    if (name !== 'turn') walker.model.add(moved.step, moved.words, moved.patches);
    await walker.seeClosed();
    return name;
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    checkProblem(error);
    log.push(`${name}: refused, ${error.message}`);
    onRefused(error.details.code);
    return null;
  }
}

function weighted(share: number): readonly [string, Move] {
  const total = MOVES.reduce((sum, [weight]) => sum + weight, 0);
  let left = share * total;
  for (const [weight, name, move] of MOVES) {
    left -= weight;
    if (left < 0) return [name, move];
  }
  throw new Wrong('no move');
}

/** A refusal says what is wrong: never that something broke, and never without the steps it speaks of. */
function checkProblem({ details, message }: Problem): void {
  const { code, status, params } = details;
  if (status >= 500 || code === 'REQUEST_INVALID' || code === 'NOT_FOUND') throw new Wrong(message);
  if (/^STEP_(TOUCHED|RESTS|MIXED|HELD)$/.test(code) && !params?.steps) {
    throw new Wrong(`${message} names no steps`);
  }
  if (code === 'STEP_HELD') throw new Wrong(`stuck: ${message}`);
}

/** Undoes or redoes something, alone or with what it takes along. */
const turn: Move = async (walker) => {
  const { dice, mo, model } = walker;
  const kind = dice.pick(['undo', 'undo', 'undoAny', 'undoAny', 'redo', 'redoAny']);
  const isUndo = kind.startsWith('undo');
  const any = kind.endsWith('Any')
    ? walker.oneOf(model.steps.filter(({ isInForce }) => isInForce === isUndo))
    : null;
  if (kind.endsWith('Any') && any === null) return null;
  const withOthers = any !== null && dice.chance(0.7);
  const done = await (isUndo ? mo.undo : mo.redo)(any?.no ?? null, withOthers);
  checkReasons(model, done, any?.no);
  model.turn(done.turned);
  return { ...done, patches: [] };
};

/** Whatever went along has to do with what was wanted, directly or through others. */
function checkReasons(model: Model, { turned: all }: UndoDone, no: number | undefined): void {
  const turned = all.flatMap((each) => model.steps.find((step) => step.no === each.no) ?? []);
  const wanted = turned.find((step) => step.no === no) ?? turned.at(-1);
  if (wanted === undefined) throw new Hole('nothing was turned');
  const reached = new Set([wanted]);
  for (let size = 0; size < reached.size; ) {
    size = reached.size;
    for (const step of turned) {
      if ([...reached].some((each) => model.areBound(each, step))) reached.add(step);
    }
  }
  const others = turned.filter((step) => !reached.has(step));
  if (others.length > 0) {
    const words = others.map(({ no, words: own }) => `${no} ${own}`).join('; ');
    throw new Hole(
      `${wanted.no} ${wanted.words} took along what it has nothing to do with: ${words}`,
    );
  }
}

/** All that the books say of money. */
interface Snapshot {
  readonly balances: Readonly<Record<string, number>>;
  readonly papers: readonly string[];
  readonly proofs: readonly string[];
  readonly openLines: number;
  readonly decidedLines: number;
}

const TERMS = ['bank', 'open', 'keptOut', 'books', 'outstanding', 'unexplained'] as const;
const LAST_DAY = '2026-04-30';

async function snapshot(walker: Walker, days: readonly string[] = [LAST_DAY]): Promise<Snapshot> {
  const { client, mo } = walker;
  const papers: string[] = [];
  for (const side of ['payables', 'receivables']) {
    const { documents } = await client.get<Documents>(`${mo.path}/documents?side=${side}`);
    for (const { id, amount, open, isVoid } of documents) {
      if (!isVoid) papers.push(`${id} ${amount} ${open}`);
    }
  }
  const proofs: string[] = [];
  for (const { id } of walker.banksHere()) {
    for (const day of days) {
      const proof = await mo.proof(id, day);
      proofs.push(`${id} ${day} ${TERMS.map((term) => `${term} ${proof[term]}`).join(', ')}`);
    }
  }
  const lanes = await client.get<LaneCounts>(`${mo.path}/lanes`);
  return {
    balances: await mo.balances(),
    papers: papers.sort(),
    proofs,
    openLines: lanes.ready + lanes.check + lanes.blank + lanes.asked,
    decidedLines: lanes.posted + lanes.paired + lanes.excluded + lanes.deleted,
  };
}

/** Compares the books with the model, on the last day and on any other. */
async function compare(walker: Walker): Promise<void> {
  const { model } = walker;
  // What came late counts on the first open day: what a day in between comes to depends on when it was closed.
  const days = walker.wasClosed ? [LAST_DAY] : [walker.day(), LAST_DAY];
  const real = await snapshot(walker, days);
  const balances = Object.fromEntries([...model.balances()].filter(([, amount]) => amount !== 0));
  differ('balances', real.balances, balances);
  const papers = model
    .papers()
    .map((paper) => `${paper.id} ${paper.amount} ${model.openOf(paper)}`);
  differ('documents', real.papers, papers.sort());
  const proofs = walker.banksHere().flatMap(({ id, account }) =>
    days.map((day) => {
      const proof = model.proof(id, account, day);
      const unexplained = model.unexplained(id, account, day);
      if (proof.unexplained !== unexplained) {
        throw new Wrong(`the model leaves ${proof.unexplained} unexplained, not ${unexplained}`);
      }
      return `${id} ${day} ${TERMS.map((term) => `${term} ${proof[term]}`).join(', ')}`;
    }),
  );
  differ('proofs', real.proofs, proofs);
  const here = [...model.lines.keys()].filter((id) => model.isHere(id));
  differ('open lines', real.openLines, model.openLines().length);
  differ('decided lines', real.decidedLines, here.length - model.openLines().length);
  differ('reports that do not agree', await reportsDisagree(walker, LAST_DAY), []);
  await openBatch(walker);
  await compareClosed(walker);
}

function differ(what: string, real: unknown, wanted: unknown): void {
  const [left, right] = [real, wanted].map((each) => JSON.stringify(sorted(each), null, 1));
  if (left !== right) throw new Wrong(`${what} are\n${left}\nand should be\n${right}`);
}

/** The same with the keys of all its objects in one order. */
function sorted(value: unknown): unknown {
  if (value === null || typeof value !== 'object' || Array.isArray(value)) return value;
  const entries = Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1));
  return Object.fromEntries(entries.map(([key, each]) => [key, sorted(each)]));
}

/** A batch can be opened whatever became of its lines. */
async function openBatch(walker: Walker): Promise<void> {
  const { client, mo, model } = walker;
  const batchId = walker.oneOf([...model.state.batches.keys()]);
  if (batchId === null) return;
  await client.get<BatchSheet>(`${mo.path}/batches/${batchId}`);
  await client.get<BatchLines>(`${mo.path}/batches/${batchId}/lines`);
}

/** What is closed stays as it is, from when it was closed on. */
async function compareClosed(walker: Walker): Promise<void> {
  const { closed, mo } = walker;
  for (const [id, amount] of closed?.books ?? []) {
    if (!walker.things('bank').includes(id)) continue;
    const { books } = await mo.proof(id, closed?.day);
    differ(`what ${id} came to on the closed ${closed?.day}`, books, amount);
  }
}

/** Undoes all that was done, back to where the walk began, and redoes all: each turn the other way, the last first. */
async function undoAndRedoAll(walker: Walker, log: string[], start: Snapshot): Promise<void> {
  const { model } = walker;
  const end = await snapshot(walker);
  const inForce = () => model.steps.filter((step) => step.isInForce).map(({ no }) => no);
  const all = inForce();
  const turns: Turned[] = [];
  while (inForce().some((no) => no > walker.firstSteps)) {
    turns.push(...(await undoLatest(walker, log)));
  }
  // The first bank account may have gone with what came after it.
  const here = walker.banksHere().map(({ id }) => id);
  const proofs = start.proofs.filter((proof) => here.some((id) => proof.startsWith(id)));
  differ('the books after all was undone', await snapshot(walker), { ...start, proofs });
  // As long as nothing else comes back on the way, the latest that was undone is always the next.
  let isPlain = true;
  for (const { no, isUndone } of turns.reverse()) {
    const number = isPlain && isUndone ? null : no;
    const [done, ...others] = await turnOne(walker, log, isUndone ? 'redo' : 'undo', number);
    if (done?.no !== no || others.length > 0) throw new Wrong(`${done?.no} was turned, not ${no}`);
    isPlain &&= isUndone;
  }
  differ('the steps in force after all was redone', inForce(), all);
  differ('the books after all was redone', await snapshot(walker), end);
}

/** Turns one step, alone. */
async function turnOne(
  { mo, model }: Walker,
  log: string[],
  direction: 'undo' | 'redo',
  no: number | null,
): Promise<readonly Turned[]> {
  const { words, turned } = await mo[direction](no);
  log.push(`${direction}: ${words}`);
  model.turn(turned);
  return turned;
}

/**
 * Undoes the latest step, with those that go along where some have to. Where that is in a closed period, what closed
 * it is undone first.
 */
async function undoLatest({ mo, model }: Walker, log: string[]): Promise<readonly Turned[]> {
  const done = await mo.undo().catch((error: unknown) => {
    if (!(error instanceof Problem)) throw error;
    checkProblem(error);
    const { code, params } = error.details;
    const closing = model.steps.findLast(
      ({ isInForce, patches }) => isInForce && patches.some((patch) => patch.in === 'lock'),
    );
    const step = code === 'PERIOD_CLOSED' ? closing?.no : params?.step;
    if (typeof step !== 'number') throw error;
    return mo.undo(step, true);
  });
  log.push(`undo: ${done.words}`);
  model.turn(done.turned);
  return done.turned;
}
