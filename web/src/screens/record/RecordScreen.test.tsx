import { screen, waitFor } from '@testing-library/react';
import type { AuditRecord } from '@zubrell/contract/audit';
import { describe, expect, it, vi } from 'vitest';
import { saveText } from '../../app/saveText.ts';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { RecordScreen } from './RecordScreen.tsx';

vi.mock('../../app/saveText.ts', () => ({ saveText: vi.fn() }));

const record = (key: string, more: Partial<AuditRecord>): AuditRecord => ({
  key,
  at: '2026-03-03T09:05:00Z',
  kind: 'signedIn',
  who: 'Mo Oakes',
  about: null,
  name: null,
  address: '10.0.0.1',
  browser: 'Mozilla/5.0 (X11; Linux x86_64) Chrome/140.0 Safari/537.36',
  details: {},
  words: null,
  ...more,
});
const refused = record('1', {
  kind: 'refused',
  who: null,
  browser: '=cmd',
  details: { code: 'ROLE_TOO_LOW', route: 'PATCH /api/books/:booksId' },
});
const mo = { id: 'f2b6c1de-0000-4000-8000-000000000001', name: 'Mo Oakes' };
const page = (items: readonly AuditRecord[], next: string | null = null) => ({
  items,
  people: [mo],
  next,
});

describe('the access record', () => {
  it('shows who did what, from where, and what was refused', async () => {
    renderInBooks(<RecordScreen />, {
      answers: { 'GET /records': page([refused, record('2', {})]) },
    });
    const [, first, second] = await screen.findAllByRole('row');
    expect(first?.textContent).toContain('nobody signed in');
    expect(first?.textContent).toContain('Asked for what their role does not allow');
    expect(second?.textContent).toContain('Mo Oakes');
    expect(second?.textContent).toContain('Chromium on Linux');
    expect(screen.queryByText('Older records')).toBeNull();
  });

  it('asks for a kind and a person, and says where nothing is like that', async () => {
    const { user, sent } = renderInBooks(<RecordScreen />, {
      answers: {
        'GET /records': (query) => page(query.get('group') === null ? [record('2', {})] : []),
      },
    });
    await user.click(await screen.findByRole('button', { name: /Who/ }));
    await user.click(screen.getByRole('button', { name: 'Mo Oakes' }));
    await user.click(screen.getByRole('button', { name: /Kind/ }));
    await user.click(screen.getByRole('button', { name: 'Refusals' }));
    await screen.findByText('No records match.');
    expect(sent.at(-1)?.path).toBe(`/records?group=refusals&userId=${mo.id}`);
  });

  it('is exported whole, on record, and can’t be run as a formula', async () => {
    const { user, sent } = renderInBooks(<RecordScreen />, {
      answers: {
        'GET /records': (query) =>
          query.get('cursor') === 'more' ? page([refused]) : page([record('2', {})], 'more'),
      },
    });
    await user.click(await screen.findByRole('button', { name: 'Export CSV' }));
    await waitFor(() => expect(saveText).toHaveBeenCalled());
    const [text] = vi.mocked(saveText).mock.calls[0] ?? [''];
    expect(String(text).trim().split('\r\n')).toHaveLength(3);
    expect(text).toContain("'=cmd");
    expect(sent).toContainEqual({ method: 'POST', path: '/exports', body: { what: 'records' } });
  });

  it('says that nothing was changed, or what was', async () => {
    let faults = [{ no: 3, what: 'changed' }];
    const chain = (name: string) => ({ chain: name, count: 12, faults, head: 'a'.repeat(64) });
    const { user } = renderInBooks(<RecordScreen />, {
      answers: {
        'GET /records': page([]),
        'GET /records/check': () => ({ chains: [chain('steps')] }),
      },
    });
    await user.click(await screen.findByRole('button', { name: 'Check for changes' }));
    await screen.findByText('Step 3 or the one before it was changed.');
    faults = [];
    await user.click(screen.getByRole('button', { name: 'Check for changes' }));
    await screen.findByText(/All 12 steps are unchanged/);
  });
});
