import { screen, waitFor } from '@testing-library/react';
import type { Role } from '@zubrell/contract/books';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks } from '../../testing/testBooks.ts';
import { OtherBooksPanel } from './OtherBooksPanel.tsx';

const member = (name: string, role: Role, seesOtherBooks = false) => ({
  userId: name,
  name,
  email: `${name}@larkmoor.example`,
  role,
  seesOtherBooks,
});

function open(role: Role, usesOtherBooks: boolean, members = [member('Mo Oakes', 'owner')]) {
  const { books, ...rest } = testBooks();
  const setup = { ...rest, books: { ...books, role, usesOtherBooks, owners: ['Mo Oakes'] } };
  const done = { step: 3, words: 'Turned on proposals from the owner’s other books' };
  const answers = { 'GET /people': { members, invitations: [] }, 'PATCH ': done };
  return renderInBooks(<OtherBooksPanel />, { setup, answers });
}

describe('the switch for other books', () => {
  it('is the owner’s, and explains what is shown', async () => {
    const { user, sent } = open('owner', false);
    expect(screen.getByText(/all they show of the other books is how many agree/)).toBeTruthy();
    expect(screen.queryByText('Who may see these proposals')).toBeNull();
    await user.click(screen.getByLabelText('Use coding from my other books'));
    await waitFor(() =>
      expect(sent).toContainEqual({ method: 'PATCH', path: '', body: { usesOtherBooks: true } }),
    );
  });

  it('is locked for others, with who can change it', () => {
    open('bookkeeper', false);
    expect(screen.getByText('Mo Oakes can change this.')).toBeTruthy();
    expect(screen.getByRole<HTMLInputElement>('checkbox').disabled).toBe(true);
  });

  it('says whom it waits for, and lets them see it', async () => {
    const members = [
      member('Mo Oakes', 'owner'),
      member('Ina Soltveit', 'bookkeeper'),
      member('Rosa Lindqvarn', 'reviewer', true),
      member('Ewan Pell', 'client'),
    ];
    const { user, sent } = open('owner', true, members);
    await screen.findByText(/while Ina Soltveit works here and may not see these proposals/);
    expect(screen.queryByLabelText('Ewan Pell')).toBeNull();
    expect(screen.getByLabelText<HTMLInputElement>('Rosa Lindqvarn').checked).toBe(true);
    await user.click(screen.getByLabelText('Ina Soltveit'));
    await waitFor(() =>
      expect(sent).toContainEqual({
        method: 'PATCH',
        path: '/people/Ina%20Soltveit/other-books',
        body: { seesOtherBooks: true },
      }),
    );
  });
});
