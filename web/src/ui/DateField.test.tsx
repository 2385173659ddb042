import { screen, within } from '@testing-library/react';
import { useState } from 'react';
import { afterEach, describe, expect, it } from 'vitest';
import { applyLocale } from '../app/formats.ts';
import { renderInBooks } from '../testing/renderInBooks.tsx';
import { DateField } from './DateField.tsx';

interface Given {
  readonly first: string;
  readonly given: string[];
  readonly isNeeded?: boolean;
  readonly min?: string;
}

function Form({ first, given, ...more }: Given) {
  const [date, setDate] = useState(first);
  return (
    <DateField
      label="Paid on"
      value={date}
      onChange={(next) => {
        given.push(next);
        setDate(next);
      }}
      {...more}
    />
  );
}

function open(first: string, more: Pick<Given, 'isNeeded' | 'min'> = {}) {
  const given: string[] = [];
  const { user } = renderInBooks(<Form first={first} given={given} {...more} />);
  return { user, input: screen.getByLabelText<HTMLInputElement>('Paid on'), given };
}

afterEach(() => applyLocale('en-GB'));

describe('a date field', () => {
  it('shows the day first and the year always, and takes what is typed when it is left', async () => {
    const { user, input, given } = open('2026-03-03');
    expect(input.value).toBe('03 Mar 2026');
    await user.clear(input);
    await user.type(input, '4/5');
    expect(given).toEqual([]);
    await user.tab();
    expect(given).toEqual(['2026-05-04']);
    expect(input.value).toBe('04 May 2026');
  });

  it('takes what is typed on Enter', async () => {
    const { user, input, given } = open('');
    await user.type(input, '1 feb 25{Enter}');
    expect(given).toEqual(['2025-02-01']);
  });

  it('reads and shows the month first for who writes it so', async () => {
    applyLocale('en-US');
    const { user, input, given } = open('2026-03-03');
    expect(input.value).toBe('Mar 03, 2026');
    await user.clear(input);
    await user.type(input, '4/5{Enter}');
    expect(given).toEqual(['2026-04-05']);
  });

  it('keeps what can’t be read, says why, and gives no date for it', async () => {
    const { user, input, given } = open('2026-03-03');
    await user.clear(input);
    await user.type(input, '31/2{Enter}');
    expect(input.value).toBe('31/2');
    expect(input.getAttribute('aria-invalid')).toBe('true');
    expect(screen.getByText(/^31 February doesn’t exist\. Type a date such as/)).toBeDefined();
    expect(given).toEqual(['']);
    await user.clear(input);
    await user.type(input, '28/2{Enter}');
    expect(given).toEqual(['', '2026-02-28']);
    expect(input.getAttribute('aria-invalid')).toBe('false');
  });

  it('that is always needed keeps its date when emptied or mistyped', async () => {
    const { user, input, given } = open('2026-03-03', { isNeeded: true });
    await user.clear(input);
    await user.tab();
    expect(input.value).toBe('03 Mar 2026');
    await user.clear(input);
    await user.type(input, 'soon{Enter}');
    expect(given).toEqual([]);
  });

  it('refuses a date before the first possible one', async () => {
    const { user, input, given } = open('2026-03-03', { min: '2026-03-01' });
    await user.clear(input);
    await user.type(input, '28/2/26{Enter}');
    expect(screen.getByText('The first possible date is 01 Mar 2026.')).toBeDefined();
    expect(given).toEqual(['']);
  });

  it('moves by a day with the arrows', async () => {
    const { user, input, given } = open('2026-02-28', { min: '2026-02-28' });
    await user.click(input);
    await user.keyboard('{ArrowDown}{ArrowUp}');
    expect(given).toEqual(['2026-03-01']);
  });

  it('opens a calendar by key, picks a day in it, and goes back to the field', async () => {
    const { user, input, given } = open('2026-03-03');
    await user.click(input);
    await user.keyboard('{Alt>}{ArrowDown}{/Alt}');
    const calendar = await screen.findByRole('dialog', { name: 'Calendar: Paid on' });
    await user.click(within(calendar).getByRole('button', { name: /12th, 2026/ }));
    expect(given).toEqual(['2026-03-12']);
    expect(screen.queryByRole('dialog')).toBeNull();
    expect(document.activeElement).toBe(input);
  });

  it('leaves the calendar by Esc', async () => {
    const { user, given } = open('2026-03-03');
    await user.click(screen.getByRole('button', { name: 'Calendar: Paid on' }));
    expect(await screen.findByRole('dialog')).toBeDefined();
    await user.keyboard('{Escape}');
    expect(screen.queryByRole('dialog')).toBeNull();
    expect(given).toEqual([]);
  });
});
