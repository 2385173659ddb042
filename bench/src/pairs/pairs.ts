import { proposePairs } from '@zubrell/core/pair/proposePairs';
import type { Benchmark } from '../ratio.ts';
import { sized } from '../sized.ts';
import { type Scene, scenes } from './scenes.ts';

/** What became of the lines of a scene. */
interface Score {
  /** Lines that are in the books already. */
  readonly partnered: number;
  readonly certain: number;
  readonly certainRight: number;
  /** Certain, and another candidate of the same amount was the right one. */
  readonly wrongOfEqual: number;
  /** Certain, and in truth new. */
  readonly invented: number;
  /** The first proposal is right, certain or not. */
  readonly firstRight: number;
}

/** Proposes pairs for a scene and compares them with the truth. */
export function scoreOf({ lines, candidates, payees, truth }: Scene): Score {
  const { pairs: found } = proposePairs(lines, candidates, payees, []);
  const score = {
    partnered: 0,
    certain: 0,
    certainRight: 0,
    wrongOfEqual: 0,
    invented: 0,
    firstRight: 0,
  };
  for (const { id } of lines) {
    const wanted = truth.get(id);
    const pair = found.get(id);
    const isRight =
      wanted !== undefined &&
      pair !== undefined &&
      pair.candidates
        .map((each) => each.id)
        .sort()
        .join() === [...wanted].sort().join();
    if (wanted) score.partnered += 1;
    if (isRight) score.firstRight += 1;
    if (!pair?.isCertain) continue;
    score.certain += 1;
    if (isRight) score.certainRight += 1;
    else if (wanted) score.wrongOfEqual += 1;
    else score.invented += 1;
  }
  return score;
}

const SIZE = sized(10_000, 100);

/** How right certain pairs are, how many lines they cover, and how often it was the wrong one of two. */
export const pairs: Benchmark = async () => {
  const rows = scenes(SIZE).map((scene) => ({ scene, score: scoreOf(scene) }));
  const aside = rows.filter(({ scene }) => scene.isKeptAside);
  const shown = [
    ...rows.map(({ scene, score }) =>
      shownAs(`${scene.name}${scene.isKeptAside ? ', kept aside' : ''}`, score),
    ),
    shownAs('kept aside together', total(aside.map(({ score }) => score))),
    shownAs('all together', total(rows.map(({ score }) => score))),
  ];
  return `pairs: ${SIZE} lines each\n${shown.join('')}`;
};

function total(scores: readonly Score[]): Score {
  const sum = (of: (score: Score) => number) => scores.reduce((all, score) => all + of(score), 0);
  return {
    partnered: sum((score) => score.partnered),
    certain: sum((score) => score.certain),
    certainRight: sum((score) => score.certainRight),
    wrongOfEqual: sum((score) => score.wrongOfEqual),
    invented: sum((score) => score.invented),
    firstRight: sum((score) => score.firstRight),
  };
}

function shownAs(name: string, score: Score): string {
  const percent = (part: number, whole: number) =>
    `${((100 * part) / Math.max(whole, 1)).toFixed(2)} %`;
  const { partnered, certain, certainRight, wrongOfEqual, invented, firstRight } = score;
  return (
    `  ${name}: certain right ${percent(certainRight, certain)} (aim 99.5)` +
    `, covering ${percent(certainRight, partnered)} (aim 85)` +
    `, wrong of equal ${percent(wrongOfEqual, certain)} (aim 0.2), taken for known ${percent(invented, certain)}` +
    `, first right ${percent(firstRight, partnered)}\n`
  );
}
