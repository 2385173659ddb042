import { sized } from './sized.ts';

/** Measures something and says what it found, in lines of text. */
export type Benchmark = () => Promise<string>;

/** Two ways to do the same work. */
export interface Rivals {
  readonly name: string;
  readonly ours: () => unknown;
  readonly peerName: string;
  readonly peer: () => unknown;
  /** Ours should take at most this many times as long as the peer. */
  readonly aim: number;
}

const ROUNDS = sized(7, 1);

/** Times ours and the peer in turns in one run, and gives the ratio of their medians. */
export async function ratio({ name, ours, peerName, peer, aim }: Rivals): Promise<string> {
  const times = { ours: [] as number[], peer: [] as number[] };
  // The first round warms both up and does not count.
  for (let round = 0; round <= ROUNDS; round += 1) {
    const ourTime = await timed(ours);
    const peerTime = await timed(peer);
    if (round === 0) continue;
    times.ours.push(ourTime);
    times.peer.push(peerTime);
  }
  const [own, other] = [median(times.ours), median(times.peer)];
  const factor = own / other;
  return (
    `${name}\n  ours ${own.toFixed(0)} ms, ${peerName} ${other.toFixed(0)} ms` +
    `\n  ratio ${factor.toFixed(2)} (aim: at most ${aim})  ${factor <= aim ? 'met' : 'NOT MET'}\n`
  );
}

/** How long some work takes, in milliseconds. */
export async function timed(work: () => unknown): Promise<number> {
  const began = performance.now();
  await work();
  return performance.now() - began;
}

/** The middle of some values. */
export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)] ?? 0;
}

/** The value that a share of the others stay below. @param share from 0 to 1 */
export function percentile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0;
}
