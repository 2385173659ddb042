import { screen, within } from '@testing-library/react';
import type { RuleTakes } from '@zubrell/contract/rules';
import { useState } from 'react';
import { describe, expect, it, vi } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testRuleBody } from '../../testing/testRule.ts';
import { emptyCondition } from './ruleDraft.ts';
import { TakesFields } from './TakesFields.tsx';

const { takes } = testRuleBody('tidemark');

/** Keeps what is changed, as the editor does. */
function Held({ changed }: { readonly changed: (takes: RuleTakes) => void }) {
  const [now, setNow] = useState(takes);
  return (
    <TakesFields
      takes={now}
      onChange={(next) => {
        changed(next);
        setNow(next);
      }}
    />
  );
}

function open() {
  const changed = vi.fn<(takes: RuleTakes) => void>();
  const view = renderInBooks(<Held changed={changed} />);
  return { ...view, now: () => changed.mock.lastCall?.[0] };
}

describe('which lines a rule takes', () => {
  it('is a direction, and all or any of its conditions', async () => {
    const { user, now } = open();
    await user.selectOptions(await screen.findByLabelText('Direction'), 'lines in and out');
    expect(now()).toMatchObject({ direction: 'either', match: 'all' });
    await user.selectOptions(screen.getByLabelText('All or any of the conditions'), 'any');
    expect(now()).toMatchObject({ direction: 'either', match: 'any' });
    expect(now()?.conditions).toEqual(takes.conditions);
  });

  it('gets another condition, and keeps the last one', async () => {
    const { user, now } = open();
    await screen.findByLabelText('Direction');
    const removes = () => screen.queryAllByRole('button', { name: /^Remove/ });
    expect(removes()).toHaveLength(0);
    await user.click(screen.getByRole('button', { name: '+ condition' }));
    expect(now()?.conditions).toEqual([...takes.conditions, emptyCondition]);
    const [first] = removes();
    if (!first) throw new Error('of two conditions each can be removed');
    await user.click(first);
    expect(now()?.conditions).toEqual([emptyCondition]);
    expect(removes()).toHaveLength(0);
  });

  it('gets a group that holds the other way, which goes with its last condition', async () => {
    const { user, now } = open();
    await user.click(await screen.findByRole('button', { name: '+ group' }));
    const group = within(screen.getByRole('group', { name: 'A group of conditions' }));
    expect(now()?.conditions.at(-1)).toEqual({
      kind: 'group',
      match: 'any',
      conditions: [emptyCondition],
    });
    await user.click(group.getByRole('button', { name: '+ condition' }));
    expect(now()?.conditions.at(-1)).toMatchObject({
      conditions: [emptyCondition, emptyCondition],
    });
    await user.selectOptions(group.getByLabelText('All or any of the conditions'), 'all');
    expect(now()?.conditions.at(-1)).toMatchObject({ kind: 'group', match: 'all' });
    for (const left of [1, 0]) {
      const [remove] = group.getAllByRole('button', { name: /^Remove/ });
      if (remove) await user.click(remove);
      expect(now()?.conditions.filter(({ kind }) => kind === 'group')).toHaveLength(left);
    }
    expect(now()?.conditions).toEqual(takes.conditions);
  });
});
