import { act, screen, waitFor } from '@testing-library/react';
import { createRef } from 'react';
import { describe, expect, it, vi } from 'vitest';
import { type Answers, renderInBooks } from '../../testing/renderInBooks.tsx';
import { setRoomForRows } from '../../testing/roomForRows.ts';
import { testRule } from '../../testing/testRule.ts';
import { RuleList } from './RuleList.tsx';

setRoomForRows();

const rules = [
  testRule(1, 'Tidemark', { used: 3, lastUsed: '2026-01-05' }),
  testRule(2, 'Orrin', { used: 40, lastUsed: '2026-03-20' }),
  testRule(3, 'Penhallow', { isOn: false, used: 0, open: 0, lastUsed: null }),
];
const done = { step: 8, words: 'Moved rule Orrin' };

function open(currentId: string | null = null, answers: Answers = {}) {
  return renderInBooks(
    <RuleList
      rules={rules}
      currentId={currentId}
      searchRef={createRef()}
      onCopyElsewhere={vi.fn()}
    />,
    {
      answers: { 'POST /rules/orrin/move': done, ...answers },
      place: { path: 'rules/*', address: 'rules' },
    },
  );
}

const names = () => screen.getAllByRole('link').map((link) => link.querySelector('b')?.textContent);
const moves = (sent: ReturnType<typeof open>['sent']) =>
  sent.filter(({ method }) => method === 'POST').map(({ path, body }) => [path, body]);

describe('the list of rules', () => {
  it('has them in their order, with how often each applies, and which are off', async () => {
    open();
    expect(await screen.findByText('Tidemark')).toBeDefined();
    expect(names()).toEqual(['Tidemark', 'Orrin', 'Penhallow']);
    const off = screen.getByText('Penhallow').closest('li');
    expect(off?.className).toContain('is-off');
    expect(off?.textContent).toMatch(/off ·.*off$/);
    expect(screen.getByText('Orrin').closest('li')?.textContent).toContain('42 lines');
  });

  it('is searched by name and word, and says where none match', async () => {
    const { user } = open();
    const field = await screen.findByLabelText('Search rules');
    await user.type(field, 'orr');
    expect(names()).toEqual(['Orrin']);
    await user.type(field, 'zzz');
    expect(screen.getByText('No rules match.')).toBeDefined();
  });

  it('is put in order by use', async () => {
    const { user } = open();
    await user.click(await screen.findByRole('button', { name: /^by/ }));
    await user.click(await screen.findByRole('button', { name: 'use' }));
    await waitFor(() => expect(names()).toEqual(['Orrin', 'Tidemark', 'Penhallow']));
  });

  it('is gone through by the arrows', async () => {
    const { user, router } = open('tidemark');
    const [first] = await screen.findAllByRole('link');
    act(() => first?.focus());
    await user.keyboard('{ArrowDown}');
    await waitFor(() => expect(router.state.location.pathname).toBe('/books/books/rules/orrin'));
  });

  it('has the rule one is on moved by Alt and the arrows, once for each press', async () => {
    const { user, sent } = open('orrin');
    const [, second] = await screen.findAllByRole('link');
    act(() => second?.focus());
    await user.keyboard('{Alt>}{ArrowUp}{/Alt}');
    await waitFor(() =>
      expect(moves(sent)).toEqual([['/rules/orrin/move', { beforeId: 'tidemark' }]]),
    );
    await user.keyboard('{Alt>}{ArrowDown}{/Alt}');
    await waitFor(() => expect(moves(sent).at(-1)?.[1]).toEqual({ beforeId: null }));
  });

  it('moves nothing while it is searched: the neighbours that are shown are not the real ones', async () => {
    const { user, sent } = open('orrin');
    await user.type(await screen.findByLabelText('Search rules'), 'orr');
    act(() => screen.getByRole('link').focus());
    await user.keyboard('{Alt>}{ArrowUp}{/Alt}');
    expect(moves(sent)).toEqual([]);
  });

  it('has all that are shown ticked at once, or one', async () => {
    const { user } = open();
    await user.click(await screen.findByLabelText('Tick Orrin'));
    const all = screen.getByLabelText<HTMLInputElement>('Tick all that are shown');
    const ticks = () =>
      screen.getAllByLabelText<HTMLInputElement>(/^Tick [A-Z]/).map(({ checked }) => checked);
    expect(screen.getByRole('toolbar', { name: 'Ticked rules' })).toBeDefined();
    expect([all.checked, ...ticks()]).toEqual([false, false, true, false]);
    await user.click(all);
    expect([all.checked, ...ticks()]).toEqual([true, true, true, true]);
    await user.click(all);
    expect(ticks()).toEqual([false, false, false]);
    expect(screen.queryByRole('toolbar')).toBeNull();
  });
});

it('books without rules say what a rule is for', async () => {
  renderInBooks(
    <RuleList rules={[]} currentId={null} searchRef={createRef()} onCopyElsewhere={vi.fn()} />,
  );
  expect(await screen.findByText('No rule yet')).toBeDefined();
});
