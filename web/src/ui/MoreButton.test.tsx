import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, expect, it, vi } from 'vitest';
import { MoreButton } from './MoreButton.tsx';

afterEach(cleanup);

function open(hasNextPage: boolean, isFetching = false) {
  const fetchNextPage = vi.fn();
  render(
    <MoreButton pages={{ hasNextPage, isFetching, fetchNextPage }}>Show more lines</MoreButton>,
  );
  return { user: userEvent.setup(), fetchNextPage };
}

it('the next page of a list is fetched by a press', async () => {
  const { user, fetchNextPage } = open(true);
  await user.click(screen.getByRole('button', { name: 'Show more lines' }));
  expect(fetchNextPage).toHaveBeenCalledOnce();
});

it('the next page of a list is not asked for twice while it comes', async () => {
  const { user, fetchNextPage } = open(true, true);
  await user.click(screen.getByRole('button', { name: 'Show more lines' }));
  expect(fetchNextPage).not.toHaveBeenCalled();
});

it('the last page of a list has no button', () => {
  open(false);
  expect(screen.queryByRole('button')).toBeNull();
});
