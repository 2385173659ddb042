import type { Invited } from '@zubrell/contract/people';
import type { Role } from '@zubrell/core/people/roles';
import type { Client, TestBooks } from './client.ts';
import type { Harness } from './testServer.ts';

/** Where somebody joins, and who invites them. */
export interface Inviting {
  readonly harness: Harness;
  readonly client: Client;
  readonly books: TestBooks;
}

/** Signs a new user in who joins the books by an invitation. */
export async function joinedAs(
  { harness, client, books }: Inviting,
  name: string,
  role: Role,
): Promise<Client> {
  const path = `/api/books/${books.id}/invitations`;
  const { secret } = await client.send<Invited>('POST', path, { name, role });
  const member = await harness.signIn(name);
  await member.send('POST', `/api/invitations/${secret}/join`, { newUser: null });
  return member;
}
