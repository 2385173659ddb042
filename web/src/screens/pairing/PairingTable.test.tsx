import { screen, waitFor, within } from '@testing-library/react';
import type { PairingView } from '@zubrell/contract/pairing';
import { expect, it, vi } from 'vitest';
import { renderInBooks, type Sent } from '../../testing/renderInBooks.tsx';
import { testPairing } from '../../testing/testPairing.ts';
import { PairingTable } from './PairingTable.tsx';

function shown(change: Partial<PairingView> = {}) {
  const onBack = vi.fn();
  const given = renderInBooks(
    <PairingTable
      view={testPairing(change)}
      lineIds={['line']}
      search=""
      onSearch={() => undefined}
      onLines={() => undefined}
      onBack={onBack}
    />,
    {
      answers: {
        'POST /lines/pair': { step: 18, words: 'Paired 1 line', done: [], leftOut: [] },
      },
    },
  );
  return { ...given, onBack };
}

const paired = (sent: readonly Sent[]) => sent.find(({ path }) => path === '/lines/pair');
const foot = () => within(screen.getByRole('contentinfo'));
const rowOf = (number: string) =>
  screen.getAllByRole('row').find(({ textContent }) => textContent?.includes(number)) ??
  expect.unreachable(`no row has ${number}`);

it('adds up what is ticked, and pairs only where both sides come to the same', async () => {
  const { user, sent, onBack } = shown();
  const pair = () => foot().getByRole('button', { name: /Pair|↵/ });
  expect(foot().getByText('Nothing ticked')).toBeTruthy();
  expect((pair() as HTMLButtonElement).disabled).toBe(true);
  await user.click(within(rowOf('2093')).getByRole('checkbox'));
  expect(foot().getByText('1 ticked')).toBeTruthy();
  expect(foot().getByText('−40.50', { selector: 'b.doubt' })).toBeTruthy();
  expect((pair() as HTMLButtonElement).disabled).toBe(true);
  await user.click(within(rowOf('2094')).getByRole('checkbox'));
  expect(foot().getByText('0.00')).toBeTruthy();
  await user.click(pair());
  await waitFor(() => expect(onBack).toHaveBeenCalledOnce());
  expect(paired(sent)).toMatchObject({
    body: {
      lineIds: ['line'],
      targetIds: ['2093', '2094'],
      difference: null,
      seenStep: 17,
    },
  });
});

it('has what is proposed ticked already, so that Enter pairs it', async () => {
  const { user, sent } = shown({ proposed: ['2093', '2094'], isCertain: true });
  expect(foot().getByText('2 ticked')).toBeTruthy();
  await user.keyboard('{Enter}');
  await waitFor(() => expect(sent.map(({ path }) => path)).toContain('/lines/pair'));
});

it('goes through the offers by keys, and ticks with the space bar', async () => {
  const { user } = shown();
  await user.keyboard('{ArrowDown} ');
  expect(foot().getByText('1 ticked')).toBeTruthy();
  expect((within(rowOf('2094')).getByRole('checkbox') as HTMLInputElement).checked).toBe(true);
  await user.keyboard(' ');
  expect(foot().getByText('Nothing ticked')).toBeTruthy();
});

it('asks what becomes of a difference before it pairs', async () => {
  const { user, sent } = shown();
  await user.click(within(rowOf('2051')).getByRole('checkbox'));
  await user.keyboard('{Enter}');
  expect(paired(sent)).toBeUndefined();
  const choices = screen.getAllByRole('radio');
  expect(choices.length).toBeGreaterThan(1);
  const [first] = choices;
  await user.click(first ?? expect.unreachable());
  await user.click(foot().getByRole('button', { name: /^Pair/ }));
  await waitFor(() =>
    expect(paired(sent)?.body).toMatchObject({
      targetIds: ['2051'],
      difference: { kind: expect.any(String) },
    }),
  );
});
