import type { AuditRecords, ChainChecks } from '@zubrell/contract/audit';
import type { Steps } from '@zubrell/contract/desk';
import type { People } from '@zubrell/contract/people';
import type { Role } from '@zubrell/core/people/roles';
import { describe, expect, it } from 'vitest';
import { joinedAs } from '../../testing/joinedAs.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();

const joined = (name: string, role: Role) => joinedAs(scene, name, role);

describe('a person’s account', () => {
  const of = (userId: string) => `${scene.path}/people/${userId}`;

  it('gets a link for a new password from an owner of all their books', async () => {
    const ina = await joined('Ina Soltveit', 'bookkeeper');
    const link = () =>
      scene.client.send<{ secret: string }>('POST', `${of(ina.userId)}/reset-link`, {
        endsSecondFactor: false,
      });
    const { secret } = await link();
    expect(await ina.get(`/api/reset-links/${secret}`)).toMatchObject({ name: 'Ina Soltveit' });
    await expect(
      ina.send('POST', `${of(scene.client.userId)}/reset-link`, { endsSecondFactor: true }),
    ).rejects.toThrow('ROLE_TOO_LOW');
    await expect(
      scene.client.send('POST', `${of(scene.client.userId)}/reset-link`, {
        endsSecondFactor: true,
      }),
    ).rejects.toThrow('RESET_OWN');
    // Whoever owns these books only could get into others that way.
    await ina.send('POST', '/api/books', { name: 'Fennick & Daughter', currency: 'EUR' });
    await expect(link()).rejects.toThrow('MEMBER_ELSEWHERE');
    await expect(scene.client.send('POST', `${of(ina.userId)}/erase`, {})).rejects.toThrow(
      'MEMBER_ELSEWHERE',
    );
  });

  it('is erased: the name is replaced wherever it stands, and what was done stays', async () => {
    const rosa = await joined('Rosa Lindqvarn', 'bookkeeper');
    await rosa.send('POST', `${scene.path}/payees`, { name: 'Tidemark Freight', kind: 'supplier' });
    await scene.client.send('POST', `${of(rosa.userId)}/erase`, {});
    await expect(rosa.get('/api/books')).rejects.toThrow('SIGN_IN_NEEDED');
    const { members } = await scene.client.get<People>(`${scene.path}/people`);
    expect(members.map(({ name }) => name)).toEqual(['Mo Oakes']);
    const { items } = await scene.client.get<Steps>(`${scene.path}/steps`);
    expect(items[0]).toMatchObject({
      who: 'Erased person',
      words: expect.stringContaining('Tidemark'),
    });
    const { items: records } = await scene.client.get<AuditRecords>(`${scene.path}/records`);
    expect(records[0]).toMatchObject({
      kind: 'userErased',
      who: 'Mo Oakes',
      about: 'Erased person',
    });
    expect(JSON.stringify(records)).not.toContain('Rosa');
    const { chains } = await scene.client.get<ChainChecks>(`${scene.path}/records/check`);
    expect(chains.flatMap(({ faults }) => faults)).toEqual([]);
  });
});
