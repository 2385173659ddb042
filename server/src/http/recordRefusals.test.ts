import { describe, expect, it } from 'vitest';
import { Sluice } from './recordRefusals.ts';

const MINUTE = 60_000;

describe('the sluice before the record', () => {
  it('lets twenty of a kind through in a minute, and says later how many it held back', () => {
    const sluice = new Sluice();
    const passed = Array.from({ length: 50 }, (_, at) => sluice.pass('10.0.0.1 WRONG', at));
    expect(passed.filter((more) => more === 0)).toHaveLength(20);
    expect(passed.slice(20)).toEqual(Array.from({ length: 30 }, () => null));
    // Another address is not held up by it.
    expect(sluice.pass('10.0.0.2 WRONG', 50)).toBe(0);
    expect(sluice.pass('10.0.0.1 WRONG', MINUTE)).toBe(30);
    expect(sluice.pass('10.0.0.1 WRONG', MINUTE + 1)).toBe(0);
  });

  it('forgets the oldest where there are very many addresses', () => {
    const sluice = new Sluice();
    for (let at = 0; at < 20; at += 1) sluice.pass('first', 0);
    expect(sluice.pass('first', 1)).toBeNull();
    for (let no = 0; no < 10_000; no += 1) sluice.pass(`address ${no}`, 2);
    expect(sluice.pass('first', 3)).toBe(0);
  });
});
