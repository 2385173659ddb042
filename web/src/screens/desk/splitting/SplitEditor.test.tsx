import { screen, within } from '@testing-library/react';
import type { DraftCoding } from '@zubrell/contract/coding';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../../testing/renderInBooks.tsx';
import { testCoding } from '../../../testing/testLines.ts';
import { SplitEditor } from './SplitEditor.tsx';
import { startSplit } from './split.ts';

let last: DraftCoding;

function Editing({ from }: { readonly from: DraftCoding }) {
  const [coding, setCoding] = useState(from);
  last = coding;
  return (
    <SplitEditor
      of={{ amount: -10_000, bankAccountId: 'everyday' }}
      coding={coding}
      onChange={setCoding}
    />
  );
}

const whole: DraftCoding = {
  payeeId: 'tidemark',
  accountId: '6010',
  taxCodeId: null,
  note: null,
  tax: null,
  parts: null,
};

describe('a split', () => {
  it('says what is left until its parts add up', async () => {
    const { user } = renderInBooks(<Editing from={startSplit(whole)} />);
    expect(screen.getByRole('status').textContent).toBe('The parts add up. Nothing is left.');
    const [first] = screen.getAllByRole('group');
    const amount = within(first as HTMLElement).getByRole('textbox', { name: 'Amount of part 1' });
    await user.clear(amount);
    await user.type(amount, '25.50');
    await user.tab();
    expect(last.parts?.[0]?.share).toEqual({ kind: 'fixed', amount: -2_550 });
    expect(screen.getByText('−74.50')).toBeTruthy();
  });

  it('takes an amount without a sign as the line has it, and with one as it is typed', async () => {
    const { user } = renderInBooks(<Editing from={startSplit(whole)} />);
    const amount = screen.getByRole('textbox', { name: 'Amount of part 1' });
    for (const [typed, minor] of [
      ['-30', -3_000],
      ['+30', 3_000],
      ['30', -3_000],
    ] as const) {
      await user.clear(amount);
      await user.type(amount, typed);
      await user.tab();
      expect(last.parts?.[0]?.share).toEqual({ kind: 'fixed', amount: minor });
    }
  });

  it('takes another part, and lets one go, but not the last', async () => {
    const { user } = renderInBooks(<Editing from={startSplit(whole)} />);
    await user.click(screen.getByRole('button', { name: 'Add part' }));
    expect(last.parts).toHaveLength(3);
    await user.click(screen.getByRole('button', { name: 'Remove part 3' }));
    await user.click(screen.getByRole('button', { name: 'Remove part 1' }));
    expect(last.parts).toEqual([expect.objectContaining({ accountId: '6010' })]);
    expect(screen.queryByRole('button', { name: /Remove part/ })).toBeNull();
  });

  it('is split as the payee’s last line was', async () => {
    const coding = testCoding('6010');
    const [part] = coding.parts;
    const split = {
      ...coding,
      parts: [
        { ...part, accountId: '3020', share: { kind: 'fixed', amount: -4_000 } },
        { ...part, accountId: '6020' },
      ],
    };
    const { user } = renderInBooks(<Editing from={startSplit(whole)} />, {
      answers: { 'GET /payees/tidemark/last-split': { coding: split } },
    });
    await user.click(await screen.findByRole('button', { name: 'Split as last time' }));
    expect(last.payeeId).toBe('tidemark');
    expect(last.parts?.map(({ accountId }) => accountId)).toEqual(['3020', '6020']);
  });

  it('ends with the coding of the part that takes the rest', async () => {
    const { user } = renderInBooks(<Editing from={startSplit(whole)} />);
    await user.click(screen.getByRole('button', { name: 'Don’t split' }));
    expect(last).toMatchObject({ accountId: '6010', parts: null });
  });
});
