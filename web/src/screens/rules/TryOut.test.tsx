import { screen, within } from '@testing-library/react';
import type { RuleTried, TriedLine } from '@zubrell/contract/rules';
import { expect, it } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { setRoomForRows } from '../../testing/roomForRows.ts';
import { emptyDraft } from './ruleDraft.ts';
import { TryOut } from './TryOut.tsx';

setRoomForRows();

const line = (id: string, more: Partial<TriedLine> = {}): TriedLine => ({
  id,
  bankAccountId: 'everyday',
  date: '2026-03-02',
  amount: -4_850,
  description: `TIDEMARK FREIGHT ${id}`,
  reference: null,
  payee: null,
  stem: 'TIDEMARK FREIGHT',
  state: 'posted',
  accountIds: ['6010'],
  taxCodeId: null,
  isSame: true,
  source: 'habit',
  sourceRuleId: null,
  isChanged: false,
  earlierRuleId: null,
  missed: null,
  ...more,
});

const tried: RuleTried = {
  lineCount: 40,
  isAll: true,
  takes: 3,
  same: 1,
  otherwise: 1,
  open: 1,
  earlier: 2,
  against: 0,
  lines: [
    line('SAME'),
    line('OTHERWISE', { isSame: false, accountIds: ['6020'] }),
    line('OPEN', { state: 'open', isSame: null, accountIds: [] }),
  ],
  nearMisses: [
    { missed: 'direction', count: 2 },
    { missed: 'amount', count: 1 },
  ],
  missedLines: [line('MISSED', { missed: 'direction' })],
  warnings: [{ word: 'CO', kind: 'short', lines: 12 }],
  problem: null,
};

const show = (answer: object | Response = tried) =>
  renderInBooks(<TryOut draft={emptyDraft} ruleId={null} numberOf={() => null} />, {
    answers: { 'POST /rules/try': () => answer },
  });

const wordings = () =>
  within(screen.getByRole('region', { name: 'What the rule would do' }))
    .queryAllByRole('link')
    .map(({ textContent }) => textContent?.replace('TIDEMARK FREIGHT ', ''));

it('shows what a rule would take, and of it what was coded otherwise or is open', async () => {
  const { user } = show();
  await screen.findByText('Tried on all 40 lines as you type');
  expect(wordings()).toEqual(['SAME', 'OTHERWISE', 'OPEN']);
  const otherwise = screen.getByRole('button', { name: '1 you coded differently' });
  expect(otherwise.className).toContain('doubtful');
  await user.click(otherwise);
  expect(wordings()).toEqual(['OTHERWISE']);
  await user.click(screen.getByRole('button', { name: '1 you coded the same' }));
  expect(wordings()).toEqual(['SAME']);
  await user.click(screen.getByRole('button', { name: '1 still open' }));
  expect(wordings()).toEqual(['OPEN']);
});

it('says what would nearly fit, what goes to an earlier rule, and that a word is too short', async () => {
  const { user } = show();
  expect(await screen.findByText('2 of them go to an earlier rule.')).toBeDefined();
  expect(screen.getByText(/“co” is a short word: it is in 12 lines/)).toBeDefined();
  const near = screen.getByRole('button', {
    name: '2 would fit but for the direction, 1 would fit but for the amount',
  });
  await user.click(near);
  expect(wordings()).toEqual(['MISSED']);
  await user.click(near);
  expect(wordings()).toHaveLength(3);
});

const nothing = { ...tried, takes: 0, earlier: 0, lines: [], nearMisses: [], warnings: [] };

it.each([
  ['nothing matches yet', nothing, 'No lines in these books match yet.'],
  ['why a rule can’t be saved', { ...nothing, problem: 'Add a condition.' }, 'Add a condition.'],
])('says %s', async (_what, answer, words) => {
  show(answer);
  expect(await screen.findByText(words)).toBeDefined();
});

it('says that trying it failed', async () => {
  show(problem('RULE_UNKNOWN'));
  expect(await screen.findByRole('alert')).toBeDefined();
});
