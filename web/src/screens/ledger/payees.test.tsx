import { screen, waitFor, within } from '@testing-library/react';
import type { BooksSetup, Payee, PayeeUse } from '@zubrell/contract/books';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks, testPayee } from '../../testing/testBooks.ts';
import { PayeeRow } from './PayeeRow.tsx';
import { PayeesPage } from './PayeesPage.tsx';

const payee = (id: string, name: string, more: Partial<Payee> = {}): Payee => ({
  ...testPayee,
  id,
  name,
  ...more,
});
const withPayees = (payees: readonly Payee[]): BooksSetup => ({
  ...testBooks(),
  payees: [...payees],
});
const PAYEES = [
  payee('clay', 'Penhallow Clay'),
  payee('cafe', 'Cobble Café', { kind: 'other' }),
  payee('old', 'Cobble Coffee', { mergedInto: 'cafe', isOn: false }),
];
const USE: PayeeUse = {
  payeeId: 'clay',
  usualAccountId: '6010',
  usualTaxCodeId: null,
  entryCount: 12,
  lastDate: '2026-03-26',
};
const shown = () =>
  renderInBooks(<PayeesPage />, {
    setup: withPayees(PAYEES),
    answers: {
      'GET /payee-uses': { uses: [USE] },
      'PATCH /payees/clay': { words: 'Renamed', step: 5 },
      'POST /payees/clay/merge': { words: 'Put together', step: 6 },
    },
  });
const names = () =>
  screen
    .getAllByRole('textbox', { name: /^Name of/ })
    .map((each) => (each as HTMLInputElement).value);

/** A payee whom somebody else renames. */
function RenamedElsewhere() {
  const [name, setName] = useState('Penhallow Clay');
  return (
    <>
      <button type="button" onClick={() => setName('Penhallow Clays')}>
        rename elsewhere
      </button>
      <table>
        <tbody>
          <PayeeRow payee={payee('clay', name)} use={USE} />
        </tbody>
      </table>
    </>
  );
}

describe('the payees', () => {
  it('stand with what they are used for, but for those that are another one', async () => {
    shown();
    expect(names()).toEqual(['Penhallow Clay', 'Cobble Café']);
    const link = await screen.findByRole('link', { name: '12' });
    expect(link.getAttribute('href')).toBe('/books/books/desk?lane=decided&q=Penhallow%20Clay');
    const [, row] = screen.getAllByRole('row');
    expect(row?.textContent).toContain('6010 Freight out');
    expect(row?.textContent).toContain('26 Mar');
  });

  it('are found by a part of their name, without case and accents', async () => {
    const { user } = shown();
    await user.type(screen.getByLabelText('Search payees'), 'CAFE');
    expect(names()).toEqual(['Cobble Café']);
  });

  it('are renamed where they stand, and an empty name is not taken', async () => {
    const { user, sent } = shown();
    const field = screen.getByLabelText('Name of Penhallow Clay');
    await user.clear(field);
    await user.tab();
    expect(names()[0]).toBe('Penhallow Clay');
    await user.type(field, ' and Glaze');
    await user.tab();
    await waitFor(() => expect(sent.some(({ method }) => method === 'PATCH')).toBe(true));
    const patches = sent.filter(({ method }) => method === 'PATCH');
    expect(patches).toEqual([
      { method: 'PATCH', path: '/payees/clay', body: { name: 'Penhallow Clay and Glaze' } },
    ]);
  });

  it('that somebody else renamed are not named back by going through the field', async () => {
    const { user, sent } = renderInBooks(<RenamedElsewhere />);
    await user.click(screen.getByRole('button', { name: 'rename elsewhere' }));
    expect(names()).toEqual(['Penhallow Clays']);
    await user.click(screen.getByRole('textbox', { name: 'Name of Penhallow Clays' }));
    await user.tab();
    expect(sent).toEqual([]);
  });

  it('change their kind, go out of use, and are put together with another', async () => {
    const { user, sent } = shown();
    const sentTo = (path: string) => sent.filter((each) => each.path === path).at(-1)?.body;
    await user.selectOptions(screen.getByLabelText('Kind of Penhallow Clay'), 'customer');
    await waitFor(() => expect(sentTo('/payees/clay')).toEqual({ kind: 'customer' }));
    await user.click(screen.getByLabelText('Penhallow Clay is in use'));
    await waitFor(() => expect(sentTo('/payees/clay')).toEqual({ isOn: false }));
    const really = screen.getByLabelText('Merge Penhallow Clay into');
    const choices = within(really)
      .getAllByRole('option')
      .map(({ textContent }) => textContent);
    expect(choices).toEqual(['itself', 'Cobble Café']);
    await user.selectOptions(really, 'cafe');
    await waitFor(() => expect(sentTo('/payees/clay/merge')).toEqual({ into: 'cafe' }));
  });

  it('hide those that nothing was posted with', async () => {
    const { user } = shown();
    await screen.findByRole('link', { name: '12' });
    await user.click(screen.getByLabelText('Hide unused'));
    expect(names()).toEqual(['Penhallow Clay']);
  });

  it('have accounts of their own where they are owners or another business of the owner', async () => {
    const mo = payee('mo', 'Mo Oakes', { kind: 'owner' });
    const haulage = payee('haulage', 'Oakes Haulage', { kind: 'relatedBusiness' });
    const { user, sent } = renderInBooks(<PayeesPage />, {
      setup: withPayees([mo, haulage]),
      answers: {
        'GET /payee-uses': { uses: [] },
        'PATCH /payees/mo': { words: 'Changed', step: 5 },
      },
    });
    const [ofMo, ofHaulage] = await screen.findAllByRole('button', { name: 'Set accounts' });
    await user.click(ofHaulage as HTMLElement);
    expect(screen.getByLabelText('Account between the two')).toBeDefined();
    expect(screen.queryByLabelText('Capital introduced')).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Cancel' }));
    await user.click(ofMo as HTMLElement);
    const drawings = screen.getByLabelText('Drawings');
    // Neither bank accounts nor income can be an owner's drawings.
    const choices = within(drawings).getAllByRole('option');
    expect(choices.map(({ textContent }) => textContent)).toEqual([
      'Shared by all owners',
      '1500 Equipment',
      '3020 Owner’s drawings',
    ]);
    await user.selectOptions(drawings, '3020');
    await user.click(screen.getByLabelText('Create missing accounts'));
    await user.click(screen.getByRole('button', { name: 'Save accounts and address' }));
    await waitFor(() => expect(sent.some(({ method }) => method === 'PATCH')).toBe(true));
    expect(sent.find(({ method }) => method === 'PATCH')?.body).toMatchObject({
      accountId: '3020',
      capitalAccountId: null,
      makesAccounts: true,
    });
  });

  it('are made as lines are coded', () => {
    renderInBooks(<PayeesPage />, { setup: withPayees([]) });
    expect(screen.getByText('No payee yet')).toBeDefined();
  });
});
