import { screen, waitFor, within } from '@testing-library/react';
import type { DeskLine } from '@zubrell/contract/desk';
import { Toaster } from 'sonner';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../../testing/renderInBooks.tsx';
import { setRoomForRows } from '../../../testing/roomForRows.ts';
import { testCoding, testLine, testSheet } from '../../../testing/testLines.ts';
import { DeskScreen } from '../DeskScreen.tsx';

setRoomForRows();

const posted = (id: string, accounts: readonly string[] = ['6010']): DeskLine => {
  const coding = testCoding('6010');
  const parts = accounts.map((accountId) => ({ ...coding.parts[0], accountId }));
  return testLine(id, {
    proposal: null,
    decision: {
      id: `d${id}`,
      kind: 'posted',
      reason: null,
      coding: { ...coding, parts } as NonNullable<DeskLine['decision']>['coding'],
      step: 9,
      rule: null,
      isOnce: false,
      paired: [],
      mates: 0,
    },
  });
};
const done = { words: 'Recoded 2 lines', step: 12, done: ['1', '2'], leftOut: [] };
const answers = {
  'GET /lanes': {},
  'GET /payee-uses': { uses: [] },
  'GET /account-uses': { uses: [] },
  'GET /lines/1': testSheet(posted('1')),
  'GET /lines/2': testSheet(posted('2', ['6010', '6020'])),
  'GET /lines/1/thread': { questions: [], attachments: [] },
  'GET /lines/2/thread': { questions: [], attachments: [] },
  'GET /decided-lines': {
    items: [posted('1'), posted('2', ['6010', '6020'])],
    next: null,
    seenStep: 11,
  },
  'GET /decided-lines/sum': { count: 240, total: -9_700, currency: 'EUR' },
  'GET /proof': { proof: null },
  'GET /steps': { items: [], people: [], next: null },
  'GET /rules': { rules: [] },
  'POST /lines/recode': done,
  'POST /lines/reopen': { ...done, words: 'Reopened 240 lines' },
  'POST /decided-lines/exclude': { ...done, words: 'Excluded 240 lines' },
};

function open(query: string) {
  const shown = renderInBooks(
    <>
      <DeskScreen />
      <Toaster />
    </>,
    { query, answers },
  );
  const bodyTo = (path: string) =>
    shown.sent.find((each) => each.method === 'POST' && each.path === path)?.body;
  return { ...shown, bodyTo };
}

describe('decided lines on the Desk', () => {
  it('are asked for by what stands in the address, and filtered by more', async () => {
    const { user, sent } = open('?lane=decided&rule=r1&codedTo=6010');
    expect(await screen.findByText('Rule: deleted')).toBeDefined();
    const asked = () => sent.filter(({ path }) => /^\/decided-lines(\?|$)/.test(path)).at(-1)?.path;
    expect(asked()).toContain('ruleId=r1');
    expect(asked()).toContain('accountId=6010');
    await user.click(screen.getByText('Proposed by'));
    await user.click(await screen.findByText('Habit'));
    await waitFor(() => expect(asked()).toContain('by=habit'));
    await user.click(screen.getByLabelText('Rule: deleted: remove from the filter'));
    await waitFor(() => expect(asked()).not.toContain('ruleId'));
    await user.click(screen.getByText('Clear filter'));
    await waitFor(() => expect(asked()).not.toContain('accountId'));
  });

  it('are recoded by those that are ticked', async () => {
    const { user, bodyTo } = open('?lane=decided');
    await user.click(await screen.findByLabelText('Tick TIDEMARK FRT 2'));
    const bar = await screen.findByLabelText('Ticked lines');
    await user.type(within(bar).getByLabelText('Account'), '6020{Enter}');
    await user.type(within(bar).getByLabelText('Note'), 'stamps');
    await user.click(within(bar).getByText('Recode 1 line'));
    expect(await screen.findByText('Recoded 2 lines')).toBeDefined();
    expect(bodyTo('/lines/recode')).toMatchObject({
      target: { lineIds: ['2'] },
      accountId: expect.any(String),
      note: 'stamps',
    });
    expect(screen.queryByLabelText('Ticked lines')).toBeNull();
  });

  it('are all of them meant where all that match are ticked, also those not fetched', async () => {
    const { user, bodyTo } = open('?lane=decided&codedTo=6010');
    await user.click(await screen.findByText('Tick all'));
    const bar = await screen.findByLabelText('Ticked lines');
    expect(within(bar).getByText('Recode 240 lines')).toBeDefined();
    await user.click(within(bar).getByText('Reopen 240 lines'));
    expect(await screen.findByText('Reopened 240 lines')).toBeDefined();
    expect(bodyTo('/lines/reopen')).toMatchObject({ target: { decided: { accountId: '6010' } } });
  });

  it('are only those still ticked once one of all is unticked', async () => {
    const { user, bodyTo } = open('?lane=decided');
    await user.click(await screen.findByText('Tick all'));
    await user.click(screen.getByLabelText('Tick TIDEMARK FRT 1'));
    await user.click(await screen.findByText('Reopen 1 line'));
    await waitFor(() =>
      expect(bodyTo('/lines/reopen')).toMatchObject({ target: { lineIds: ['2'] } }),
    );
  });

  it('are excluded for a reason', async () => {
    const { user, bodyTo } = open('?lane=decided');
    await user.click(await screen.findByText('Tick all'));
    await user.click(await screen.findByText('Exclude 240 lines …'));
    const dialog = await screen.findByRole('dialog');
    await user.click(within(dialog).getByLabelText(/Before the opening balance/));
    await user.click(within(dialog).getByLabelText('Delete instead of exclude'));
    await user.click(within(dialog).getByText('Delete 240 lines'));
    expect(await screen.findByText('Excluded 240 lines')).toBeDefined();
    expect(bodyTo('/decided-lines/exclude')).toMatchObject({
      target: { decided: {} },
      reason: 'beforeOpening',
      as: 'deleted',
    });
  });
});

describe('one decided line', () => {
  it('gets another account by pressing the one it has; of a split, just that part', async () => {
    const { user, bodyTo } = open('?lane=decided');
    await user.click(await screen.findByText('TIDEMARK FRT 2'));
    await user.click(await screen.findByLabelText('Change the account 6020 Market and stall fees'));
    const field = screen.getByLabelText('Account');
    expect(document.activeElement).toBe(field);
    await user.type(field, '4010{Enter}');
    await user.click(screen.getByText('Recode line'));
    await waitFor(() => expect(screen.queryByText('Recode line')).toBeNull());
    expect(bodyTo('/lines/recode')).toMatchObject({
      target: { lineIds: ['2'] },
      accountId: '4010',
      fromAccountId: '6020',
    });
  });
});
