import { screen, waitFor } from '@testing-library/react';
import type { Batch } from '@zubrell/contract/intake';
import { describe, expect, it } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { Batches } from './Batches.tsx';

const batch = (id: string, more: Partial<Batch> = {}): Batch => ({
  id,
  bankAccountId: 'everyday',
  feedId: null,
  movedFrom: null,
  fileName: `${id}.ofx`,
  status: 'kept',
  format: 'ofx2',
  refusal: null,
  problems: [],
  fromDate: '2026-03-01',
  toDate: '2026-03-31',
  closing: null,
  closingDate: null,
  lineCount: 112,
  newCount: 98,
  createdBy: 'Mo Oakes',
  createdAt: '2026-04-01T09:00:00Z',
  step: 4,
  ...more,
});

describe('what came in so far', () => {
  it('is each file with its account, days, lines and who brought it', async () => {
    renderInBooks(<Batches />, { answers: { 'GET /batches': { batches: [batch('march')] } } });
    const link = await screen.findByRole('link', { name: 'march.ofx' });
    expect(link.getAttribute('href')).toContain('march');
    const [, row] = screen.getAllByRole('row');
    expect(row?.textContent).toBe('march.ofxEveryday account01 Mar to 31 Mar1129801 AprMo Oakes');
    expect(row?.className).toBe('');
  });

  it('says what was refused and why, what was taken back, and what was imported without', async () => {
    const lost = { severity: 'error', place: 'line 4', message: 'no amount' } as const;
    const notice = { severity: 'notice', place: 'line 1', message: 'no balance' } as const;
    renderInBooks(<Batches />, {
      answers: {
        'GET /batches': {
          batches: [
            batch('refused', {
              status: 'refused',
              refusal: { code: 'FILE_EMPTY', message: 'The file is empty.' },
              fromDate: null,
              toDate: null,
            }),
            batch('back', { status: 'takenBack' }),
            batch('partly', { problems: [lost, lost, notice] as unknown as Batch['problems'] }),
          ],
        },
      },
    });
    await screen.findByText('The file is empty.');
    const [, refused, back, partly] = screen.getAllByRole('row');
    expect(refused?.textContent).toContain('The file is empty.');
    expect(refused?.textContent).toContain('refused');
    expect(refused?.querySelector('a')).toBeNull();
    expect(refused?.textContent).not.toContain('112');
    expect(back?.textContent).toContain('undone');
    expect(back?.querySelector('a')).not.toBeNull();
    expect(back?.className).toBe('quiet');
    expect(partly?.textContent).toContain('imported without 2 records');
  });

  it('is looked at again while something comes in, and not after', async () => {
    let asked = 0;
    renderInBooks(<Batches />, {
      answers: {
        'GET /batches': () => {
          asked += 1;
          return { batches: [batch('april', { status: asked < 3 ? 'reading' : 'kept' })] };
        },
      },
    });
    expect(await screen.findByText('importing …')).toBeDefined();
    await waitFor(() => expect(screen.queryByText('importing …')).toBeNull(), { timeout: 4_000 });
    expect(asked).toBe(3);
    await new Promise((done) => setTimeout(done, 900));
    expect(asked).toBe(3);
  });

  it('says where nothing has come in, and why it can’t be told', async () => {
    const { unmount } = renderInBooks(<Batches />, {
      answers: { 'GET /batches': { batches: [] } },
    });
    expect(await screen.findByText('No files imported yet.')).toBeDefined();
    unmount();
    renderInBooks(<Batches />, { answers: { 'GET /batches': () => problem('BOOKS_UNKNOWN') } });
    expect(await screen.findByRole('alert')).toBeDefined();
  });
});
