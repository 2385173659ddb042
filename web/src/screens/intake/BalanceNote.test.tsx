import { screen } from '@testing-library/react';
import { expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import type { StatementSummary } from '../../workers/fileReading.ts';
import { BalanceNote } from './BalanceNote.tsx';

const statement = (more: Partial<StatementSummary>) =>
  ({
    opening: 100_000,
    closing: 94_200,
    closingDate: '2026-02-28',
    gap: 0,
    firstBreak: null,
    lines: { count: 1_302 },
    ...more,
  }) as StatementSummary;
const broken = { date: '2026-02-14', difference: -5_800 } as StatementSummary['firstBreak'];

it.each([
  [
    'no balance',
    { closing: null },
    false,
    'The file states no balance, so it can’t be checked on its own.',
  ],
  ['a closing balance', { gap: null }, false, 'Closing balance 942.00 on 28 Feb.'],
  ['both', {}, false, '1,000.00 + 1,302 lines = 942.00. The balances add up.'],
  [
    'a balance on each line',
    {},
    true,
    '1,000.00 + 1,302 lines = 942.00. The balances add up, so the signs are right.',
  ],
  [
    'balances in between that don’t add up',
    { firstBreak: broken },
    false,
    '1,000.00 + 1,302 lines = 942.00, but in between the balances don’t add up. The first day that does not add up is 14 Feb, by −58.00.',
  ],
  [
    'balances that its lines don’t explain',
    { gap: -5_800, firstBreak: broken },
    false,
    '1,000.00 + 1,302 lines is not 942.00: −58.00 stays unexplained. The first day that does not add up is 14 Feb, by −58.00.',
  ],
])('a file that states %s says whether it adds up', async (_, more, isProved, words) => {
  const layout = isProved ? ({ isProved } as never) : null;
  const { container } = renderInBooks(
    <BalanceNote statement={statement(more)} layout={layout} refused={[]} />,
  );
  await screen.findByText(words.slice(0, 12), { exact: false });
  expect(container.textContent?.replace(/\s+/g, ' ').trim()).toBe(words);
});

it('what is unexplained may be records that could not be read', async () => {
  const refused = [{ place: 'line 3' } as never];
  renderInBooks(
    <BalanceNote statement={statement({ gap: 100 })} layout={null} refused={refused} />,
  );
  expect(
    await screen.findByText(/stays unexplained without the unreadable records\./),
  ).toBeDefined();
});
