import { screen, waitFor, within } from '@testing-library/react';
import type { Role } from '@zubrell/contract/books';
import type { People } from '@zubrell/contract/people';
import { describe, expect, it } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks } from '../../testing/testBooks.ts';
import { PeoplePanel } from './PeoplePanel.tsx';

const people: People = {
  members: [
    {
      userId: 'mo',
      name: 'Mo Oakes',
      email: 'mo@larkmoor.example',
      role: 'owner',
      seesOtherBooks: true,
    },
    {
      userId: 'ines',
      name: 'Ines Varga',
      email: 'ines@larkmoor.example',
      role: 'client',
      seesOtherBooks: false,
    },
  ],
  invitations: [
    {
      id: 'i1',
      name: 'Tam Orre',
      role: 'reviewer',
      invitedBy: 'Mo Oakes',
      expiresAt: '2026-04-12T09:00:00Z',
    },
  ],
};

function open(role: Role, answers: object = {}) {
  return renderInBooks(<PeoplePanel />, {
    setup: testBooks({ role }),
    answers: {
      'GET /people': people,
      'GET /api/session': { user: { id: 'mo', name: 'Mo Oakes' } },
      'POST /invitations': { id: 'i2', secret: 'abc' },
      ...answers,
    },
  });
}

const rowOf = async (name: string) =>
  within((await screen.findByText(name)).closest('tr') ?? expect.unreachable());

describe('the people of books', () => {
  it('get another role from an owner, or lose their access after a second press', async () => {
    const { user, sent } = open('owner');
    const row = await rowOf('Ines Varga');
    await user.selectOptions(row.getByLabelText('Role of Ines Varga'), 'bookkeeper');
    const changes = () =>
      sent.filter(({ path, method }) => path === '/people/ines' && method !== 'GET');
    await waitFor(() => expect(changes().at(-1)?.body).toMatchObject({ role: 'bookkeeper' }));
    await user.click(row.getByRole('button', { name: 'Remove access' }));
    await user.click(row.getByRole('button', { name: 'Cancel' }));
    expect(changes()).toHaveLength(1);
    await user.click(row.getByRole('button', { name: 'Remove access' }));
    await user.click(row.getByRole('button', { name: 'Remove access' }));
    await waitFor(() => expect(changes().at(-1)?.body).toMatchObject({ role: null }));
  });

  it('are invited by a link that is shown once, and an invitation can be withdrawn', async () => {
    const { user, sent } = open('owner');
    const row = await rowOf('Tam Orre');
    expect(row.getByText(/invited, until 12 Apr/)).toBeDefined();
    await user.click(row.getByRole('button', { name: 'Withdraw invitation' }));
    await waitFor(() =>
      expect(sent.some(({ path }) => path === '/invitations/i1/withdraw')).toBe(true),
    );
    await user.type(screen.getByLabelText('Invite'), 'Orrin Bell');
    await user.selectOptions(screen.getByLabelText('Role'), 'reviewer');
    await user.click(screen.getByRole('button', { name: 'Create invitation' }));
    const link = await screen.findByLabelText('Link for Orrin Bell');
    expect((link as HTMLInputElement).value).toMatch(/\/join\/abc$/);
    expect(
      sent.find(({ path, method }) => path === '/invitations' && method === 'POST')?.body,
    ).toEqual({
      name: 'Orrin Bell',
      role: 'reviewer',
    });
  });

  it('are not invited without a name', async () => {
    const { user, sent } = open('owner');
    await rowOf('Tam Orre');
    await user.click(screen.getByRole('button', { name: 'Create invitation' }));
    expect(await screen.findByText(/say who is invited/i)).toBeDefined();
    expect(sent.some(({ method }) => method === 'POST')).toBe(false);
  });

  it('are only listed for others', async () => {
    open('reviewer', { 'POST /invitations': problem('ROLE_TOO_LOW', { role: 'reviewer' }) });
    const row = await rowOf('Ines Varga');
    expect(row.getByText('Client, answers questions')).toBeDefined();
    expect(screen.queryByRole('button')).toBeNull();
    expect(screen.queryByLabelText('Invite')).toBeNull();
  });
});
