import { screen, waitFor } from '@testing-library/react';
import { expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks } from '../../testing/testBooks.ts';
import { ClosingPanel } from './ClosingPanel.tsx';

it('gives a role leave, and sets what is too old, for the owner only', async () => {
  const { user, sent } = renderInBooks(<ClosingPanel />);
  await user.click(await screen.findByLabelText('Reviewer may reopen statements and months'));
  expect(sent.at(-1)?.body).toMatchObject({ leaves: { reopen: ['reviewer'], close: [] } });
  const days = screen.getByLabelText<HTMLInputElement>('On suspense, in days');
  // While something is being saved, nothing else is changed.
  const isFree = () => waitFor(() => expect(days.disabled).toBe(false));
  await isFree();
  await user.clear(days);
  await user.type(days, '21');
  await user.tab();
  expect(sent.at(-1)?.body).toEqual({ ages: { suspense: 21, transit: 7, outstanding: 60 } });
  await isFree();
  await user.clear(days);
  await user.type(days, '0');
  await user.tab();
  expect(sent.filter(({ method }) => method === 'PATCH')).toHaveLength(2);
});

it('is only shown to others', async () => {
  renderInBooks(<ClosingPanel />, { setup: testBooks({ role: 'bookkeeper' }) });
  expect(await screen.findByText('Mo Oakes can change this.')).toBeDefined();
  for (const box of screen.getAllByRole('checkbox')) {
    expect(box.hasAttribute('disabled')).toBe(true);
  }
});
