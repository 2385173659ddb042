import { screen } from '@testing-library/react';
import type { LineSheet } from '@zubrell/contract/desk';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { LineTrail } from './LineTrail.tsx';

const part = { accountId: '6010', taxCodeId: null, share: { kind: 'rest' }, tax: null } as const;
const coding = { payeeId: null, note: null, parts: [part] };
const sheet: Pick<LineSheet, 'history' | 'first'> = {
  history: [
    {
      no: 9,
      at: '2026-03-05T10:00:00Z',
      who: 'Ina Soltveit',
      words: 'Recoded 1 line to 6020 Market and stall fees',
      said: null,
      decision: { by: 'habit', rule: null, isKept: false },
    },
    {
      no: 7,
      at: '2026-03-04T10:00:00Z',
      who: 'Mo Oakes',
      words: 'Posted 1 line to 6010 Freight out',
      said: null,
      decision: { by: 'rule', rule: { name: 'Freight', version: 2 }, isKept: true },
    },
    {
      no: 3,
      at: '2026-03-02T10:00:00Z',
      who: 'Mo Oakes',
      words: 'Kept 1 line',
      said: null,
      decision: null,
    },
  ],
  first: {
    at: '2026-03-02T10:00:00Z',
    proposal: { kind: 'post', source: 'rule', coding, grounds: [], doubts: [] },
    sureness: null,
    rule: { name: 'Freight', version: 1 },
  },
};
const shown = () => screen.getAllByRole('listitem').map(({ textContent }) => textContent);

describe('the trail of a line', () => {
  it('says what was first proposed by which version of a rule, who decided, and each change', () => {
    renderInBooks(<LineTrail sheet={sheet} />);
    expect(shown()).toEqual([
      'Recoded 1 line to 6020 Market and stall fees, differently from the proposal from look-alikes Ina Soltveit, 05 Mar',
      'Posted 1 line to 6010 Freight out, as proposed by the rule “Freight”, version 2 Mo Oakes, 04 Mar',
      'Kept 1 line Mo Oakes, 02 Mar',
      'First proposed 6010 Freight out, by the rule “Freight”, version 1 02 Mar',
    ]);
  });

  it('says how sure look-alikes were, and how a line is split or paired', () => {
    const first = (proposal: object, sureness: number | null = null) =>
      ({ at: '2026-03-02T10:00:00Z', proposal, sureness, rule: null }) as LineSheet['first'];
    const grounded = { source: 'habit', grounds: [], doubts: [] };
    const split = { ...grounded, kind: 'post', coding: { ...coding, parts: [part, part] } };
    const { unmount } = renderInBooks(
      <LineTrail sheet={{ history: [], first: first(split, 0.9987) }} />,
    );
    expect(shown()).toEqual(['First proposed a split in 2, from look-alikes, 99 % sure 02 Mar']);
    unmount();
    const pair = { ...grounded, source: 'pair', kind: 'pair', targets: [] };
    renderInBooks(<LineTrail sheet={{ history: [], first: first(pair) }} />);
    expect(shown()).toEqual(['First proposed to pair it, from what is in the books 02 Mar']);
  });

  it('has no first proposal where none was made', () => {
    renderInBooks(<LineTrail sheet={{ history: sheet.history.slice(2), first: null }} />);
    expect(shown()).toHaveLength(1);
  });
});
