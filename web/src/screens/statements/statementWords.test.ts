import type { Explanation } from '@zubrell/contract/statements';
import { causeReasons as allReasons, statementCauseKinds } from '@zubrell/core/closing/causes';
import { describe, expect, it } from 'vitest';
import { testSameTwice, testStatement } from '../../testing/testStatement.ts';
import {
  alsoLookedFor,
  causeReasons,
  causeTitle,
  periodWords,
  standWords,
  stateWords,
} from './statementWords.ts';

type Cause = Explanation['causes'][number];
const cause = (more: Partial<Cause>): Cause => ({ ...testSameTwice, ...more });
const amount = (minor: number) => (minor / 100).toFixed(2);
const explanation = (...causes: Cause[]): Explanation => ({
  key: 'one',
  causes,
  likelihood: 'likely',
});

it.each([
  ['2026-02-09', '2026-03-08', '9 February to 8 March 2026'],
  ['2025-12-09', '2026-01-08', '9 December 2025 to 8 January 2026'],
])('the period from %s to %s', (from, to, words) => {
  expect(periodWords(from, to)).toBe(words);
});

describe('why a statement is off', () => {
  it.each(statementCauseKinds)('has a title of its own where it is %s', (kind) => {
    const titles = statementCauseKinds.map((each) => causeTitle(cause({ kind: each }), amount));
    const title = causeTitle(cause({ kind }), amount);
    expect(title).toMatch(/^[A-Z]/);
    expect(titles.filter((each) => each === title)).toHaveLength(1);
  });

  it.each([
    [{ kind: 'signTurned', instead: -4_850 }, 'A line of 48.50 with its sign turned'],
    [{ kind: 'digitsSwapped', instead: 8_540 }, 'Two digits swapped: it should be 85.40'],
    [{ kind: 'lineMissing', amount: -1_200 }, 'A line of 12.00 is missing'],
    [{ kind: 'overEdge', move: 'fromNext' }, 'In the next statement, and belongs here'],
    [{ kind: 'overEdge', move: 'toPrevious' }, 'Belongs to the previous statement'],
    [{ kind: 'announcedBooked', lineIds: [] }, 'An announced line was booked'],
    [
      { kind: 'closingMistyped', instead: 88_400 },
      'The closing balance is mistyped: it would be 884.00',
    ],
  ] as const)('is said with what it comes to: %j', (more, title) => {
    expect(causeTitle(cause(more as Partial<Cause>), amount)).toBe(title);
  });

  it('has its reasons in sentences', () => {
    expect(causeReasons({ reasons: ['sameWording', 'oftenAlike'] })).toBe(
      'The wording is the same. But the same often comes again after as few days.',
    );
    for (const reason of allReasons) {
      expect(causeReasons({ reasons: [reason] })).toMatch(/^$|^[A-Z].*\.$/);
    }
  });

  it('says what else was looked for', () => {
    expect(alsoLookedFor([])).toMatch(
      /^Looked for: copies, a turned sign, .*mistyped closing balance\.$/,
    );
    const found = alsoLookedFor([explanation(cause({ kind: 'sameTwice' }))]);
    expect(found).toMatch(/^Also looked for: a turned sign/);
    const every = statementCauseKinds.map((kind) => cause({ kind }));
    expect(alsoLookedFor([explanation(...every)])).toBeNull();
  });
});

describe('how a statement stands', () => {
  it.each([
    [{ lineCount: 71 }, '71 decided, none open'],
    [{ lineCount: 1_302, openCount: 1_100, askedCount: 2 }, '200 decided, 2 asked, 1,100 open'],
    [{ lineCount: 3, openCount: 3 }, '3 open'],
    [{ lineCount: 0 }, 'none open'],
    [{ lineCount: 2, isTicked: true }, '2 ticked, none open'],
  ])('by its lines: %j', (more, words) => {
    expect(standWords(testStatement(more))).toBe(words);
  });

  it.each([
    [{ state: 'agreed' }, 'agreed'],
    [{ closing: null, off: null }, 'no closing balance yet'],
    [{ off: 5_800 }, 'off'],
    [{ openCount: 2 }, 'adds up, 2 lines open'],
    [{}, 'adds up, not agreed yet'],
  ] as const)('in the list: %j', (more, words) => {
    expect(stateWords(testStatement(more))).toBe(words);
  });
});
