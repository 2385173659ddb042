import { describe, expect, it } from 'vitest';
import { archivePage } from './archivePage.ts';

describe('the page of an archive', () => {
  const page = archivePage({
    books: 'Clay & <Glaze>',
    currency: 'EUR',
    from: '2026-01-01',
    to: '2026-12-31',
    madeAt: '8 January 2027',
    madeBy: 'Mo Oakes',
    files: [{ name: 'trial balance.csv', what: 'Balances of all accounts', count: 31 }],
    debits: '1,200.00',
    credits: '1,200.00',
  });

  it('says what is in it, and leads to each file', () => {
    expect(page).toContain('from 1 January 2026 to 31 December 2026');
    expect(page).toContain('<a href="trial%20balance.csv">trial balance.csv</a>');
    expect(page).toContain('<td>31</td>');
  });

  it('takes names as text, and needs nothing from elsewhere', () => {
    expect(page).toContain('Clay &amp; &lt;Glaze&gt;');
    expect(page).not.toMatch(/<script|src=|https?:/);
  });
});
