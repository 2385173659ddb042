import type { Database } from '../db/database.ts';
import { recordAccess } from '../modules/audit/recordAccess.ts';
import { makeResetLink } from '../modules/session/resetLinks.ts';
import { userByEmail } from '../modules/session/sessions.ts';
import type { Services } from '../services.ts';
import type { Outcome } from './namedBooks.ts';

/**
 * Makes a link by which somebody sets a new password, for whoever runs the server: nobody else can where the only owner
 * of books has forgotten theirs.
 */
export async function resetLink(
  database: Database,
  services: Pick<Services, 'clock'>,
  email: string,
  endsSecondFactor: boolean,
): Promise<Outcome> {
  const user = await userByEmail(database, email);
  if (!user) return { lines: [`There is no user with the address ${email}.`], code: 2 };
  const secret = await database.transaction(async (tx) => {
    const details = { endsSecondFactor, byOperator: true };
    const record = { kind: 'resetLinkMade', booksId: null, subjectId: user.id, details } as const;
    await recordAccess(tx, null, { address: '', browser: '' }, record);
    return makeResetLink(tx, services, user.id, endsSecondFactor);
  });
  return {
    lines: [
      `${user.name} can set a new password within a day at this address of the server:`,
      `/reset/${secret}`,
    ],
    code: 0,
  };
}
