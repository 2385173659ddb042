import { expect, it, vi } from 'vitest';
import { patiently } from './patiently.ts';

const away = () => Object.assign(new Error('connect ECONNREFUSED'), { code: 'ECONNREFUSED' });

it('tries again while the database is away', async () => {
  const work = vi.fn<() => Promise<string>>();
  work.mockRejectedValueOnce(away()).mockRejectedValueOnce(away()).mockResolvedValue('done');
  expect(await patiently(work)).toBe('done');
  expect(work).toHaveBeenCalledTimes(3);
});

it('gives up after a while, and at once on anything else', async () => {
  await expect(patiently(() => Promise.reject(away()), 600)).rejects.toThrow('ECONNREFUSED');
  const work = vi.fn(() => Promise.reject(new Error('the password is wrong')));
  await expect(patiently(work)).rejects.toThrow('password');
  expect(work).toHaveBeenCalledOnce();
});
