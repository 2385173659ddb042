import { plainWording } from '@zubrell/core/text/plainWording';
import type { MadeRow } from './businesses.ts';

/** A simpler way to propose accounts, to measure against. */
export interface Baseline {
  readonly learn: (row: MadeRow) => void;
  /** The account for a row, or null where it knows none. */
  readonly predict: (row: MadeRow) => string | null;
}

const wordsOf = ({ description, reference }: MadeRow) =>
  plainWording(`${description} ${reference}`)
    .split(' ')
    .filter((word) => word.length > 1 && !/\p{N}/u.test(word));

/** The account that the same wording went to last. */
function exactWording(): Baseline {
  const last = new Map<string, string>();
  const key = (row: MadeRow) => plainWording(`${row.description} ${row.reference}`);
  return {
    learn: (row) => void last.set(key(row), row.account),
    predict: (row) => last.get(key(row)) ?? null,
  };
}

/** The account that most lines went to which begin with the same two words, of those with letters only. */
function firstTwoWords(): Baseline {
  const counts = new Map<string, Map<string, number>>();
  const key = (row: MadeRow) => wordsOf(row).slice(0, 2).join(' ');
  return {
    learn: (row) => count(counts, key(row), row.account),
    predict: (row) => mostOf(counts.get(key(row))),
  };
}

/** Naive Bayes over words, each counted once, with Laplace's rule. */
function naiveBayes(): Baseline {
  const byWord = new Map<string, Map<string, number>>();
  const accounts = new Map<string, number>();
  let total = 0;
  return {
    learn: (row) => {
      total += 1;
      accounts.set(row.account, (accounts.get(row.account) ?? 0) + 1);
      for (const word of new Set(wordsOf(row))) count(byWord, word, row.account);
    },
    predict: (row) => {
      const words = [...new Set(wordsOf(row))];
      let best: string | null = null;
      let most = Number.NEGATIVE_INFINITY;
      for (const [account, lines] of accounts) {
        let odds = Math.log(lines / total);
        for (const word of words) {
          const known = byWord.get(word);
          if (known) odds += Math.log(((known.get(account) ?? 0) + 0.1) / (lines + 0.2));
        }
        if (odds > most) {
          most = odds;
          best = account;
        }
      }
      return best;
    },
  };
}

/** The account of most of the five lines that share the most words, rare words weighing more. */
function nearestNeighbours(): Baseline {
  const rows: { readonly account: string; readonly words: readonly string[] }[] = [];
  const postings = new Map<string, number[]>();
  return {
    learn: (row) => {
      const words = [...new Set(wordsOf(row))];
      for (const word of words) {
        const there = postings.get(word);
        if (there) there.push(rows.length);
        else postings.set(word, [rows.length]);
      }
      rows.push({ account: row.account, words });
    },
    predict: (row) => {
      const scores = new Map<number, number>();
      for (const word of new Set(wordsOf(row))) {
        const there = postings.get(word) ?? [];
        const weight = Math.log((rows.length + 1) / (there.length + 0.5));
        for (const at of there) scores.set(at, (scores.get(at) ?? 0) + weight);
      }
      const nearest = [...scores].sort((a, b) => b[1] - a[1] || b[0] - a[0]).slice(0, 5);
      const votes = new Map<string, number>();
      for (const [at, score] of nearest) {
        const account = rows[at]?.account ?? '';
        votes.set(account, (votes.get(account) ?? 0) + score);
      }
      return mostOf(votes);
    },
  };
}

/** Every simpler way, by what it is called. */
export const baselines: readonly (readonly [string, () => Baseline])[] = [
  ['exact wording to last account', exactWording],
  ['first two words to majority', firstTwoWords],
  ['naive Bayes over words', naiveBayes],
  ['nearest neighbours by shared words', nearestNeighbours],
];

function count(counts: Map<string, Map<string, number>>, key: string, account: string): void {
  const there = counts.get(key) ?? new Map<string, number>();
  counts.set(key, there);
  there.set(account, (there.get(account) ?? 0) + 1);
}

function mostOf(votes: ReadonlyMap<string, number> | undefined): string | null {
  let best: string | null = null;
  let most = 0;
  for (const [account, vote] of votes ?? []) {
    if (vote > most) {
      most = vote;
      best = account;
    }
  }
  return best;
}
