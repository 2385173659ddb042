import type { Feed } from '@zubrell/contract/feeds';
import { describe, expect, it } from 'vitest';
import { testFeed, testFetched } from '../../../testing/testFeed.ts';
import { feedNeed, resultWords } from './feedWords.ts';

const fetched = testFetched;
const feed = testFeed({ result: fetched, callsLeft: 40, consentExpires: '2026-06-30' });
const amount = (minor: number) => (minor / 100).toFixed(2);

describe('the words for a fetch', () => {
  it('say what is new and whether the balance agrees', () => {
    expect(resultWords(feed, amount)).toBe('3 new of 12 lines; the balance agrees');
    const result = { ...fetched, newCount: 0, lineCount: 1, doubtfulCount: 1, difference: 690 };
    expect(resultWords({ ...feed, result }, amount)).toBe(
      'no new lines, 1 perhaps already imported; the balance is off by 6.90',
    );
    expect(resultWords({ ...feed, result: null }, amount)).toBeNull();
  });
});

describe('what a feed needs', () => {
  const need = (change: Partial<Feed>) => feedNeed({ ...feed, ...change }, '2026-04-08');
  const trouble = (code: string) => ({ kind: 'trouble' as const, code, message: 'What to do.' });

  it('is nothing while all is well', () => {
    expect(need({})).toBeNull();
  });

  it('is a new consent where it has expired or soon will, else another try', () => {
    expect(need({ result: trouble('FEED_CONSENT_EXPIRED') })?.remedy).toBe('signIn');
    expect(need({ result: trouble('FEED_BANK_DOWN') })?.remedy).toBe('fetch');
    expect(need({ consentExpires: '2026-04-09' })?.words).toContain('ends tomorrow');
    expect(need({ consentExpires: '2026-04-18' })?.words).toContain('in 10 days');
    expect(need({ consentExpires: '2026-04-19' })).toBeNull();
  });

  it('is patience where the allowance is nearly used', () => {
    expect(need({ callsLeft: 1 })).toMatchObject({ remedy: null });
    expect(need({ callsLeft: null })).toBeNull();
  });
});
