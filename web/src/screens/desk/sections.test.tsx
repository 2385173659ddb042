import { screen, waitFor } from '@testing-library/react';
import type { DeskLine, Proposal } from '@zubrell/contract/desk';
import { heldReasons } from '@zubrell/core/intake/held';
import { describe, expect, it, vi } from 'vitest';
import { InDesk } from '../../testing/InDesk.tsx';
import { type Answers, renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks } from '../../testing/testBooks.ts';
import { testLine, testProposal } from '../../testing/testLines.ts';
import { CostObjectFields } from './CostObjectFields.tsx';
import { DeskEmpty } from './DeskEmpty.tsx';
import { FitsSection } from './FitsSection.tsx';
import { HeldSection } from './HeldSection.tsx';
import { lineRow } from './rows.ts';
import { TwiceSection } from './TwiceSection.tsx';

const posts = (sent: ReturnType<typeof renderInBooks>['sent']) =>
  sent.filter(({ method }) => method === 'POST');

describe('a line that may be there twice', () => {
  const other: NonNullable<DeskLine['twiceOf']> = {
    id: 'earlier',
    date: '2026-03-02',
    amount: -4_850,
    description: 'TIDEMARK FRT 0',
    reference: null,
  };
  const open = () => {
    const focusList = vi.fn();
    const done = { step: 8, words: 'Excluded 1 line', done: ['1'], leftOut: [] };
    const view = renderInBooks(
      <InDesk>
        <TwiceSection
          row={lineRow(testLine('1', { twiceOf: other }))}
          other={other}
          focusList={focusList}
        />
      </InDesk>,
      { answers: { 'POST /lines/exclude': done, 'POST /lines/both-real': done } },
    );
    return { ...view, focusList };
  };

  it('stands beside the other, and is excluded as its copy with one press', async () => {
    const { user, sent, focusList } = open();
    expect(screen.getByText('TIDEMARK FRT 0')).toBeDefined();
    await user.click(screen.getByRole('button', { name: 'Same payment: exclude this line' }));
    await waitFor(() => expect(focusList).toHaveBeenCalled());
    expect(posts(sent)).toMatchObject([
      {
        path: '/lines/exclude',
        body: {
          target: { lineIds: ['1'] },
          reason: 'secondCopy',
          as: 'excluded',
          originals: { 1: 'earlier' },
        },
      },
    ]);
  });

  it('stays where both are said to be real', async () => {
    const { user, sent, focusList } = open();
    await user.click(screen.getByRole('button', { name: 'Both are real' }));
    await waitFor(() => expect(focusList).toHaveBeenCalled());
    expect(posts(sent)).toMatchObject([{ body: { lineIds: ['1'] } }]);
  });
});

describe('what a line is in the books already', () => {
  const show = (proposal: Proposal | null) =>
    renderInBooks(<FitsSection row={lineRow(testLine('1', { proposal }))} />);
  const bill = {
    kind: 'document',
    id: 'bill',
    documentKind: 'bill',
    number: 'INV 2093',
    date: '2026-02-20',
    dueDate: '2026-03-22',
    payeeId: 'tidemark',
    amount: -4_850,
  };

  it('is named with its payee and days, and can be compared', async () => {
    const { user, router } = show({
      ...testProposal('6010'),
      kind: 'pair',
      source: 'pair',
      targets: [bill],
    } as unknown as Proposal);
    const item = await screen.findByRole('listitem');
    expect(item.textContent).toContain('INV 2093');
    expect(item.textContent).toContain('48.50');
    expect(item.textContent).toContain('due 22 Mar');
    await user.click(screen.getByRole('button', { name: /^Compare/ }));
    await waitFor(() => expect(router.state.location.search).toContain('line=1'));
  });

  it('is searched for where nothing fits', async () => {
    show(testProposal('6010'));
    expect(await screen.findByText('No entry in the books matches this line.')).toBeDefined();
    expect(screen.getByRole('button', { name: /^Search the books/ })).toBeDefined();
  });

  it('is compared where something nearly fits', async () => {
    show(testProposal('6010', { doubts: [{ kind: 'nearlyInBooks' }] } as Partial<Proposal>));
    expect(await screen.findByText('An entry almost matches.')).toBeDefined();
    expect(screen.getByRole('button', { name: /^Compare/ })).toBeDefined();
  });
});

it.each(heldReasons)('a line held as %s says so, and what to decide', (held) => {
  const { container } = renderInBooks(<HeldSection held={held} />);
  expect(screen.getByRole('heading').textContent).not.toBe('');
  expect(container.querySelector('p')?.textContent?.trim()).not.toBe('');
});

describe('what a cost is for', () => {
  const nothing = { costCentreId: null, jobId: null, isRecharged: false };
  const withJobs = {
    ...testBooks(),
    costObjects: [
      { id: 'kiln', kind: 'costCentre', name: 'Kiln room', isOn: true },
      { id: 'shed', kind: 'costCentre', name: 'Old shed', isOn: false },
      { id: 'mural', kind: 'job', name: 'Tile mural', isOn: true },
    ] as const,
  };
  function show(coding: object = nothing, setup: object = withJobs, answers: Answers = {}) {
    const onChange = vi.fn();
    const view = renderInBooks(
      <CostObjectFields coding={{ ...nothing, ...coding }} onChange={onChange} />,
      { setup: setup as ReturnType<typeof testBooks>, answers },
    );
    return { ...view, onChange };
  }

  it('is one quiet button in books that use neither cost centres nor jobs', async () => {
    const { user } = show({}, testBooks());
    await user.click(screen.getByRole('button', { name: 'Cost centre or job …' }));
    expect(screen.getByRole('combobox', { name: 'Cost centre' })).toBeDefined();
    expect(screen.getByRole('combobox', { name: 'Job' })).toBeDefined();
  });

  it('is chosen among those that are on', async () => {
    const { user, onChange } = show();
    await user.click(screen.getByRole('combobox', { name: 'Cost centre' }));
    expect(screen.queryByRole('option', { name: 'Old shed' })).toBeNull();
    await user.click(await screen.findByRole('option', { name: 'Kiln room' }));
    expect(onChange).toHaveBeenCalledWith({ ...nothing, costCentreId: 'kiln' });
  });

  it('is charged to the job’s customer only where there is a job', async () => {
    const { onChange, user } = show({ jobId: 'mural' });
    await user.click(
      screen.getByRole('checkbox', { name: 'Charge the job’s customer for this cost' }),
    );
    expect(onChange).toHaveBeenCalledWith({ ...nothing, jobId: 'mural', isRecharged: true });
    show();
    expect(screen.getAllByRole('checkbox')).toHaveLength(1);
  });

  it('is made from what was typed', async () => {
    const { user, sent, onChange } = show({}, withJobs, {
      'POST /cost-objects': { id: 'garden', step: 8, words: 'Created job Garden wall' },
    });
    await user.type(screen.getByRole('combobox', { name: 'Job' }), 'Garden wall{Enter}');
    await waitFor(() => expect(onChange).toHaveBeenCalledWith({ ...nothing, jobId: 'garden' }));
    expect(posts(sent)).toMatchObject([{ body: { kind: 'job', name: 'Garden wall' } }]);
  });
});

describe('an empty lane', () => {
  const lanes = { ready: 0, check: 3, blank: 1, posted: 9 };
  const booksFrom = (firstDate: string | null) => {
    const setup = testBooks();
    return { ...setup, bankAccounts: setup.bankAccounts.map((bank) => ({ ...bank, firstDate })) };
  };
  const open = (query: string, counts: object = lanes, setup = booksFrom('2026-01-05')) =>
    renderInBooks(<DeskEmpty />, { query, setup, answers: { 'GET /lanes': counts } });

  it('leads to the next lane that has lines', async () => {
    const { user, router } = open('?lane=ready');
    await user.click(await screen.findByRole('button', { name: '3 wait in Check' }));
    expect(router.state.location.search).toContain('lane=check');
  });

  it('says that nothing is left where all are empty', async () => {
    open('?lane=ready', { ready: 0, check: 0, blank: 0 });
    expect(await screen.findByText(/No lines are open here/)).toBeDefined();
  });

  it('leads to Intake where no line ever came', async () => {
    open('', lanes, booksFrom(null));
    expect((await screen.findByRole('link', { name: 'Import a file' })).getAttribute('href')).toBe(
      '/books/books/intake',
    );
  });

  it('of a search says what was looked for, and shows all again', async () => {
    const { user, router } = open('?lane=ready&q=copper');
    expect(await screen.findByText('Nothing here says “copper”')).toBeDefined();
    await user.click(screen.getByRole('button', { name: 'Show all' }));
    expect(router.state.location.search).not.toContain('copper');
  });
});
