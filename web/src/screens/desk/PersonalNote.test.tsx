import { screen } from '@testing-library/react';
import type { DraftCoding } from '@zubrell/contract/coding';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks, testPayee } from '../../testing/testBooks.ts';
import { PersonalNote } from './PersonalNote.tsx';
import { emptyCoding } from './rows.ts';

const coded: DraftCoding = { ...emptyCoding, accountId: '6010', taxCodeId: '20' };

describe('the note on personal spending', () => {
  it('codes it to the drawings that the books have, whole or half', async () => {
    const made: DraftCoding[] = [];
    const { user } = renderInBooks(<PersonalNote onEdit={(change) => made.push(change(coded))} />);
    await user.click(screen.getByRole('button', { name: 'Code it to Owner’s drawings' }));
    await user.click(screen.getByRole('button', { name: 'only half of it' }));
    expect(made[0]).toMatchObject({ accountId: '3020', taxCodeId: null, parts: null });
    expect(made[1]?.parts?.map(({ accountId }) => accountId)).toEqual(['3020', '6010']);
  });

  it('names each owner’s own drawings, and no others', () => {
    const books = testBooks();
    const owner = (id: string, accountId: string | null, isOn = true) => ({
      ...testPayee,
      id,
      kind: 'owner' as const,
      accountId,
      isOn,
    });
    renderInBooks(<PersonalNote onEdit={() => undefined} />, {
      setup: {
        ...books,
        payees: [owner('mo', '1500'), owner('ines', null), owner('old', '4010', false)],
      },
    });
    const names = screen.getAllByRole('button').map(({ textContent }) => textContent);
    expect(names).toEqual(['Code it to Equipment', 'only half of it']);
  });
});
