import { screen, waitFor, within } from '@testing-library/react';
import type { OutstandingItem, ProofCause } from '@zubrell/contract/desk';
import { describe, expect, it, vi } from 'vitest';
import { type Answers, problem, renderInBooks } from '../../../testing/renderInBooks.tsx';
import { testBooks } from '../../../testing/testBooks.ts';
import { testCause, testProof } from '../../../testing/testProof.ts';
import { CausesDialog } from './CausesDialog.tsx';
import { ProofStrip } from './ProofStrip.tsx';

function strip(proof: object | null, answers: Answers = {}, query = '') {
  return renderInBooks(<ProofStrip />, {
    answers: { 'GET /proof': { proof }, ...answers },
    query,
  });
}

const terms = async (name: RegExp) => (await screen.findByText(name)).closest('.term');

describe('the proof', () => {
  it('has a tick only where a stated balance leaves nothing unexplained', async () => {
    strip(testProof());
    expect((await screen.findByRole('status')).textContent).toBe('Unexplained 0.00 ✓');
  });

  it('is only calculated where the bank stated nothing', async () => {
    strip(testProof({ isStated: false, statedDate: null, statedCount: 0 }));
    expect((await screen.findByRole('status')).textContent).toBe('Calculated, not proved');
  });

  it('says what is unexplained, and why when asked', async () => {
    const { user } = strip(testProof({ books: 5_150, unexplained: 4_850, causes: [testCause()] }));
    await user.click(await screen.findByRole('button', { name: /^Unexplained 48\.50: why\?/ }));
    const dialog = await screen.findByRole('dialog', { name: 'Unexplained 48.50' });
    expect(within(dialog).getByText('Not traced')).toBeDefined();
  });

  it('is not proved where causes only cancel each other', async () => {
    strip(testProof({ causes: [testCause(), testCause({ amount: -4_850, date: '2026-03-21' })] }));
    expect(
      await screen.findByRole('button', { name: /^Unexplained 0\.00, causes cancel: why\?/ }),
    ).toBeDefined();
    expect(screen.queryByRole('status')).toBeNull();
  });

  it('leads from its terms to what they count', async () => {
    const { user, router } = strip(
      testProof({ open: -9_700, openCount: 2, keptOut: -500, keptOutCount: 1 }),
    );
    await user.click(await screen.findByRole('button', { name: /^Open, 2 lines/ }));
    expect(router.state.location.search).toContain('lane=blank');
    await user.click(screen.getByRole('button', { name: /^Excluded but real/ }));
    expect(router.state.location.search).toContain('lane=decided');
    expect(router.state.location.search).toContain('decision=excluded');
    // Nothing is outstanding: there is nothing to be shown.
    expect((await terms(/^Not yet at the bank/))?.tagName).toBe('SPAN');
  });

  it('leads to the register where it is of one account, and names no register of several', async () => {
    const accountId = testBooks().bankAccounts[0]?.accountId;
    strip(testProof(), {}, '?account=everyday');
    await waitFor(async () =>
      expect((await terms(/^Books say/))?.getAttribute('href')).toBe(
        `/books/books/ledger/${accountId}`,
      ),
    );
  });

  it('says which accounts it is without', async () => {
    strip(testProof({ otherCount: 2 }));
    expect(await screen.findByText('without 2 accounts in other currencies:')).toBeDefined();
  });

  it('is none as long as there is nothing to prove', async () => {
    strip(null);
    expect(await screen.findByText('Nothing to prove yet.')).toBeDefined();
  });
});

describe('what is not yet at the bank', () => {
  const items: OutstandingItem[] = [
    {
      amount: -18_000,
      bankAccountId: 'everyday',
      date: '2026-03-12',
      lineId: null,
      entryId: 'e1',
      text: null,
      kind: 'cheque',
      number: '001042',
      payee: 'Penhallow Clay',
    },
  ];
  const open = async (answers: Answers) => {
    const view = strip(testProof({ outstanding: -18_000, outstandingCount: 1 }), answers);
    await view.user.click(await screen.findByRole('button', { name: /^Not yet at the bank, 1/ }));
    return { ...view, dialog: await screen.findByRole('dialog', { name: 'Not yet at the bank' }) };
  };

  it('is listed by entry, each with the way to it', async () => {
    const { user, dialog, router } = await open({ 'GET /proof/outstanding': { items } });
    const entry = await within(dialog).findByRole('link', { name: /001042, Penhallow Clay/ });
    expect(within(dialog).getByText('−180.00')).toBeDefined();
    await user.click(entry);
    expect(`${router.state.location.pathname}${router.state.location.search}`).toBe(
      '/books/books/ledger/entries?entry=e1',
    );
    expect(screen.queryByRole('dialog')).toBeNull();
  });

  it('is said not to be had where the server fails', async () => {
    const { dialog } = await open({ 'GET /proof/outstanding': () => problem('INTERNAL') });
    expect((await within(dialog).findByRole('alert')).textContent).not.toBe('');
  });
});

describe('why something is unexplained', () => {
  function causes(...given: readonly ProofCause[]) {
    const onClose = vi.fn();
    const proof = { currency: 'EUR', unexplained: 4_850, causes: given };
    return { ...renderInBooks(<CausesDialog proof={proof} onClose={onClose} />), onClose };
  }
  const likely = (reason: 'inTwice' | 'keptOut' | 'turned' | 'transposed') =>
    testCause({
      kind: 'bankDiffers',
      since: '2026-03-02',
      likely: { reason, lineId: 'l1', date: '2026-03-04', description: 'TIDEMARK FRT' },
    });

  it.each([
    [testCause(), 'Not traced', /Compare the register/, 'Open the month'],
    [
      testCause({ kind: 'bankDiffers' }),
      'The bank’s balance isn’t reached',
      /on or before/,
      'Open the month',
    ],
    [
      testCause({ kind: 'bankDiffers', amount: -4_850, since: '2026-03-02' }),
      'The bank’s balance isn’t reached',
      /48\.50 less than the lines add up to/,
      'Open the month',
    ],
    [
      likely('inTwice'),
      'The bank’s balance isn’t reached',
      /probably there twice/,
      'Open the line',
    ],
    [likely('keptOut'), 'The bank’s balance isn’t reached', /looks real/, 'Open the line'],
    [likely('turned'), 'The bank’s balance isn’t reached', /the wrong way round/, 'Open the line'],
    [
      likely('transposed'),
      'The bank’s balance isn’t reached',
      /two digits swapped/,
      'Open the line',
    ],
    [
      testCause({ kind: 'sidesDiffer', lineId: 'l1', text: 'TIDEMARK FRT' }),
      'A line and its entries differ',
      /“TIDEMARK FRT” of 20 Mar/,
      'Open the line',
    ],
    [
      testCause({ kind: 'lineGone', entryId: 'e1', text: 'Freight' }),
      'An entry without its line',
      /Void the entry/,
      'Open the entry',
    ],
    [
      testCause({ kind: 'notAwaited', entryId: 'e1' }),
      'A journal the bank won’t report',
      /no bank line is expected for it/,
      'Open the entry',
    ],
    [
      testCause({ kind: 'beforeOpening', lineId: 'l1', text: 'TIDEMARK FRT' }),
      'A line before the opening balance',
      /opening balance already includes its day/,
      'Open the line',
    ],
  ])('%#: says what it is, what to do, and leads there', async (cause, title, words, way) => {
    const { user, onClose } = causes(cause);
    expect(await screen.findByText(title)).toBeDefined();
    expect(screen.getByText(words)).toBeDefined();
    await user.click(screen.getByRole('link', { name: way }));
    expect(onClose).toHaveBeenCalled();
  });

  it('is told cause by cause, with the amount of each', async () => {
    causes(testCause(), testCause({ kind: 'lineGone', entryId: 'e1', amount: -1_000 }));
    const [first, second] = await screen.findAllByRole('listitem');
    expect(first?.textContent).toContain('48.50');
    expect(second?.textContent).toContain('−10.00');
  });
});
