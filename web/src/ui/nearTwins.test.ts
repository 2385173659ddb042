import { describe, expect, it } from 'vitest';
import { nearTwins } from './nearTwins.ts';

describe('near twins', () => {
  const payees = [
    { name: 'Penhallow Clay' },
    { name: 'Corner Café' },
    { name: 'Tidemark Freight' },
  ];

  it('are names written a little otherwise, the likest first', () => {
    expect(nearTwins(payees, 'PENHALLOW CLAY SUP')[0]?.name).toBe('Penhallow Clay');
    expect(nearTwins(payees, 'corner cafe')[0]?.name).toBe('Corner Café');
  });

  it('are none for a name of its own, or one hardly typed', () => {
    expect(nearTwins(payees, 'Orrin Mobile')).toEqual([]);
    expect(nearTwins(payees, 'Pe')).toEqual([]);
  });
});
