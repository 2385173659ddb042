import { screen } from '@testing-library/react';
import { expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testAccount, testBooks, testPayee } from '../../testing/testBooks.ts';
import type { PreparedNames } from '../../workers/fileReading.ts';
import { PreparedNote } from './PreparedNote.tsx';

function shown(names: Partial<PreparedNames>) {
  const setup = {
    ...testBooks(),
    accounts: [testAccount('5000', 'Clay and glazes', 'expense')],
    payees: [testPayee],
  };
  return renderInBooks(<PreparedNote names={{ accounts: [], taxes: [], payees: [], ...names }} />, {
    setup,
  });
}
const unknown = () => [...document.querySelectorAll('.doubt')].map((each) => each.textContent);

it('says that coding in a file is only proposed, and nothing more where all of it is known', () => {
  shown({
    accounts: ['5000', 'clay and glazes', '5000 Clay and Glazes'],
    payees: ['TIDEMARK FREIGHT'],
  });
  expect(screen.getByText(/becomes a proposal; nothing is posted/)).toBeTruthy();
  expect(unknown()).toEqual([]);
});

it('names what the books don’t have, of each kind', () => {
  shown({ accounts: ['5000', '5999 Kilns'], taxes: ['Odd rate'], payees: ['Cobble Cafe'] });
  expect(unknown()).toEqual([
    'Accounts not in the books: 5999 Kilns.',
    'Tax codes not in the books: Odd rate.',
    'Payees not in the books: Cobble Cafe.',
  ]);
});

it('names the first twelve of many', () => {
  shown({ accounts: Array.from({ length: 15 }, (_, at) => `60${at + 10}`) });
  expect(unknown()[0]).toMatch(/6010, .*, 6021 and 3 more\.$/);
});

it('says nothing of a file without coding, though it names payees', () => {
  shown({ payees: ['Cobble Cafe'] });
  expect(document.body.textContent).toBe('');
});
