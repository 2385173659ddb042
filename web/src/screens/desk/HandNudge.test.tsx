import { screen, waitFor } from '@testing-library/react';
import type { DismissedNudges } from '@zubrell/contract/desk';
import { describe, expect, it } from 'vitest';
import { InDesk } from '../../testing/InDesk.tsx';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testLine } from '../../testing/testLines.ts';
import { HandNudge } from './HandNudge.tsx';
import { emptyCoding, lineRow } from './rows.ts';

/** A large purchase, typed to a running cost. */
const line = testLine('a', {
  amount: -124_900,
  proposal: null,
  draft: { ...emptyCoding, payeeId: 'tidemark', accountId: '6010' },
});

function open(dismissed: DismissedNudges['dismissed']) {
  return renderInBooks(
    <InDesk>
      <HandNudge row={lineRow(line)} />
    </InDesk>,
    {
      answers: {
        'GET /nudges/dismissed': { dismissed },
        'POST /nudges/dismiss': { step: 2, words: '' },
      },
    },
  );
}

describe('a coding typed by hand', () => {
  it('is asked about as a proposal is, and no more of its payee once that was dismissed', async () => {
    const { user, sent } = open([]);
    expect((await screen.findByRole('status')).textContent).toContain('1500 Equipment');
    await user.click(screen.getByRole('button', { name: /never ask again/ }));
    await waitFor(() =>
      expect(sent.find(({ path }) => path === '/nudges/dismiss')?.body).toMatchObject({
        nudge: 'fixedAsset',
        payeeId: 'tidemark',
      }),
    );
  });

  it('is not asked about what was dismissed of its payee or its look-alikes', async () => {
    for (const of of [
      { payeeId: 'tidemark', stem: null },
      { payeeId: null, stem: line.stem },
    ]) {
      const { sent, unmount } = open([{ nudge: 'fixedAsset', ...of }]);
      await waitFor(() => expect(sent.some(({ path }) => path === '/nudges/dismissed')).toBe(true));
      await new Promise((done) => setTimeout(done, 50));
      expect(screen.queryByRole('status')).toBeNull();
      unmount();
    }
  });
});
