import { screen, waitFor, within } from '@testing-library/react';
import type { Proposal } from '@zubrell/contract/desk';
import type { Evidence } from '@zubrell/contract/habits';
import { describe, expect, it } from 'vitest';
import { InDesk } from '../../testing/InDesk.tsx';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { testLine, testProposal, testStack } from '../../testing/testLines.ts';
import { lineRow, stackId } from './rows.ts';
import { Why } from './Why.tsx';

type Shown = Parameters<typeof Why>[0];

const lineWith = (proposal: Proposal | null, change: object = {}): Shown => ({
  row: lineRow(testLine('a', { proposal, ...change })) as Shown['row'],
  proposal,
});

const evidence: Evidence = {
  lines: [
    {
      id: 'x',
      date: '2026-02-03',
      amount: -4_850,
      description: 'TIDEMARK FRT X',
      accountId: '6010',
      share: 0.75,
    },
    {
      id: 'y',
      date: '2026-01-03',
      amount: -4_150,
      description: 'TIDEMARK FRT Y',
      accountId: '6020',
      share: 0.25,
    },
  ],
};

const items = () => screen.getAllByRole('listitem').map(({ textContent }) => textContent);

describe('why a line is where it is', () => {
  it('gives the sureness and the grounds, and the lines behind them when they are asked for', async () => {
    const { user, sent } = renderInBooks(
      <InDesk>
        <Why {...lineWith(testProposal('6010'))} />
      </InDesk>,
      {
        answers: { 'GET /lines/a/evidence': evidence },
      },
    );
    expect(screen.getByRole('heading', { name: 'Why it is Ready' })).toBeDefined();
    expect(items()).toEqual([
      '99 % sure of the account.',
      'All 7 look-alikes went to 6010 Freight out. ',
    ]);
    expect(sent).toEqual([]);
    await user.click(screen.getByRole('button', { name: 'Show the lines behind this' }));
    const link = await screen.findByRole('link', { name: 'TIDEMARK FRT X' });
    const row = link.closest('li');
    expect(row?.getAttribute('title')).toBe('6010 Freight out, 75 % of the weight');
    expect(row?.textContent).toContain('−48.50');
    // They went to different accounts, so each says to which.
    expect(within(row ?? document.body).getByText('6010 Freight out')).toBeDefined();
    await user.click(screen.getByRole('button', { name: 'Hide these lines' }));
    expect(screen.queryByRole('link', { name: 'TIDEMARK FRT X' })).toBeNull();
  });

  it('says what went wrong where those lines can’t be fetched', async () => {
    const { user } = renderInBooks(
      <InDesk>
        <Why {...lineWith(testProposal('6010'))} />
      </InDesk>,
      {
        answers: { 'GET /lines/a/evidence': problem('LINE_UNKNOWN') },
      },
    );
    await user.click(screen.getByRole('button', { name: 'Show the lines behind this' }));
    expect(await screen.findByText('That line is not in these books.')).toBeDefined();
  });

  it('names the doubts first, and how often each account was used', async () => {
    const accounts = [
      { accountId: '6010', times: 6 },
      { accountId: '6020', times: 2 },
    ];
    const doubts = [{ kind: 'severalAccounts', accounts }] as unknown as Proposal['doubts'];
    renderInBooks(
      <InDesk>
        <Why {...lineWith(testProposal('6010', { doubts }))} />
      </InDesk>,
    );
    expect(screen.getByRole('heading', { name: 'Why it waits in Check' })).toBeDefined();
    expect(items()[0]).toContain('Nothing reliable separates the 2 accounts');
    expect(screen.getByText('6 of 8')).toBeDefined();
    expect(screen.getByText('2 of 8')).toBeDefined();
  });

  it('says that nothing is known yet, or that a stack’s lines differ', async () => {
    const { unmount } = renderInBooks(
      <InDesk>
        <Why {...lineWith(null, { sureness: null })} />
      </InDesk>,
    );
    expect(screen.getByRole('heading', { name: 'Why it is Blank' })).toBeDefined();
    expect(items()).toEqual(['No look-alike has been decided yet.']);
    expect(screen.queryByRole('button')).toBeNull();
    unmount();
    const stack = testStack('TIDEMARK FRT', { proposal: null });
    const row = {
      kind: 'stack',
      id: stackId(stack),
      stack,
      isOpen: false,
    } as unknown as Shown['row'];
    renderInBooks(
      <InDesk>
        <Why row={row} proposal={null} />
      </InDesk>,
    );
    expect(items()[0]).toContain('Its lines are proposed to different accounts.');
  });

  it('shows the client’s answer, and that a question is waiting', async () => {
    renderInBooks(
      <InDesk>
        <Why {...lineWith(null, { sureness: null, answer: 'Two crates of clay' })} lane="asked" />
      </InDesk>,
    );
    expect(items().slice(0, 2)).toEqual([
      'A question about this line is waiting for an answer.',
      'The answer: “Two crates of clay”',
    ]);
  });

  it('offers what a nudge says, and to ask no more', async () => {
    const doubts = [
      { kind: 'nudge', nudge: 'fixedAsset', accountId: '1500' },
    ] as unknown as Proposal['doubts'];
    const { user, sent } = renderInBooks(
      <InDesk>
        <Why {...lineWith(testProposal('6010', { doubts }))} />
      </InDesk>,
      { answers: { 'POST /nudges/dismiss': { step: 2, words: '' } } },
    );
    await user.click(screen.getByRole('button', { name: /never ask again/ }));
    await waitFor(() =>
      expect(sent.find(({ path }) => path === '/nudges/dismiss')?.body).toMatchObject({
        nudge: 'fixedAsset',
        payeeId: 'tidemark',
      }),
    );
  });
});
