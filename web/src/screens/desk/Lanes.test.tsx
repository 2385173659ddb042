import { screen, within } from '@testing-library/react';
import type { LaneCounts } from '@zubrell/contract/desk';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { Lanes } from './Lanes.tsx';

const counts: LaneCounts = {
  ready: 30,
  check: 10,
  blank: 5,
  asked: 5,
  posted: 140,
  paired: 5,
  excluded: 5,
  deleted: 2,
  isDecidedMore: false,
  openOutside: 0,
};

function shown(changed: Partial<LaneCounts> = {}, query = '') {
  const answers = { 'GET /lanes': { ...counts, ...changed } };
  return renderInBooks(<Lanes />, { answers, query });
}

const lane = async (name: RegExp) => within(await screen.findByRole('button', { name }));

describe('the lanes', () => {
  it('say how many lines stand where and how far the period is', async () => {
    shown({}, '?period=2026-03');
    expect(await (await lane(/^Ready/)).findByText('30')).toBeDefined();
    expect(await (await lane(/Decided/)).findByText('150')).toBeDefined();
    expect(screen.getByText('March: 150 of 200')).toBeDefined();
    expect(screen.getByText('75 % done, 15 % ready')).toBeDefined();
    expect(screen.queryByText(/outside this scope/)).toBeNull();
  });

  it('say what the scope leaves out', async () => {
    shown({ openOutside: 12 });
    expect(await screen.findByText('12 more open outside this scope')).toBeDefined();
  });

  it('set thousands apart', async () => {
    shown({ ready: 1_200, posted: 48_000, openOutside: 3_500 });
    expect(await (await lane(/^Ready/)).findByText('1,200')).toBeDefined();
    expect(await (await lane(/Decided/)).findByText('48,010')).toBeDefined();
    expect(screen.getByText('All: 48,010 of 49,230')).toBeDefined();
    expect(screen.getByText('3,500 more open outside this scope')).toBeDefined();
  });

  it('say no share where a search finds more than are counted', async () => {
    shown({ posted: 2_001, paired: 0, excluded: 0, isDecidedMore: true }, '?search=copper');
    expect(await (await lane(/Decided/)).findByText('2,000+')).toBeDefined();
    expect(screen.getByText('There are more lines than this count shows.')).toBeDefined();
    expect(screen.queryByText(/% done/)).toBeNull();
  });

  it('are chosen by a press, which the address keeps', async () => {
    const { user, router } = shown();
    await user.click(await screen.findByRole('button', { name: /^Check/ }));
    expect(router.state.location.search).toContain('lane=check');
    expect(screen.getByRole('button', { name: /^Check/ }).getAttribute('aria-current')).toBe(
      'true',
    );
  });
});
