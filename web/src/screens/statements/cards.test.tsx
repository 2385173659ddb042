import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks } from '../../testing/testBooks.ts';
import { rowsAnswer, testRow, testStatement } from '../../testing/testStatement.ts';
import { StatementSide } from './StatementSide.tsx';
import { StatementTabs } from './StatementTabs.tsx';

const rows = [
  testRow({ id: 'one', cardholder: 'M OAKES', amount: -4_850 }),
  testRow({ id: 'two', cardholder: '•• 1724', amount: -9_000 }),
  testRow({ id: 'back', cardholder: '•• 1724', amount: 1_000 }),
  testRow({ id: 'paid', cardholder: null, amount: 20_000 }),
  testRow({ id: 'copy', cardholder: 'M OAKES', amount: -4_850, isCounted: false }),
];
const holders = [
  { cardholder: '•• 1724', count: 2, spent: 9_000, refunded: 1_000 },
  { cardholder: 'M OAKES', count: 1, spent: 4_850, refunded: 0 },
  { cardholder: null, count: 1, spent: 0, refunded: 20_000 },
];
const named = testBooks();
const [bank] = named.bankAccounts;
if (bank) named.bankAccounts = [{ ...bank, holderNames: { '•• 1724': 'Ines Varga' } }];
const tabs = () =>
  renderInBooks(<StatementTabs statement={testStatement({ hasHolders: true })} marked={[]} />, {
    setup: named,
    answers: {
      ...rowsAnswer(rows),
      'GET /bank-accounts/everyday/statements/2026-02-28/holders': { holders },
      'PUT /bank-accounts/everyday/holders': { step: 8, words: 'Named the cardholders' },
    },
  });

describe('cardholders on a statement', () => {
  it('stand beside their lines, and not where a file names none', async () => {
    tabs();
    expect(await screen.findByText('By cardholder')).toBeDefined();
    expect(await screen.findAllByText('Ines Varga')).toHaveLength(2);
    renderInBooks(<StatementTabs statement={testStatement()} marked={[]} />, {
      answers: rowsAnswer(),
    });
    expect(screen.getAllByText('By cardholder')).toHaveLength(1);
  });

  it('are shown with what each spent and got back', async () => {
    const { user } = tabs();
    await user.click(await screen.findByRole('button', { name: 'By cardholder' }));
    await screen.findByText('No cardholder');
    const [, ines, mo, nobody] = screen.getAllByRole('row').map((row) => row.textContent);
    expect(ines).toContain('Ines Varga •• 1724');
    expect(ines).toContain('290.0010.0080.00');
    expect(mo).toContain('148.500.0048.50');
    expect(nobody).toContain('No cardholder10.00200.00−200.00');
  });

  it('are given a name, and the names of others stay', async () => {
    const { user, sent } = tabs();
    await user.click(await screen.findByRole('button', { name: 'By cardholder' }));
    await user.click(
      await screen.findByRole('button', { name: 'Change name of cardholder M OAKES' }),
    );
    const dialog = await screen.findByRole('dialog');
    await user.type(within(dialog).getByLabelText('Name'), ' Mo Oakes ');
    await user.click(within(dialog).getByRole('button', { name: 'Save name' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(sent.find(({ method }) => method === 'PUT')?.body).toEqual({
      holderNames: { '•• 1724': 'Ines Varga', 'M OAKES': 'Mo Oakes' },
    });
  });
});

describe('the payment of a card’s statement', () => {
  const side = (paid: object | null) =>
    renderInBooks(
      <StatementSide
        statement={testStatement({
          payment: {
            due: 48_210,
            paid: paid && {
              date: '2026-03-20',
              lineId: 'line',
              bankAccountId: 'everyday',
              isOpen: false,
              ...paid,
            },
          },
        })}
        currentKey={null}
        isTrying={false}
        onTry={() => undefined}
      />,
    );

  it.each([
    [null, 'Not paid yet from your other accounts.'],
    [{}, 'Paid from Everyday account, 20 Mar.'],
    [
      { isOpen: true },
      'An open line on Everyday account, 20 Mar, is for this amount. Open the line',
    ],
  ])('%j', async (paid, words) => {
    side(paid);
    const shown = await screen.findByRole('region', { name: 'Payment' });
    expect(shown.textContent?.trim()).toBe(`Payment due 482.10${words}`);
  });
});
