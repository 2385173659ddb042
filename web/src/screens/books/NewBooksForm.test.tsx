import { screen, waitFor } from '@testing-library/react';
import { expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { NewBooksForm } from './NewBooksForm.tsx';

it('makes books with currency, tax codes and the month the year begins, and leads to their Board', async () => {
  const { user, sent, router } = renderInBooks(<NewBooksForm />, {
    answers: { 'POST /api/books': { id: 'new' } },
  });
  await user.type(screen.getByLabelText('Name of the business'), 'Saltmarsh Kayaks');
  await user.clear(screen.getByLabelText('Currency'));
  await user.type(screen.getByLabelText('Currency'), 'gbp');
  await user.selectOptions(screen.getByLabelText('Month the year begins'), 'April');
  await user.selectOptions(screen.getByLabelText('Starting tax codes'), 'No tax');
  await user.click(screen.getByRole('button', { name: 'Create books' }));
  await waitFor(() => expect(router.state.location.pathname).toBe('/books/new/board'));
  expect(sent.find(({ method }) => method === 'POST')?.body).toEqual({
    name: 'Saltmarsh Kayaks',
    currency: 'GBP',
    taxSet: 'none',
    yearBegins: 4,
  });
});

it('says what is missing, and makes nothing', async () => {
  const { user, sent } = renderInBooks(<NewBooksForm />);
  await user.clear(screen.getByLabelText('Currency'));
  await user.type(screen.getByLabelText('Currency'), 'euros');
  await user.click(screen.getByRole('button', { name: 'Create books' }));
  await screen.findByText(/three capital letters, such as EUR/);
  expect(sent.some(({ method }) => method === 'POST')).toBe(false);
});
