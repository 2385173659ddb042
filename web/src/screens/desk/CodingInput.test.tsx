import { screen, waitFor } from '@testing-library/react';
import type { DraftCoding } from '@zubrell/contract/coding';
import { Toaster } from 'sonner';
import { describe, expect, it, vi } from 'vitest';
import type { CodedField } from '../../app/codingChoices.ts';
import { type Answers, problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks } from '../../testing/testBooks.ts';
import { besideField, CodingInput, nextEmptyField } from './CodingInput.tsx';

const EMPTY = { payeeId: null, accountId: null, taxCodeId: null, tax: null } as DraftCoding;
const none = () => false;
const withoutTax = (field: string) => field === 'taxCodeId';

describe('the fields of a coding', () => {
  it('follow each other, and one that is hidden is left out', () => {
    expect(besideField('payeeId', false, none)).toBe('accountId');
    expect(besideField('accountId', false, none)).toBe('taxCodeId');
    expect(besideField('accountId', true, none)).toBe('payeeId');
    expect(besideField('payeeId', true, none)).toBeNull();
    expect(besideField('taxCodeId', false, none)).toBeNull();
  });

  it('are gone through by Enter as far as they are empty', () => {
    expect(nextEmptyField('payeeId', EMPTY, none)).toBe('accountId');
    expect(nextEmptyField('payeeId', { ...EMPTY, accountId: '6010' }, none)).toBe('taxCodeId');
    expect(nextEmptyField('taxCodeId', EMPTY, none)).toBeNull();
    expect(nextEmptyField('accountId', EMPTY, withoutTax)).toBeNull();
    expect(besideField('accountId', false, withoutTax)).toBeNull();
  });
});

function open(
  field: CodedField,
  { coding = EMPTY, answers = {} as Answers, role = 'owner' as 'owner' | 'reviewer' } = {},
) {
  const [onChange, onNext, onCancel] = [vi.fn(), vi.fn(), vi.fn()];
  const view = renderInBooks(
    <>
      <CodingInput
        field={field}
        coding={coding}
        line={{ isOut: true }}
        onChange={onChange}
        onNext={onNext}
        onCancel={onCancel}
        autoFocus
      />
      <Toaster />
    </>,
    {
      setup: testBooks({ role }),
      answers: { 'GET /payee-uses': { uses: [] }, 'GET /account-uses': { uses: [] }, ...answers },
    },
  );
  return { ...view, onChange, onNext, onCancel };
}

describe('a field of a coding', () => {
  it('takes what is chosen, and Enter goes on with it', async () => {
    const { user, onChange, onNext } = open('accountId');
    await user.type(await screen.findByRole('combobox', { name: 'Account' }), 'freight{Enter}');
    await waitFor(() => expect(onChange).toHaveBeenCalled());
    expect(onChange.mock.lastCall?.[0]).toMatchObject({ accountId: '6010', payeeId: null });
    expect(onNext.mock.lastCall?.[0]).toMatchObject({ accountId: '6010' });
  });

  it('makes a payee of what was typed, and warns of one that is nearly the same', async () => {
    const { user, sent, onChange } = open('payeeId', {
      answers: {
        'POST /payees': { id: 'made', step: 9, words: 'Created payee Tidemark Freights' },
      },
    });
    await user.type(await screen.findByRole('combobox', { name: 'Payee' }), 'Tidemark Freights');
    await user.click(await screen.findByRole('option', { name: 'New: Tidemark Freights' }));
    await waitFor(() =>
      expect(onChange.mock.lastCall?.[0]).toMatchObject({ payeeId: 'made', accountId: null }),
    );
    expect(sent.find(({ method }) => method === 'POST')?.body).toEqual({
      name: 'Tidemark Freights',
      kind: 'supplier',
    });
    expect(await screen.findByText(/very similar to Tidemark Freight/)).toBeDefined();
  });

  it('says why a payee can’t be made, and chooses none', async () => {
    const { user, onChange } = open('payeeId', {
      answers: { 'POST /payees': () => problem('PAYEE_TAKEN', { name: 'Orrin Bell' }) },
    });
    await user.type(await screen.findByRole('combobox', { name: 'Payee' }), 'Orrin Bell');
    await user.click(await screen.findByRole('option', { name: 'New: Orrin Bell' }));
    expect(await screen.findByText(/There is already a payee Orrin Bell/)).toBeDefined();
    expect(onChange).not.toHaveBeenCalled();
  });

  it('is left without a change by Esc', async () => {
    const { user, onChange, onCancel } = open('accountId');
    await user.type(await screen.findByRole('combobox', { name: 'Account' }), '{Escape}');
    await waitFor(() => expect(onCancel).toHaveBeenCalled());
    expect(onChange).not.toHaveBeenCalled();
  });
});
