import { screen } from '@testing-library/react';
import type { BoardCell } from '@zubrell/contract/board';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { MonthCell } from './MonthCell.tsx';

function shown(more: Partial<BoardCell>) {
  const cell: BoardCell = {
    month: '2026-03',
    lines: 110,
    open: 0,
    ready: 0,
    unexplained: 0,
    isClosed: false,
    ...more,
  };
  renderInBooks(
    <table>
      <tbody>
        <tr>
          <MonthCell bankAccountId="everyday" cell={cell} />
        </tr>
      </tbody>
    </table>,
  );
  const place = screen.getByRole('cell');
  return { place, href: place.querySelector('a')?.getAttribute('href') ?? null };
}

describe('a month of a bank account', () => {
  it('leads to what is ready first, then to what has a doubt, then to what is decided', () => {
    const scope = '/books/books/desk?account=everyday&period=2026-03&lane=';
    expect(shown({ open: 101, ready: 80 }).href).toBe(`${scope}ready`);
    document.body.replaceChildren();
    expect(shown({ open: 5, ready: 0 }).href).toBe(`${scope}check`);
    document.body.replaceChildren();
    expect(shown({ open: 0 }).href).toBe(`${scope}decided`);
  });

  it('never says that all is done while a line is open', () => {
    const { place } = shown({ lines: 1_000, open: 1 });
    expect(place.textContent).toContain('1 open99 %');
    expect(place.className).toBe('under-way');
    expect(place.querySelector('i')?.style.width).toBe('99%');
  });

  it('says what is unexplained, that nothing is, or that no balance is stated', () => {
    const { place } = shown({ unexplained: 3_320 });
    expect(place.querySelector('.trouble')?.textContent).toBe('unexplained 33.20');
    document.body.replaceChildren();
    expect(shown({}).place.querySelector('.trouble')).toBeNull();
    document.body.replaceChildren();
    expect(shown({ unexplained: null }).place.textContent).toContain('no balance stated');
  });

  it('is closed, or has no lines, unless something is open or unexplained all the same', () => {
    expect(shown({ isClosed: true }).place.textContent).toBe('✓ closed');
    document.body.replaceChildren();
    expect(shown({ isClosed: true, lines: 0 }).place.textContent).toBe('');
    document.body.replaceChildren();
    expect(shown({ lines: 0 }).place.textContent).toBe('no lines');
    document.body.replaceChildren();
    expect(shown({ isClosed: true, unexplained: 5 }).place.textContent).toContain('unexplained');
    document.body.replaceChildren();
    const empty = shown({ lines: 0, unexplained: -5 });
    expect(empty.place.textContent).toContain('100 %');
    expect(empty.href).not.toBeNull();
  });
});
