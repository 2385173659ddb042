import { screen } from '@testing-library/react';
import type { DifferenceAnswer, PairRow } from '@zubrell/contract/pairing';
import { useEffect, useState } from 'react';
import { expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBill } from '../../testing/testBill.ts';
import { DifferencePanel } from './DifferencePanel.tsx';

/** What was answered so far. */
interface Answered {
  now: DifferenceAnswer | null;
}

function Panel({
  rows,
  by,
  answered,
}: {
  readonly rows: readonly PairRow[];
  readonly by: number;
  readonly answered: Answered;
}) {
  const [answer, setAnswer] = useState<DifferenceAnswer | null>(null);
  useEffect(() => {
    answered.now = answer;
  });
  return <DifferencePanel rows={rows} by={by} answer={answer} onAnswer={setAnswer} />;
}

function shown(by: number, rows = [testBill('2093')]) {
  const answered: Answered = { now: null };
  const { user } = renderInBooks(<Panel rows={rows} by={by} answered={answered} />);
  return { user, answered };
}

const text = () => document.body.textContent;

it('offers to correct our own record first, and to leave the rest open', async () => {
  const { user, answered } = shown(1_000);
  expect(text()).toContain('Off by 10.00');
  expect(text()).toContain('The bank moved less than this total.');
  expect(screen.getAllByRole('radio')).toHaveLength(3);
  await user.click(screen.getByLabelText('Our record is wrong: correct bill 2093 to 30.50'));
  expect(answered.now).toEqual({ kind: 'correct', targetId: '2093' });
  await user.click(screen.getByLabelText('Leave 10.00 of it open, as paid in part'));
  expect(answered.now).toEqual({ kind: 'partPaid' });
});

it('keeps as credit what was paid too much', async () => {
  const { user, answered } = shown(-1_000);
  expect(text()).toContain('The bank moved more than this total.');
  expect(screen.queryByLabelText(/paid in part/)).toBeNull();
  await user.click(screen.getByLabelText('Keep 10.00 as credit with Tidemark Freight'));
  expect(answered.now).toEqual({ kind: 'onAccount' });
});

it('gives no credit where several payees were paid', () => {
  shown(-1_000, [testBill('2093'), testBill('7', { payeeId: 'stagwell', payee: 'Stagwell Fuel' })]);
  expect(screen.queryByLabelText(/as credit/)).toBeNull();
});

it('codes the rest only with an account and a reason', async () => {
  const { user, answered } = shown(1_000);
  await user.click(screen.getByLabelText('Code 10.00 to an account, with a reason'));
  expect(answered.now).toBeNull();
  await user.type(screen.getByLabelText('Reason'), 'rounded down');
  expect(answered.now).toBeNull();
  await user.type(screen.getByRole('combobox', { name: 'Account of the rest' }), 'freight');
  await user.click(await screen.findByRole('option', { name: /Freight out/ }));
  expect(answered.now).toEqual({
    kind: 'code',
    accountId: '6010',
    taxCodeId: null,
    reason: 'rounded down',
  });
});
