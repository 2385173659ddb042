import { screen, waitFor, within } from '@testing-library/react';
import { Toaster } from 'sonner';
import { describe, expect, it } from 'vitest';
import { problem, renderInBooks, type Sent } from '../../testing/renderInBooks.tsx';
import { testBooks } from '../../testing/testBooks.ts';
import { LockDate } from '../ledger/LockDate.tsx';
import { AddressPanel } from './AddressPanel.tsx';
import { DemandsPanel } from './DemandsPanel.tsx';
import { PreferencesPanel } from './PreferencesPanel.tsx';

const changes = (sent: readonly Sent[]) =>
  sent.filter(({ method }) => method !== 'GET').map(({ body }) => body);

describe('required fields', () => {
  const setup = testBooks({ demands: { expense: ['payeeId'] } });

  it('are ticked one by one, beside those that were', async () => {
    const { user, sent } = renderInBooks(<DemandsPanel />, { setup });
    const row = within(screen.getByRole('row', { name: /Costs/ }));
    expect(row.getByRole('checkbox', { name: /payee/ })).toHaveProperty('checked', true);
    await user.click(row.getByRole('checkbox', { name: /tax/ }));
    await waitFor(() =>
      expect(changes(sent)).toEqual([{ demands: { expense: ['payeeId', 'taxCodeId'] } }]),
    );
  });

  it('are unticked, and leave the other types alone', async () => {
    const { user, sent } = renderInBooks(<DemandsPanel />, { setup });
    await user.click(screen.getByRole('checkbox', { name: /Costs: require .*payee/ }));
    await waitFor(() => expect(changes(sent)).toEqual([{ demands: { expense: [] } }]));
  });

  it('come with from when a purchase may be an asset, which can be never', async () => {
    const { user, sent } = renderInBooks(<DemandsPanel />, { setup });
    const amount = screen.getByRole('textbox', {
      name: 'Amount from which a purchase may be a fixed asset',
    });
    await user.clear(amount);
    await user.tab();
    await waitFor(() => expect(changes(sent)).toEqual([{ assetThreshold: null }]));
  });

  it('and who makes accounts are the owner’s to say', () => {
    renderInBooks(<DemandsPanel />, { setup: testBooks({ role: 'bookkeeper' }) });
    expect(screen.getByText('Mo Oakes can change this.')).toBeTruthy();
    for (const box of screen.getAllByRole('checkbox')) expect(box.matches(':disabled')).toBe(true);
  });
});

describe('what a user sees of a line', () => {
  it('is hidden and shown again, all else as it was', async () => {
    const { user, sent } = renderInBooks(<PreferencesPanel />);
    await user.click(screen.getByRole('checkbox', { name: 'Note' }));
    await user.click(screen.getByRole('checkbox', { name: 'Reference' }));
    await waitFor(() =>
      expect(changes(sent)).toEqual([
        { hiddenFields: ['note'], bankFields: ['bankAccount', 'reference'] },
        { hiddenFields: [], bankFields: ['bankAccount'] },
      ]),
    );
  });

  it('says why it could not be kept', async () => {
    const { user } = renderInBooks(
      <>
        <PreferencesPanel />
        <Toaster />
      </>,
      { answers: { 'PUT /preferences': problem('BOOKS_UNKNOWN') } },
    );
    await user.click(screen.getByRole('checkbox', { name: 'Tax' }));
    await screen.findByText(/books/i, { selector: '[data-title]' });
  });
});

describe('the address on invoices', () => {
  it('is saved without spaces around it, once something is new', async () => {
    const { user, sent } = renderInBooks(<AddressPanel />);
    const save = screen.getByRole('button', { name: 'Save address' });
    expect(save.hasAttribute('disabled')).toBe(true);
    await user.type(screen.getByRole('textbox', { name: 'Address of the business' }), ' 3 Quay ');
    await user.type(screen.getByRole('textbox', { name: /Tax number/ }), 'LK 77');
    await user.type(screen.getByRole('textbox', { name: /Country/ }), 'i');
    expect(screen.getByText('A country has two letters.')).toBeTruthy();
    expect(save.hasAttribute('disabled')).toBe(true);
    await user.type(screen.getByRole('textbox', { name: /Country/ }), 'e');
    await user.click(save);
    await waitFor(() =>
      expect(changes(sent)).toEqual([{ address: '3 Quay', taxNumber: 'LK 77', country: 'IE' }]),
    );
  });

  it('is shown to others, and not theirs to change', () => {
    renderInBooks(<AddressPanel />, { setup: testBooks({ role: 'reviewer' }) });
    expect(screen.getByText('Mo Oakes can change this.')).toBeTruthy();
    expect(screen.queryByRole('button')).toBeNull();
  });
});

describe('closed periods', () => {
  it('are closed up to a day', async () => {
    const { user, sent } = renderInBooks(<LockDate />);
    expect(screen.getByText('No period is closed.')).toBeTruthy();
    const close = screen.getByRole('button', { name: 'Close' });
    expect(close.hasAttribute('disabled')).toBe(true);
    await user.type(screen.getByRole('textbox', { name: 'Close the books up to' }), '28 Feb 2026');
    await user.tab();
    await user.click(close);
    await waitFor(() => expect(changes(sent)).toEqual([{ lockDate: '2026-02-28' }]));
  });

  it('are all opened again by the owner, and only by them', async () => {
    const setup = testBooks({ lockDate: '2026-02-28' });
    const { user, sent, unmount } = renderInBooks(<LockDate />, { setup });
    expect(screen.getByText(/^Closed up to 28 February 2026/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Open all' }));
    await waitFor(() => expect(changes(sent)).toEqual([{ lockDate: null }]));
    unmount();
    renderInBooks(<LockDate />, { setup: testBooks({ role: 'bookkeeper' }) });
    expect(screen.queryByRole('button')).toBeNull();
  });
});
