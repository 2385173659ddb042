import { screen, waitFor, within } from '@testing-library/react';
import type { Feed } from '@zubrell/contract/feeds';
import { Toaster } from 'sonner';
import { describe, expect, it } from 'vitest';
import { type Answers, problem, renderInBooks } from '../../../testing/renderInBooks.tsx';
import { testBooks } from '../../../testing/testBooks.ts';
import { testFeed, testFetched } from '../../../testing/testFeed.ts';
import { FeedRow } from './FeedRow.tsx';

const card = { remoteName: 'Studio card', remoteNumber: '8823', bankAccountId: 'everyday' };

function shown(change: Partial<Feed> = {}, answers: Answers = {}, setup = testBooks()) {
  return renderInBooks(
    <>
      <table>
        <tbody>
          <FeedRow feed={testFeed({ ...card, ...change })} />
        </tbody>
      </table>
      <Toaster />
    </>,
    { setup, answers },
  );
}
const fetched = { ...testFetched, doubtfulCount: 1, batchId: 'batch', difference: 450 };

describe('a feed', () => {
  it('says what the last fetch brought, and leads to it', async () => {
    shown({ lastAt: '2026-03-31T06:00:00Z', result: fetched });
    expect(screen.getByText('Wick & Alder 8823')).toBeTruthy();
    expect(
      screen.getByText('3 new of 12 lines, 1 perhaps already imported; the balance is off by 4.50')
        .className,
    ).toBe('doubt');
    expect(screen.getByRole('link', { name: 'its batch' }).getAttribute('href')).toBe(
      '/books/books/intake/batch',
    );
  });

  it('tells amounts in the currency of its account', () => {
    const setup = testBooks();
    const [everyday] = setup.bankAccounts;
    if (!everyday) throw new Error('no bank account');
    shown(
      { result: fetched, lastAt: '2026-03-31T06:00:00Z' },
      {},
      {
        ...setup,
        bankAccounts: [{ ...everyday, currency: 'USD' }],
      },
    );
    expect(screen.getByText(/the balance is off by .*4\.50/).textContent).toContain('USD');
  });

  it('is changed field by field', async () => {
    const { user, sent } = shown();
    await user.selectOptions(
      screen.getByRole('combobox', { name: 'Studio card looks back' }),
      '30',
    );
    await user.click(screen.getByRole('checkbox', { name: 'Fetch Studio card daily' }));
    await user.selectOptions(screen.getByRole('combobox', { name: 'Studio card feeds' }), '');
    await waitFor(() =>
      expect(sent.filter(({ method }) => method !== 'GET').map(({ body }) => body)).toEqual([
        { lookBackDays: 30 },
        { isDaily: false },
        { bankAccountId: null },
      ]),
    );
  });

  it('is fetched at once, and says why it could not be', async () => {
    const { user } = shown(
      {},
      { 'POST /feeds/feed/fetch': problem('FEED_CONSENT_EXPIRED', { bank: 'Wick & Alder' }) },
    );
    await user.click(screen.getByRole('button', { name: 'Fetch now' }));
    await screen.findByText(/consent/i);
  });

  it('can’t be fetched before it has an account, or while it is', () => {
    shown({ bankAccountId: null });
    expect(screen.getByRole('button', { name: 'Fetch now' }).hasAttribute('disabled')).toBe(true);
    shown({ isFetching: true });
    expect(screen.getByRole('button', { name: 'Fetching …' }).hasAttribute('disabled')).toBe(true);
  });

  it('asks to sign in again where the consent has ended', () => {
    shown({
      lastAt: '2026-03-31T06:00:00Z',
      lastGoodAt: '2026-03-29T06:00:00Z',
      result: { kind: 'trouble', code: 'FEED_CONSENT_EXPIRED', message: 'The consent has ended.' },
    });
    expect(screen.getByText('The consent has ended.').className).toBe('trouble');
    expect(screen.getByText(/^Last succeeded/)).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Sign in again' })).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Fetch now' })).toBeNull();
  });

  it('shows what the bank has announced', () => {
    shown({ announced: [{ date: '2026-04-01', amount: -990, description: 'HEXHAM' }] });
    expect(screen.getByText('1 announced, not booked yet')).toBeTruthy();
    const item = screen.getByRole('listitem');
    expect(within(item).getByText('HEXHAM')).toBeTruthy();
    expect(item.textContent).toContain('9.90');
  });

  it('is ended after asking once more', async () => {
    const { user, sent } = shown();
    await user.click(screen.getByRole('button', { name: 'End the feed of Studio card' }));
    await user.click(screen.getByRole('button', { name: 'Cancel' }));
    await user.click(screen.getByRole('button', { name: 'End the feed of Studio card' }));
    expect(screen.getByText('The imported lines stay.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'End feed' }));
    await waitFor(() => expect(sent.filter(({ method }) => method !== 'GET')).toHaveLength(1));
  });
});
