import { act, renderHook } from '@testing-library/react';
import { expect, it } from 'vitest';
import { useTicks } from './useTicks.ts';

it('ticks one, unticks it, and ticks just some', () => {
  const { result } = renderHook(() => useTicks<string>());
  const ticked = () => [...result.current[0]];
  act(() => result.current[1]('a'));
  act(() => result.current[1]('b'));
  expect(ticked()).toEqual(['a', 'b']);
  act(() => result.current[1]('a'));
  expect(ticked()).toEqual(['b']);
  act(() => result.current[2](['c', 'd']));
  expect(ticked()).toEqual(['c', 'd']);
});
