// The test browser's own can't be read.
import { Blob } from 'node:buffer';
import { screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks } from '../../testing/testBooks.ts';
import { type Comparison, FileReading } from '../../workers/fileReading.ts';
import { PreviewFactsPanel } from './PreviewFactsPanel.tsx';

const NONE = { all: 0, new: 0, already: 0, doubtful: 0, refused: 0, marked: 0 };
const noConsents = { refused: false, number: false, balance: false, dates: false };

/** Shows what the panel says of a file that is kept in an account of that kind. */
async function show(
  text: string,
  kind: 'current' | 'card' = 'current',
  mismatch: Comparison['mismatch'] = null,
) {
  const summary = await new FileReading().read(
    new Blob([text]) as globalThis.Blob,
    'EUR',
    {},
    () => undefined,
  );
  const [statement] = summary.statements;
  const [bank] = testBooks().bankAccounts;
  if (!statement || !bank) throw new Error('no statement');
  const onDates = vi.fn();
  const onConsent = vi.fn();
  const { user } = renderInBooks(
    <PreviewFactsPanel
      summary={summary}
      statement={statement}
      comparison={mismatch && { counts: NONE, beforeOpeningCount: 0, closedCount: 0, mismatch }}
      bankAccount={{ ...bank, kind }}
      refused={[]}
      isOtherCurrency={false}
      isOtherNumber={false}
      hasGap={false}
      isAhead={(statement.lines.last ?? '') > '2026-03-31'}
      onDates={onDates}
      consents={noConsents}
      onConsent={onConsent}
    />,
  );
  return { user, onDates, onConsent };
}

const WRONG_WAY = /the wrong\s+way round/;

describe('what a preview says of a file', () => {
  it('asks which date it is where day and month can’t be told apart', async () => {
    const { user, onDates } = await show('Date,Text,Amount\n03/02/2026,CLAY,-1.00\n');
    await user.click(screen.getByRole('button', { name: 'It is 2 March 2026' }));
    expect(onDates).toHaveBeenCalledWith('monthFirst');
    expect(screen.getByRole('button', { name: 'It is 3 February 2026' })).toBeTruthy();
  });

  it('asks about lines dated after today', async () => {
    const { user, onConsent } = await show('Date,Text,Amount\n2026-04-14,CLAY,-1.00\n');
    await user.click(screen.getByRole('checkbox', { name: /dated after today, up to 14 Apr/ }));
    expect(onConsent).toHaveBeenCalledWith({ dates: true });
    expect(screen.queryByText(/Which date is/)).toBeNull();
  });

  it('takes a card for turned by the number of its lines, not by one large payment', async () => {
    const lines = ['2026-03-01,CLAY,-20.00', '2026-03-02,CAFE,-4.80', '2026-03-03,PAYMENT,900.00'];
    await show(['Date,Text,Amount', ...lines].join('\n'), 'card');
    expect(screen.queryByText(WRONG_WAY)).toBeNull();
  });

  it('says so where most lines of a card come in', async () => {
    const lines = ['2026-03-01,CLAY,20.00', '2026-03-02,CAFE,4.80', '2026-03-03,PAYMENT,-900.00'];
    await show(['Date,Text,Amount', ...lines].join('\n'), 'card');
    expect(screen.getByText(WRONG_WAY)).toBeTruthy();
  });

  it('names title rows and totals as passed over, not as unreadable', async () => {
    await show('Statement\nDate,Text,Amount\n2026-03-01,CLAY,-20.00\nTotal,,-20.00\n');
    expect(screen.getByText('Row 1 above the headings: passed over.')).toBeTruthy();
    expect(screen.getByText('Unreadable').nextElementSibling?.textContent).toBe('0');
  });

  it('says what the account would stand at, and what is wrong with that', async () => {
    const mismatch = { wouldBe: -900, stated: { date: '2026-03-02', amount: 1_000 } };
    const balanced =
      'Date,Text,Amount,Balance\n2026-03-01,CLAY,-1.00,11.00\n2026-03-02,CAFE,-1.00,10.00\n';
    const { user, onConsent } = await show(balanced, 'current', mismatch);
    const consent = screen.getByRole('checkbox', {
      name: /stand at −9\.00 on 02 Mar\. The file states 10\.00\. \+19\.00 stays unexplained/,
    });
    await user.click(consent);
    expect(onConsent).toHaveBeenCalledWith({ balance: true });
  });

  it('does not call a balance the file’s that it has no line of', async () => {
    const mismatch = { wouldBe: -900, stated: { date: '2026-03-02', amount: 1_100 } };
    const short =
      'Date,Text,Amount,Balance\n2026-03-01,CLAY,-1.00,11.00\n31.02.2026,LOST,-1.00,10.00\n2026-03-02,CAFE,-1.00,9.00\n';
    await show(short, 'current', mismatch);
    expect(screen.queryByText(/The file states/)).toBeNull();
    expect(
      screen.getByRole('checkbox', {
        name: /From the file’s opening balance, the lines that were read lead to 11\.00/,
      }),
    ).toBeTruthy();
  });
});
