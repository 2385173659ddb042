import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { Combobox } from './Combobox.tsx';

const choices = [
  { id: '6010', label: '6010 Freight out' },
  { id: '6020', label: '6020 Market and stall fees' },
  { id: '6030', label: '6030 Phone' },
];

afterEach(cleanup);

type More = Partial<Parameters<typeof Combobox>[0]>;

function Field({ start, more }: { readonly start: string | null; readonly more: More }) {
  const [chosen, setChosen] = useState(start);
  return (
    <Combobox
      label="Account"
      choices={choices}
      value={chosen}
      {...more}
      onChange={(id) => {
        more.onChange?.(id);
        setChosen(id);
      }}
    />
  );
}

function open(more: More = {}, start: string | null = '6010') {
  const onChange = vi.fn();
  const onNext = vi.fn();
  const onCancel = vi.fn();
  render(
    <>
      <Field start={start} more={{ onChange, onNext, onCancel, ...more }} />
      <button type="button">After</button>
    </>,
  );
  const field = screen.getByRole('combobox', { name: 'Account' });
  return { user: userEvent.setup(), field, onChange, onNext, onCancel };
}

describe('a combobox', () => {
  it('finds by any words, and Enter takes the first that is found', async () => {
    const { user, field, onChange, onNext } = open();
    await user.click(field);
    await user.keyboard('fees mar');
    expect(within(screen.getByRole('listbox')).getAllByRole('option')).toHaveLength(1);
    await user.keyboard('{Enter}');
    expect(onChange).toHaveBeenCalledExactlyOnceWith('6020');
    expect(onNext).toHaveBeenCalledOnce();
    expect(field).toHaveProperty('value', '6020 Market and stall fees');
  });

  it('leaves the value where nothing was typed or chosen', async () => {
    const { user, field, onChange, onNext } = open();
    await user.click(field);
    await user.keyboard('{Enter}');
    expect(onNext).toHaveBeenCalledOnce();
    await user.keyboard('free');
    await user.click(screen.getByRole('button', { name: 'After' }));
    expect(onChange).not.toHaveBeenCalled();
    expect(field).toHaveProperty('value', '6010 Freight out');
  });

  it('takes what the arrow keys chose, and none where the field was emptied', async () => {
    const { user, field, onChange } = open();
    await user.click(field);
    await user.keyboard('{ArrowDown}{ArrowDown}{Enter}');
    expect(onChange).toHaveBeenLastCalledWith(expect.stringMatching(/^60[23]0$/));
    await user.clear(field);
    await user.keyboard('{Enter}');
    expect(onChange).toHaveBeenLastCalledWith(null);
  });

  it('keeps the old value on Escape', async () => {
    const { user, field, onChange, onCancel } = open();
    await user.click(field);
    await user.keyboard('phone{Escape}');
    expect(onCancel).toHaveBeenCalled();
    expect(onChange).not.toHaveBeenCalled();
    expect(field).toHaveProperty('value', '6010 Freight out');
  });

  it('makes what was typed where that is new, and stays where more is asked first', async () => {
    const onCreate = vi.fn(() => 'stay' as const);
    const { user, field, onChange, onNext } = open({ onCreate }, null);
    await user.click(field);
    await user.keyboard('Kiln parts');
    within(screen.getByRole('listbox')).getByText('New: Kiln parts');
    await user.keyboard('{Enter}');
    expect(onCreate).toHaveBeenCalledExactlyOnceWith('Kiln parts');
    expect(onChange).not.toHaveBeenCalled();
    expect(onNext).not.toHaveBeenCalled();
    // What is there by that name, however it is written, is not made again.
    await user.clear(field);
    await user.keyboard('6030 PHONE');
    expect(screen.queryByText(/^New:/)).toBeNull();
  });

  it('goes on with Tab, or where it is told', async () => {
    const { user, field, onChange } = open();
    await user.click(field);
    await user.keyboard('phone{Tab}');
    expect(onChange).toHaveBeenCalledExactlyOnceWith('6030');
    expect(document.activeElement).toBe(screen.getByRole('button', { name: 'After' }));
    cleanup();
    const onTab = vi.fn();
    const own = open({ onTab });
    await own.user.click(own.field);
    await own.user.keyboard('{Shift>}{Tab}{/Shift}');
    expect(onTab).toHaveBeenCalledExactlyOnceWith(true);
    expect(document.activeElement).toBe(own.field);
  });
});
