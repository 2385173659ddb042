import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { RulesTabs } from './RulesTabs.tsx';

describe('the tabs of rules and habits', () => {
  it('say how many there are, with their thousands apart, and where they are', async () => {
    renderInBooks(<RulesTabs current="habits" rules={12} habits={4_000} />);
    const habits = await screen.findByRole('link', { name: 'Habits 4,000' });
    expect(habits.getAttribute('href')).toMatch(/habits$/);
    expect(screen.getByRole('link', { name: 'Written 12' }).getAttribute('href')).toMatch(/rules$/);
  });

  it('say no number before it is known', async () => {
    renderInBooks(<RulesTabs current="written" rules={undefined} habits={undefined} />);
    expect(await screen.findByRole('link', { name: 'Written' })).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Habits' })).toBeTruthy();
  });
});
