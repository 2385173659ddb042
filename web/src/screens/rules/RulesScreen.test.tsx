import { screen, waitFor, within } from '@testing-library/react';
import type { ListedRule, RuleList, RuleTurns } from '@zubrell/contract/rules';
import { describe, expect, it } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { setRoomForRows } from '../../testing/roomForRows.ts';
import { testRule } from '../../testing/testRule.ts';
import { RulesScreen } from './RulesScreen.tsx';

setRoomForRows();

const RULES = [
  testRule(1, 'Freight'),
  testRule(2, 'Clay'),
  testRule(3, 'Stalls', { isOn: false, used: 0, open: 0, looked: 0, kept: 0 }),
];

/** What trying them on all lines found. */
const turns: RuleTurns = {
  found: [{ ruleId: 'clay', health: { kind: 'neverATurn', by: 'freight', lines: 4 } }],
  habitCount: 7,
};

function open(rules: readonly ListedRule[] | Response) {
  const list: RuleList | Response =
    rules instanceof Response ? rules : { seenStep: 4, rules: [...rules] };
  return renderInBooks(<RulesScreen />, {
    answers: {
      'GET /rules': list,
      'GET /rules/turns': turns,
      'GET /rules/suggestions': { suggestions: [] },
      'POST /rules/change': { step: 5, words: 'Switched 2 rules off', openTaken: 0 },
      'POST /rules/clay/move': { step: 5, words: 'Moved rule Clay', openTaken: 0 },
    },
  });
}

const names = () =>
  screen
    .getAllByRole('listitem')
    .map((row) => within(row).getByRole('link').firstChild?.textContent);

describe('the rules', () => {
  it('stand in their order, each with what it does or what is wrong with it, and its record', async () => {
    open(RULES);
    await screen.findByText('Freight');
    expect(names()).toEqual(['Freight', 'Clay', 'Stalls']);
    const [freight, clay, stalls] = screen.getAllByRole('listitem');
    expect(freight?.textContent).toContain('12 lines');
    expect(freight?.textContent).toContain('90 % kept');
    expect(clay?.textContent).toContain('never applies: rule 1 takes all its lines');
    expect(stalls?.textContent).toContain('off · ');
    expect(screen.getByRole('link', { name: /Habits/ }).textContent).toContain('7');
  });

  it('are found by name, and sorted by use', async () => {
    const { user } = open(RULES);
    await screen.findByText('Freight');
    await user.type(screen.getByLabelText('Search rules'), 'cla');
    expect(names()).toEqual(['Clay']);
    await user.clear(screen.getByLabelText('Search rules'));
    await user.type(screen.getByLabelText('Search rules'), 'nothing like it');
    expect(screen.getByText('No rules match.')).toBeDefined();
  });

  it('are switched off together where they are ticked, and unticked after', async () => {
    const { user, sent } = open(RULES);
    await screen.findByText('Freight');
    await user.click(screen.getByLabelText('Tick Freight'));
    await user.click(screen.getByLabelText('Tick Clay'));
    const bar = within(screen.getByRole('toolbar', { name: 'Ticked rules' }));
    expect(bar.getByText('2 rules')).toBeDefined();
    await user.click(bar.getByRole('button', { name: 'Off' }));
    await waitFor(() => expect(screen.queryByRole('toolbar', { name: 'Ticked rules' })).toBeNull());
    expect(sent.find(({ path }) => path === '/rules/change')?.body).toMatchObject({
      ruleIds: ['freight', 'clay'],
      to: 'off',
    });
  });

  it('say how to begin where there are none', async () => {
    open([]);
    expect(await screen.findByText('No rule yet')).toBeDefined();
    expect(screen.queryByLabelText('Search rules')).toBeNull();
    expect(screen.getByRole('link', { name: 'Write a rule' })).toBeDefined();
  });

  it('say why they can’t be shown', async () => {
    open(problem('ROLE_TOO_LOW', { role: 'client' }));
    expect(await screen.findByText(/As client you can’t do this here/)).toBeDefined();
    expect(screen.queryByText('No rule yet')).toBeNull();
  });
});
