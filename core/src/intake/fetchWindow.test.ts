import { describe, expect, it } from 'vitest';
import { type FeedState, fetchWindow } from './fetchWindow.ts';

const state: FeedState = {
  today: '2026-04-08',
  lookBackDays: null,
  opened: null,
  closedTo: null,
  knownTo: null,
  isMending: false,
};
const from = (change: Partial<FeedState>) => fetchWindow({ ...state, ...change }).from;

describe('the days a feed asks for', () => {
  it('are sixty, or from the last closed statement on', () => {
    expect(from({})).toBe('2026-02-07');
    expect(from({ closedTo: '2026-03-31' })).toBe('2026-04-01');
    expect(from({ lookBackDays: 5, closedTo: '2026-02-28' })).toBe('2026-04-03');
  });

  it('never begin before the opening balance is over', () => {
    expect(from({ opened: '2026-03-31' })).toBe('2026-04-01');
    expect(from({ opened: '2026-04-30' })).toBe('2026-04-08');
  });

  it('leave no gap after the last success, and overlap more after trouble', () => {
    expect(from({ lookBackDays: 2, knownTo: '2026-03-20' })).toBe('2026-03-17');
    expect(from({ lookBackDays: 2, knownTo: '2026-03-20', isMending: true })).toBe('2026-03-10');
    expect(from({ lookBackDays: 30, knownTo: '2026-04-07' })).toBe('2026-03-09');
  });
});
