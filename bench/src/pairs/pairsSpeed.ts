import { findGroups, findSets } from '@zubrell/core/pair/findSets';
import type { Candidate, PairLine } from '@zubrell/core/pair/pairing';
import { proposePairs } from '@zubrell/core/pair/proposePairs';
import { lineReader } from '@zubrell/core/pair/weighPair';
import { dice } from '@zubrell/core/testing/dice';
import { TONGUES } from '../accuracy/names.ts';
import { type Benchmark, median, timed } from '../ratio.ts';
import { sized } from '../sized.ts';
import { chequeWriter, type Scene, wholesaler } from './scenes.ts';

const LINES = sized(10_000, 100);
const ENTRIES = sized(50_000, 400);
const ROUNDS = sized(5, 1);

/** How long candidates for many lines and sets for few take, beside the plain way over all of them. */
export const pairsSpeed: Benchmark = async () => {
  const many = crowded();
  const own = await timed(() => proposePairs(many.lines, many.candidates, many.payees, [2_000]));
  const plain = await timed(() => plainlyEqual(many));
  const { lines, candidates, payees } = wholesaler(5, 900, TONGUES.english, false);
  const few = lines.slice(0, 50).map(lineReader(payees));
  const offered = candidates.slice(0, 500);
  const times: number[] = [];
  for (let round = 0; round < ROUNDS; round += 1) {
    times.push(
      await timed(() => {
        findGroups(few, offered);
        for (const line of few) findSets([line], offered);
        findSets(few, offered);
      }),
    );
  }
  const sets = median(times);
  const said = (value: number, aim: number) =>
    `${value.toFixed(0)} ms (aim: at most ${aim} ms)  ${value <= aim ? 'met' : 'NOT MET'}`;
  return (
    `candidates for ${many.lines.length} lines among ${many.candidates.length} entries\n` +
    `  ${said(own, 3_000)}, ${(own / plain).toFixed(2)} of comparing every amount with every other\n` +
    `sets for 50 lines among 500 entries, each line and all together\n  ${said(sets, 1_000)}\n`
  );
};

/** Lines, and many more entries than there are lines for. */
function crowded(): Scene {
  const scene = chequeWriter(9, LINES, TONGUES.english, false);
  const throws = dice(17);
  const more = Array.from({ length: ENTRIES - scene.candidates.length }, (_, at): Candidate => {
    const like = throws.pick(scene.candidates);
    return { ...like, id: `m${at}`, amount: -throws.whole(500, 400_000), number: throws.digits(6) };
  });
  return { ...scene, candidates: [...scene.candidates, ...more] };
}

/** The plain way: every line against every entry, by amount alone. */
function plainlyEqual({ lines, candidates }: Scene): number {
  let found = 0;
  const isSame = (line: PairLine, each: Candidate) => line.amount === each.amount;
  for (const line of lines) for (const each of candidates) if (isSame(line, each)) found += 1;
  return found;
}
