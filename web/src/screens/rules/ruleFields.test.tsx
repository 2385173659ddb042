import { screen, waitFor, within } from '@testing-library/react';
import { useEffect, useState } from 'react';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { ConditionRow } from './ConditionRow.tsx';
import { ResultFields } from './ResultFields.tsx';
import {
  type DraftResult,
  emptyCondition,
  emptyDraft,
  emptyResult,
  type OneCondition,
} from './ruleDraft.ts';

/** Something that is being written, and what it is by now. */
interface Writing<Written> {
  now: Written;
}

function Row({ written }: { readonly written: Writing<OneCondition> }) {
  const [condition, setCondition] = useState(written.now);
  useEffect(() => {
    written.now = condition;
  });
  return <ConditionRow condition={condition} onChange={setCondition} onRemove={null} />;
}

function writing(start: OneCondition) {
  const written = { now: start };
  const { user } = renderInBooks(<Row written={written} />);
  return { user, now: () => written.now };
}

describe('a condition', () => {
  it('compares a text as words or exactly', async () => {
    const { user, now } = writing(emptyCondition);
    await user.selectOptions(screen.getByLabelText('Field'), 'reference');
    await user.selectOptions(screen.getByLabelText('Comparison'), 'startsWith');
    await user.type(screen.getByLabelText('Value'), 'INV 2093');
    await user.click(screen.getByLabelText('exactly'));
    expect(now()).toEqual({
      kind: 'text',
      field: 'reference',
      test: 'startsWith',
      text: 'INV 2093',
      isExact: true,
    });
  });

  it('has no value where a text is to be empty', async () => {
    const { user } = writing(emptyCondition);
    await user.selectOptions(screen.getByLabelText('Comparison'), 'isEmpty');
    expect(screen.queryByLabelText('Value')).toBeNull();
  });

  it('takes an amount by size: one, a lower end, an upper end, or a band', async () => {
    const { user, now } = writing({ kind: 'amount', from: null, to: null });
    const test = screen.getByLabelText('Comparison of the amount');
    const type = async (label: string, text: string) => {
      const field = screen.getByLabelText(label);
      await user.clear(field);
      await user.type(field, text);
      await user.tab();
    };
    expect(test).toHaveProperty('value', 'atLeast');
    await type('Amount, without sign', '48.50');
    expect(now()).toEqual({ kind: 'amount', from: 4_850, to: null });
    await user.selectOptions(test, 'is');
    expect(now()).toEqual({ kind: 'amount', from: 4_850, to: 4_850 });
    await user.selectOptions(test, 'between');
    await type('Largest amount', '120');
    expect(now()).toEqual({ kind: 'amount', from: 4_850, to: 12_000 });
    await user.selectOptions(test, 'atMost');
    expect(now()).toEqual({ kind: 'amount', from: null, to: 4_850 });
    expect(screen.queryByLabelText('Amount, without sign')).toBeNull();
  });

  it('is about days of the month or dates once that field is chosen', async () => {
    const { user, now } = writing(emptyCondition);
    await user.selectOptions(screen.getByLabelText('Field'), 'day');
    expect(now()).toEqual({ kind: 'day', from: 1, to: 31 });
    await user.clear(screen.getByLabelText('Last day of the month'));
    await user.type(screen.getByLabelText('Last day of the month'), '3');
    expect(now()).toMatchObject({ kind: 'day', from: 1, to: 3 });
    await user.selectOptions(screen.getByLabelText('Field'), 'date');
    expect(now()).toEqual({ kind: 'date', from: null, to: null });
    expect(document.body.textContent).toMatch(/from.* to /);
  });
});

function Fields({ written }: { readonly written: Writing<DraftResult> }) {
  const [result, setResult] = useState(written.now);
  useEffect(() => {
    written.now = result;
  });
  return <ResultFields result={result} onChange={setResult} />;
}

function deciding(start: DraftResult) {
  const written = { now: start };
  const { user } = renderInBooks(<Fields written={written} />, {
    answers: { 'GET /account-uses': { uses: [] } },
  });
  return { user, now: () => written.now };
}

describe('what a rule does', () => {
  it('codes to an account, in parts where one is added, and in whole again', async () => {
    const { user, now } = deciding(emptyDraft.result);
    await user.type(screen.getByRole('combobox', { name: 'Account' }), 'freight');
    await user.click(await screen.findByRole('option', { name: /Freight out/ }));
    await waitFor(() => expect(now()).toMatchObject({ parts: [{ accountId: '6010' }] }));
    await user.click(screen.getByRole('button', { name: '+ part' }));
    expect(now()).toMatchObject({
      parts: [
        { accountId: null, share: { kind: 'fixed', amount: 0 } },
        { accountId: '6010', share: { kind: 'rest' } },
      ],
    });
    const first = screen.getByRole('group', { name: 'Part 1' });
    await user.click(within(first).getByRole('button', { name: 'Remove part 1' }));
    expect(now()).toMatchObject({ parts: [{ accountId: '6010', share: { kind: 'rest' } }] });
  });

  it('takes the payee that the bank names', async () => {
    const { user, now } = deciding(emptyDraft.result);
    await user.click(screen.getByRole('combobox', { name: 'Payee' }));
    await user.click(await screen.findByRole('option', { name: 'the payee that the bank names' }));
    await waitFor(() => expect(now()).toMatchObject({ payee: { kind: 'bank' } }));
  });

  it('moves, excludes or asks, each with what that needs', async () => {
    const { user, now } = deciding(emptyDraft.result);
    const action = screen.getByLabelText('Action');
    await user.selectOptions(action, 'transfer');
    await user.selectOptions(screen.getByLabelText('Own bank account'), 'everyday');
    expect(now()).toEqual({ kind: 'transfer', bankAccountId: 'everyday' });
    await user.selectOptions(action, 'exclude');
    expect(now()).toEqual(emptyResult('exclude'));
    expect(screen.getByLabelText('Reason')).toBeTruthy();
    await user.selectOptions(action, 'ask');
    await user.type(screen.getByLabelText('Who to ask'), 'Ines Varga');
    await user.type(screen.getByLabelText('The question'), 'Which job is this for?');
    expect(now()).toEqual({
      kind: 'ask',
      askedOf: 'Ines Varga',
      words: 'Which job is this for?',
    });
  });
});
