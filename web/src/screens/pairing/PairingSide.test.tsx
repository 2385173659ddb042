import { screen, within } from '@testing-library/react';
import type { PairingView } from '@zubrell/contract/pairing';
import { describe, expect, it, vi } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBill } from '../../testing/testBill.ts';
import { testPairing } from '../../testing/testPairing.ts';
import { PairingSide } from './PairingSide.tsx';

const other = {
  id: 'other',
  date: '2026-03-11',
  amount: 8_100,
  description: 'TIDEMARK FRT REFUND',
  bankAccountId: 'everyday',
  reference: null,
};

function open(
  change: Partial<PairingView> = {},
  { rows = [] as ReturnType<typeof testBill>[], by = 0 } = {},
) {
  const [onAnswer, onLines] = [vi.fn(), vi.fn()];
  const view = renderInBooks(
    <PairingSide
      view={testPairing(change)}
      rows={rows}
      by={by}
      answer={null}
      onAnswer={onAnswer}
      onLines={onLines}
    />,
    { answers: { 'GET /payee-uses': { uses: [] } } },
  );
  return { ...view, onAnswer, onLines };
}
const side = async () => within(await screen.findByRole('complementary', { name: 'Reasons' }));
const headings = async () =>
  (await side()).queryAllByRole('heading').map(({ textContent }) => textContent);

describe('the reasons of a pairing', () => {
  it('say what to do where nothing is ticked', async () => {
    open({ nearMisses: [], fits: [] });
    expect(await headings()).toEqual(['Nothing is ticked']);
  });

  it('say why what is ticked is it, and what pairing does', async () => {
    open({ nearMisses: [], fits: [] }, { rows: [testBill('2093'), testBill('2094')] });
    expect(await headings()).toEqual(['Why these 2', 'What pairing does']);
  });

  it('offer another line that it adds up with', async () => {
    const { user, onLines } = open({
      nearMisses: [],
      together: [{ lines: [other], rows: [testBill('2093')] }],
    });
    expect(await headings()).toContain('With another line');
    expect((await side()).getByText(/^They add up to bill 2093 exactly/)).toBeDefined();
    await user.click(screen.getByRole('button', { name: 'Add this line' }));
    expect(onLines).toHaveBeenCalledWith(['line', 'other']);
  });

  it('offer the same amount the other way, once', async () => {
    const { user, onLines, unmount } = open({ nearMisses: [], fits: [], cancelling: [other] });
    expect(await headings()).toEqual(['The same amount the other way']);
    await user.click(screen.getByRole('button', { name: 'Add line' }));
    expect(onLines).toHaveBeenCalledWith(['line', 'other']);
    unmount();
    const { lines } = testPairing();
    open({ nearMisses: [], lines: [...lines, other], cancelling: [other] });
    await headings();
    expect(screen.queryByRole('button', { name: 'Add line' })).toBeNull();
  });

  it('lead to the line that has what would fit', async () => {
    const pairedWith = { id: 'taken', date: '2026-03-02', description: 'TIDEMARK 2051' };
    open({ nearMisses: [{ ...testBill('2051'), pairedWith }] as never });
    expect((await side()).getByText(/It is paired with the line of 02 Mar/)).toBeDefined();
    const way = screen.getByRole('link', { name: 'Look at 02 Mar' }).getAttribute('href');
    expect(way).toBe('/books/books/desk?lane=decided&period=2026-03&q=TIDEMARK+2051');
  });

  it.each([
    [4_000, 'It settles the invoice that comes.'],
    [-4_000, 'It settles the bill that comes.'],
  ])('keep what was paid in advance as credit (%i)', async (by, words) => {
    open({ nearMisses: [], fits: [] }, { by });
    expect(await headings()).toContain('Paid in advance?');
    expect((await side()).getByText(`Keep 40.00 as credit with the payee. ${words}`)).toBeDefined();
  });
});
