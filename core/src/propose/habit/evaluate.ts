import type { AccountId, PayeeId, TaxCodeId } from '../../ids.ts';
import { stemOf } from '../../text/stemOf.ts';
import type { Elsewhere, OtherBooksSay } from '../elsewhere/elsewhere.ts';
import { isWeak, proposeFromElsewhere } from '../elsewhere/proposeFromElsewhere.ts';
import { laneOf } from '../proposal.ts';
import { groundWords } from '../words.ts';
import { type HabitLine, textOf, wordingFeatures } from './features.ts';
import { labelOf, makeMemory } from './memory.ts';
import { type Prediction, predict } from './predict.ts';
import { type HabitProposal, proposeFromHabit } from './proposeFromHabit.ts';
import { type Outcome, oddsOf, ownShift, type Trees } from './sureness.ts';

/** A line of the past, as it was coded. */
export interface PastLine extends HabitLine {
  /** Null where it was not coded: then it is predicted, but neither learned from nor counted. */
  readonly accountId: AccountId | null;
  readonly payeeId: PayeeId | null;
  readonly taxCodeId: TaxCodeId | null;
  /** Whether it counts in the figures. */
  readonly isCounted: boolean;
}

/** What would have been proposed for a line of the past. */
export interface PastProposal {
  readonly lane: 'ready' | 'check' | 'blank';
  readonly accountId: AccountId | null;
  readonly payeeId: PayeeId | null;
  readonly taxCodeId: TaxCodeId | null;
  /** How likely the account is right; null without one. */
  readonly p: number | null;
  readonly top3: readonly string[];
  readonly grounds: string;
}

/** A tenth of what was proposed, by how sure it was. */
export interface CalibrationTenth {
  readonly from: number;
  readonly to: number;
  readonly lines: number;
  readonly meanP: number;
  readonly right: number;
}

/** How a month, or several, would have been proposed for. */
export interface Figures {
  readonly lines: number;
  readonly ready: number;
  readonly readyRight: number;
  readonly top1Right: number;
  readonly top3Right: number;
  readonly calibration: readonly CalibrationTenth[];
}

export interface Evaluation {
  readonly months: readonly ({ readonly month: string } & Figures)[];
  /** The months from the fourth on, pooled. */
  readonly from4: Figures;
}

/** What lines of the past are proposed by. */
export interface ReplayWith {
  /** What sureness is read from; the shipped trees where left out. */
  readonly trees?: Trees | undefined;
  /** What other books did, where they are asked. */
  readonly elsewhere?: Elsewhere | undefined;
}

/**
 * What would have been proposed for each line of the past by habit alone, month by month: every line of a
 * month is predicted by what the months before it were coded to, or by what other books did with its payee.
 *
 * @param lines in any order; answered in the same
 */
export function replay(
  lines: readonly PastLine[],
  { trees, elsewhere }: ReplayWith = {},
): PastProposal[] {
  const memory = makeMemory();
  const record: Outcome[] = [];
  const proposals = new Array<PastProposal>(lines.length);
  for (const month of byMonth(lines)) {
    const shift = ownShift(record);
    const learned: (() => void)[] = [];
    for (const { line, at } of month) {
      const features = wordingFeatures(textOf(line));
      const found = predict(memory, line, features);
      const [first] = found?.accounts ?? [];
      const habit = proposeFromHabit(found, { shift, isAccountOn: () => true, trees });
      const there = isWeak(habit, found) ? elsewhere?.(line.amount < 0, features) : null;
      proposals[at] = there ? byOtherBooks(there) : byHabit(found, habit);
      const { accountId, payeeId, taxCodeId } = line;
      if (accountId === null) continue;
      const label = labelOf(payeeId, stemOf(line));
      const coded = { accountId, payeeId, taxCodeId };
      const decided = { id: String(at), label, position: at, ...coded, weight: 1 };
      learned.push(() => {
        memory.add(decided, line, features);
        if (found && first) {
          const isRight = first.accountId === accountId;
          record.push({ odds: oddsOf(found.signs, trees), isRight });
        }
      });
    }
    for (const learn of learned) learn();
  }
  return proposals;
}

function byHabit(found: Prediction | null, habit: HabitProposal | null): PastProposal {
  const [first] = found?.accounts ?? [];
  if (!found || !habit || !first) return NOTHING;
  const { proposal, sureness } = habit;
  return {
    lane: laneOf(proposal) === 'ready' ? 'ready' : 'check',
    accountId: first.accountId,
    payeeId: proposal.coding.payeeId,
    taxCodeId: proposal.coding.parts[0]?.taxCodeId ?? null,
    p: sureness,
    top3: found.accounts.slice(0, 3).map(({ accountId }) => accountId),
    grounds: proposal.grounds.map((each) => groundWords(each, (id) => id)).join(' '),
  };
}

function byOtherBooks(said: OtherBooksSay): PastProposal {
  const { coding, grounds } = proposeFromElsewhere(said);
  return {
    ...NOTHING,
    lane: 'check',
    accountId: said.accountId,
    taxCodeId: coding.parts[0]?.taxCodeId ?? null,
    top3: [said.accountId],
    grounds: grounds.map((each) => groundWords(each, (id) => id)).join(' '),
  };
}

/** What is proposed where no look-alike has been decided. */
const NOTHING: PastProposal = {
  lane: 'blank',
  accountId: null,
  payeeId: null,
  taxCodeId: null,
  p: null,
  top3: [],
  grounds: 'no look-alike has been decided',
};

/** Lines with their places, month by month. */
function byMonth(
  lines: readonly PastLine[],
): readonly (readonly { readonly line: PastLine; readonly at: number }[])[] {
  const months = new Map<string, { line: PastLine; at: number }[]>();
  const inOrder = lines
    .map((line, at) => ({ line, at }))
    .sort((a, b) => (a.line.date < b.line.date ? -1 : a.line.date > b.line.date ? 1 : a.at - b.at));
  for (const each of inOrder) {
    const month = each.line.date.slice(0, 7);
    const there = months.get(month);
    if (there) there.push(each);
    else months.set(month, [each]);
  }
  return [...months.values()];
}

/** How well lines of the past would have been proposed for, month by month and from the fourth on. */
export function evaluate(lines: readonly PastLine[], by: ReplayWith = {}): Evaluation {
  const proposals = replay(lines, by);
  const months = byMonth(lines).map((month) => ({
    month: month[0]?.line.date.slice(0, 7) ?? '',
    places: month.map(({ at }) => at),
  }));
  const of = (places: readonly number[]) =>
    figuresOf(
      places.flatMap((at) => {
        const [line, proposal] = [lines[at], proposals[at]];
        const counts = line?.isCounted && line.accountId !== null && proposal;
        return counts ? { truth: line.accountId ?? '', proposal } : [];
      }),
    );
  return {
    months: months.map(({ month, places }) => ({ month, ...of(places) })),
    from4: of(months.slice(3).flatMap(({ places }) => places)),
  };
}

function figuresOf(
  judged: readonly { readonly truth: string; readonly proposal: PastProposal }[],
): Figures {
  const count = (isIn: (each: (typeof judged)[number]) => boolean) => judged.filter(isIn).length;
  const isRight = ({ truth, proposal }: (typeof judged)[number]) => proposal.accountId === truth;
  const isReady = ({ proposal }: (typeof judged)[number]) => proposal.lane === 'ready';
  return {
    lines: judged.length,
    ready: count(isReady),
    readyRight: count((each) => isReady(each) && isRight(each)),
    top1Right: count(isRight),
    top3Right: count(({ truth, proposal }) => proposal.top3.includes(truth)),
    calibration: Array.from({ length: 10 }, (_, tenth) => {
      const inside = judged.filter(
        ({ proposal: { p } }) => p !== null && Math.min(9, Math.floor(p * 10)) === tenth,
      );
      const sum = inside.reduce((total, { proposal }) => total + (proposal.p ?? 0), 0);
      return {
        from: tenth / 10,
        to: (tenth + 1) / 10,
        lines: inside.length,
        meanP: inside.length === 0 ? 0 : sum / inside.length,
        right: inside.filter(isRight).length,
      };
    }).filter((tenth) => tenth.lines > 0),
  };
}
