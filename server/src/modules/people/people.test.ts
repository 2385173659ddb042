import type { Invited, People } from '@zubrell/contract/people';
import type { QuestionsToMe } from '@zubrell/contract/questions';
import type { Role } from '@zubrell/core/people/roles';
import { beforeEach, describe, expect, it } from 'vitest';
import { ofxFile } from '../../testing/files.ts';
import { joinedAs } from '../../testing/joinedAs.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();

async function invite(name: string, role: string): Promise<string> {
  const path = `${scene.path}/invitations`;
  return (await scene.client.send<Invited>('POST', path, { name, role })).secret;
}

const joined = (name: string, role: Role) => joinedAs(scene, name, role);

const people = () => scene.client.get<People>(`${scene.path}/people`);

describe('an invitation', () => {
  it('makes whoever has its link a member with its role, once', async () => {
    const secret = await invite('Ina Soltveit', 'reviewer');
    expect((await people()).invitations).toMatchObject([{ name: 'Ina Soltveit' }]);
    const ina = await scene.harness.signIn('Ina S');
    await expect(ina.get(`${scene.path}/setup`)).rejects.toThrow('BOOKS_UNKNOWN');
    expect(await ina.get(`/api/invitations/${secret}`)).toMatchObject({
      booksName: 'Larkmoor Kiln Works',
      invitedBy: 'Mo Oakes',
      role: 'reviewer',
    });
    await ina.send('POST', `/api/invitations/${secret}/join`, { newUser: null });
    await ina.get(`${scene.path}/setup`);
    await expect(ina.send('PATCH', scene.path, { lockDate: null })).rejects.toThrow('ROLE_TOO_LOW');
    const late = await scene.harness.signIn('Somebody else');
    await expect(
      late.send('POST', `/api/invitations/${secret}/join`, { newUser: null }),
    ).rejects.toThrow('INVITATION_UNKNOWN');
  });

  it('makes a new user on the way', async () => {
    const secret = await invite('Rosa Lindqvarn', 'client');
    const newUser = {
      name: 'Rosa Lindqvarn',
      email: `rosa-${secret.slice(0, 6)}@larkmoor.example`,
      password: 'long enough',
    };
    const answer = await scene.harness.app.inject({
      method: 'POST',
      url: `/api/invitations/${secret}/join`,
      payload: { newUser },
    });
    expect(answer.statusCode).toBe(200);
    expect(answer.json()).toMatchObject({ user: { name: 'Rosa Lindqvarn' } });
    expect(answer.cookies).toHaveLength(1);
    expect((await people()).members.map(({ name }) => name)).toEqual([
      'Mo Oakes',
      'Rosa Lindqvarn',
    ]);
    const again = await invite('Rosa Lindqvarn', 'client');
    await expect(
      scene.client.send('POST', `/api/invitations/${again}/join`, { newUser }),
    ).rejects.toThrow('EMAIL_TAKEN');
  });

  it('can be taken back', async () => {
    const secret = await invite('Ina Soltveit', 'reviewer');
    const [{ id } = { id: '' }] = (await people()).invitations;
    await scene.client.send('POST', `${scene.path}/invitations/${id}/withdraw`);
    await expect(scene.client.get(`/api/invitations/${secret}`)).rejects.toThrow(
      'INVITATION_UNKNOWN',
    );
  });

  it('is made by the owner only', async () => {
    const bookkeeper = await joined('Ines Varga', 'bookkeeper');
    await expect(
      bookkeeper.send('POST', `${scene.path}/invitations`, { name: 'X', role: 'owner' }),
    ).rejects.toThrow('ROLE_TOO_LOW');
  });
});

describe('roles', () => {
  it('change and end, but books keep an owner', async () => {
    const ines = await joined('Ines Varga', 'bookkeeper');
    const set = (userId: string, role: string | null) =>
      scene.client.send('PATCH', `${scene.path}/people/${userId}`, { role });
    await expect(set(scene.client.userId, 'client')).rejects.toThrow('OWNER_NEEDED');
    await set(ines.userId, 'reviewer');
    await expect(ines.send('PUT', `${scene.path}/lines/${ines.userId}/draft`, {})).rejects.toThrow(
      'ROLE_TOO_LOW',
    );
    await set(ines.userId, null);
    await expect(ines.get(`${scene.path}/lanes`)).rejects.toThrow('BOOKS_UNKNOWN');
    await expect(set(ines.userId, 'client')).rejects.toThrow('MEMBER_UNKNOWN');
  });

  it('can withhold the making of accounts from bookkeepers', async () => {
    const ines = await joined('Ines Varga', 'bookkeeper');
    const make = (code: string) =>
      ines.send('POST', `${scene.path}/accounts`, {
        code,
        name: `Number ${code}`,
        type: 'expense',
        parentId: null,
      });
    await make('6500');
    await scene.client.send('PATCH', scene.path, { accountsMadeBy: 'owner' });
    await expect(make('6510')).rejects.toThrow('Mo Oakes');
    await scene.undo();
    await make('6510');
  });
});

describe('somebody who is asked', () => {
  let lineIds: string[];
  beforeEach(async () => {
    const lines = [
      { date: '2026-03-03', amount: '-48.50', text: 'TIDEMARK FRT 1', id: 'A' },
      { date: '2026-03-05', amount: '-12.00', text: 'QUAYSIDE 2', id: 'B' },
    ];
    await scene.books.keep('march.ofx', ofxFile(lines, '939.50'));
    lineIds = await scene.lineIds();
  });
  const ask = (lineId: string | undefined, askedOf: string) =>
    scene.client.send('POST', `${scene.path}/questions`, {
      target: { lineIds: [lineId] },
      askedOf,
      words: 'What was this for?',
      seenStep: 1e6,
    });

  it('sees and answers their own questions and nothing else', async () => {
    await ask(lineIds[0], 'Rosa Lindqvarn');
    await ask(lineIds[1], 'Somebody else');
    const rosa = await joined('Rosa Lindqvarn', 'client');
    await expect(rosa.get(`${scene.path}/setup`)).rejects.toThrow('ROLE_TOO_LOW');
    await expect(rosa.get(`${scene.path}/questions`)).rejects.toThrow('ROLE_TOO_LOW');
    const toMe = await rosa.get<QuestionsToMe>(`${scene.path}/questions-to-me`);
    expect(toMe).toMatchObject({
      booksName: 'Larkmoor Kiln Works',
      questions: [{ words: 'What was this for?', lines: [{ id: lineIds[0] }] }],
    });
    const all = await scene.client.get<{ questions: { id: string; askedOf: string }[] }>(
      `${scene.path}/questions`,
    );
    const others = all.questions.find(({ askedOf }) => askedOf === 'Somebody else')?.id;
    const answer = (id: string | undefined) =>
      rosa.send('POST', `${scene.path}/questions/${id}/answers`, { words: 'Two crates.' });
    await expect(answer(others)).rejects.toThrow('QUESTION_UNKNOWN');
    await answer(toMe.questions[0]?.id);
    expect(await scene.lanes()).toMatchObject({ asked: 1, check: 1 });
  });

  it('as a reviewer answers what they were asked, and nothing that others were', async () => {
    await ask(lineIds[0], 'Ina Soltveit');
    await ask(lineIds[1], 'Somebody else');
    const ina = await joined('Ina Soltveit', 'reviewer');
    const { questions } = await ina.get<{ questions: { id: string; askedOf: string }[] }>(
      `${scene.path}/questions`,
    );
    const answer = (of: string) => {
      const id = questions.find(({ askedOf }) => askedOf === of)?.id;
      return ina.send('POST', `${scene.path}/questions/${id}/answers`, { words: 'Two crates.' });
    };
    await expect(answer('Somebody else')).rejects.toThrow('ROLE_TOO_LOW');
    await answer('Ina Soltveit');
    expect(await scene.lanes()).toMatchObject({ asked: 1, check: 1 });
  });

  it('can add attachments to the lines they are asked about, and see those', async () => {
    const rosa = await joined('Rosa Lindqvarn', 'client');
    await ask(lineIds[0], 'rosa lindqvarn');
    const add = async (lineId: string | undefined) => {
      const answer = await scene.harness.app.inject({
        method: 'POST',
        url: `${scene.path}/lines/${lineId}/attachments?fileName=bill.pdf`,
        payload: Buffer.from('%PDF-1.7 a bill'),
        headers: { 'content-type': 'application/octet-stream', cookie: rosa.cookie },
      });
      return { status: answer.statusCode, id: answer.json<{ id?: string }>().id };
    };
    expect(await add(lineIds[1])).toMatchObject({ status: 403 });
    const { id } = await add(lineIds[0]);
    const { questions } = await rosa.get<QuestionsToMe>(`${scene.path}/questions-to-me`);
    expect(questions[0]?.lines[0]?.attachments).toEqual([{ id, fileName: 'bill.pdf' }]);
    const attachment = await scene.harness.app.inject({
      url: `${scene.path}/attachments/${id}`,
      headers: { cookie: rosa.cookie },
    });
    expect(attachment.body).toContain('a bill');
  });
});
