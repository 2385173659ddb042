import { screen, waitFor, within } from '@testing-library/react';
import type { Habits } from '@zubrell/contract/habits';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { setRoomForRows } from '../../testing/roomForRows.ts';
import { testBooks } from '../../testing/testBooks.ts';
import { testHabit } from '../../testing/testHabit.ts';
import { HabitsScreen } from './HabitsScreen.tsx';

setRoomForRows();

const [account] = testBooks().accounts;

const habit = (name: string, times: number) =>
  testHabit({
    key: `· ${name.toUpperCase()}`,
    name,
    stems: [name.toUpperCase()],
    accounts: [{ accountId: account?.id ?? '', times }],
    times,
    kept: 3,
    looked: 4,
    lastDate: '2026-03-02',
  });

function shown(answer: (query: URLSearchParams) => Habits) {
  return renderInBooks(<HabitsScreen />, { answers: { 'GET /habits': answer } });
}

const few = [habit('Tidemark Freight', 12), habit('Orrin Bell', 5), habit('Saltmarsh Stall', 2)];
const rows = async () => {
  const side = within(await screen.findByRole('complementary', { name: 'Habits' }));
  return side.queryAllByRole('listitem').map((row) => row.querySelector('b')?.textContent);
};

describe('habits', () => {
  it('say that nothing was learned yet', async () => {
    shown(() => ({ items: [], next: null, total: 0, ruleCount: 0 }));
    expect(await screen.findByText('Nothing learned yet')).toBeDefined();
    expect(screen.queryByRole('searchbox')).toBeNull();
  });

  it('that are few are searched here', async () => {
    const { user, sent } = shown(() => ({ items: few, next: null, total: 3, ruleCount: 1 }));
    await waitFor(async () => expect(await rows()).toHaveLength(3));
    await user.type(screen.getByRole('searchbox'), 'orrin');
    expect(await rows()).toEqual(['Orrin Bell']);
    await user.type(screen.getByRole('searchbox'), 'x');
    expect(await screen.findByText('No habits match.')).toBeDefined();
    expect(sent.filter(({ path }) => path.startsWith('/habits'))).toHaveLength(1);
  });

  it('that are many come page by page, and are looked for on the server', async () => {
    const { user, sent } = shown((query) => {
      const page = { total: 4_000, ruleCount: 1 };
      if (query.get('search') !== null) {
        return { items: [habit('Wick Attachment', 1)], next: null, ...page };
      }
      return query.get('cursor') === null
        ? { items: few, next: 'more', ...page }
        : { items: [habit('Harrow Yard', 1)], next: null, ...page };
    });
    await screen.findByText('4,000 habits, those with the most lines first.');
    await waitFor(async () => expect(await rows()).toHaveLength(4));
    expect((await rows()).at(-1)).toBe('Harrow Yard');
    await user.type(screen.getByRole('searchbox'), 'wick');
    await waitFor(async () => expect(await rows()).toEqual(['Wick Attachment']));
    expect(sent.map(({ path }) => path).filter((path) => path.startsWith('/habits'))).toEqual([
      '/habits',
      '/habits?cursor=more',
      '/habits?search=wick',
    ]);
    expect(
      screen.getByText('Those of 4,000 habits with this name, the ones with the most lines first.'),
    ).toBeDefined();
    await user.clear(screen.getByRole('searchbox'));
    await waitFor(async () => expect(await rows()).toHaveLength(4));
  });

  it('are gone through by the arrows, and one is looked at', async () => {
    const { user, router } = shown(() => ({ items: few, next: null, total: 3, ruleCount: 1 }));
    await user.click(await screen.findByRole('button', { name: /Tidemark Freight/ }));
    expect(router.state.location.search).toContain('TIDEMARK');
    await user.keyboard('{ArrowDown}');
    expect(router.state.location.search).toContain('ORRIN');
    expect(await screen.findByRole('heading', { name: 'Orrin Bell' })).toBeDefined();
    await user.keyboard('{ArrowUp}');
    expect(router.state.location.search).toContain('TIDEMARK');
  });
});
