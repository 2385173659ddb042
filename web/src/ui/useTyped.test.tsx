import { act, renderHook } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { useTyped } from './useTyped.ts';

const over = (value: string) =>
  renderHook(({ value }) => useTyped(value), { initialProps: { value } });

describe('what is typed over a value', () => {
  it('stands while the value is the same', () => {
    const { result, rerender } = over('Penhallow');
    act(() => result.current[1]('Penhallow Clay'));
    rerender({ value: 'Penhallow' });
    expect(result.current[0]).toBe('Penhallow Clay');
  });

  it('is gone once the value is another: saved, undone, or changed by somebody else', () => {
    const { result, rerender } = over('Penhallow');
    act(() => result.current[1]('Penhallow Clay'));
    rerender({ value: 'Penhallow Clay' });
    expect(result.current[0]).toBe('Penhallow Clay');
    // Undo brings the first one back, and what was typed over it then is not.
    rerender({ value: 'Penhallow' });
    expect(result.current[0]).toBe('Penhallow');
    rerender({ value: 'Clay of Penhallow' });
    expect(result.current[0]).toBe('Clay of Penhallow');
  });
});
