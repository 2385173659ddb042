import { describe, expect, it } from 'vitest';
import { recordKinds } from './recordKinds.ts';
import { recordWords, type ToldRecord } from './recordWords.ts';

const roles = { client: 'client', owner: 'owner' };
const told = (record: Partial<ToldRecord> & Pick<ToldRecord, 'kind'>) =>
  recordWords({ about: null, name: null, details: {}, words: null, ...record }, roles);

describe('recordWords', () => {
  it('says who may do what now, and what before', () => {
    const details = { from: 'client', to: 'owner' };
    expect(told({ kind: 'roleChanged', about: 'Ida', details })).toBe(
      'Changed the role of Ida from client to owner',
    );
    expect(told({ kind: 'invited', name: 'Ida', details: { role: 'client' } })).toBe(
      'Invited Ida as client',
    );
  });

  it('says of a refusal why, of whom, where, and how many more there were', () => {
    expect(
      told({ kind: 'refused', about: 'Ida', details: { code: 'SIGN_IN_WRONG', more: 41 } }),
    ).toBe('Tried to sign in with a wrong address or password, as Ida (41 more before it)');
    expect(
      told({ kind: 'refused', details: { code: 'ROLE_TOO_LOW', route: 'POST /api/books' } }),
    ).toBe('Asked for what their role does not allow: POST /api/books');
    expect(told({ kind: 'refused', details: { code: 'NEW_ONE', route: 'GET /x' } })).toBe(
      'Was refused (NEW_ONE): GET /x',
    );
  });

  it('says who made a link, and that the second factor goes with it', () => {
    const details = { endsSecondFactor: true, byOperator: true };
    expect(told({ kind: 'resetLinkMade', about: 'Ida', details })).toBe(
      'Created a link for Ida to set a new password, without the second factor, where the server runs',
    );
  });

  it('has words for every kind', () => {
    for (const kind of recordKinds) expect(told({ kind })).toMatch(/^[A-Z]/);
  });
});
