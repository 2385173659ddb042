import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { HandOverScreen } from './HandOverScreen.tsx';

describe('handing over', () => {
  it('saves the period that is chosen', () => {
    renderInBooks(<HandOverScreen />, { query: '?from=2026-01-01&to=2026-03-31' });
    expect(
      screen.getByText('All of 1 January 2026 to 31 March 2026 as one ZIP file'),
    ).toBeDefined();
    expect(screen.getByRole('link', { name: 'Save archive' }).getAttribute('href')).toBe(
      '/api/books/books/hand-over?from=2026-01-01&to=2026-03-31',
    );
  });

  it('offers nothing where the days are turned', () => {
    renderInBooks(<HandOverScreen />, { query: '?from=2026-04-01&to=2026-03-31' });
    expect(screen.queryByRole('link', { name: 'Save archive' })).toBeNull();
    expect(screen.getByText(/The first day comes after the last/)).toBeDefined();
  });
});
