import { fireEvent } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { countPresses, takePresses } from './presses.ts';

describe('keys and clicks', () => {
  let end = () => {};
  beforeEach(() => {
    window.history.replaceState(null, '', '/books/books/desk?lane=ready');
    end = countPresses();
  });
  afterEach(() => {
    end();
    takePresses();
  });

  it('are counted once each, without those that were held or do nothing by themselves', () => {
    fireEvent.keyDown(document.body, { key: 'j' });
    fireEvent.keyDown(document.body, { key: 'j', repeat: true });
    fireEvent.keyDown(document.body, { key: 'Shift' });
    fireEvent.keyDown(document.body, { key: 'Enter', shiftKey: true });
    fireEvent.pointerDown(document.body);
    expect(takePresses()).toBe(3);
    expect(takePresses()).toBe(0);
  });

  it('are counted where lines are coded, and nowhere else', () => {
    window.history.replaceState(null, '', '/books/books/ledger');
    fireEvent.keyDown(document.body, { key: 'a' });
    window.history.replaceState(null, '', '/books/books/board');
    fireEvent.pointerDown(document.body);
    window.history.replaceState(null, '', '/books/books/desk/pairing');
    fireEvent.pointerDown(document.body);
    expect(takePresses()).toBe(2);
  });

  it('are counted no more once that has ended', () => {
    end();
    fireEvent.keyDown(document.body, { key: 'j' });
    expect(takePresses()).toBe(0);
  });
});
