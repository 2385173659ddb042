import { describe, expect, it } from 'vitest';
import { makeKey } from './secrets.ts';
import { settingsProblems } from './settings.ts';

describe('settings', () => {
  it('are well where nothing is set, and where all is as it should be', () => {
    expect(settingsProblems({ PATH: '/usr/bin', HOME: '/root' })).toEqual([]);
    expect(
      settingsProblems({
        PORT: '8080',
        HOST: '0.0.0.0',
        DATABASE_URL: 'postgres://zubrell_app:secret@db:5432/zubrell?sslmode=require',
        MIGRATION_DATABASE_URL: 'postgresql://zubrell_owner:secret@db/zubrell',
        ZUBRELL_HTTPS: 'yes',
        ZUBRELL_HOSTS: 'books.example, zubrell.example',
        ZUBRELL_TRUSTED_PROXIES: '10.0.0.1, 192.168.0.0/16, ::1',
        ZUBRELL_KEYS: `${makeKey()}, ${makeKey()}`,
        ZUBRELL_LOG: 'warn',
        ZUBRELL_METRICS_TOKEN: 'sixteen or more!',
        ZUBRELL_TODAY: '2026-04-08',
        PRACTICE_BANK_URL: 'http://127.0.0.1:4320',
      }),
    ).toEqual([]);
  });

  it.each([
    ['PORT', '80a'],
    ['PORT', '0'],
    ['PORT', '70000'],
    ['HOST', ' '],
    ['MIGRATION_DATABASE_URL', 'db:5432/zubrell'],
    ['MIGRATION_DATABASE_URL', 'mysql://db/zubrell'],
    ['PRACTICE_BANK_URL', '127.0.0.1:4320'],
    ['ZUBRELL_HTTPS', 'true'],
    ['ZUBRELL_HOSTS', 'https://books.example'],
    ['ZUBRELL_HOSTS', 'books.example:443'],
    ['ZUBRELL_TRUSTED_PROXIES', 'proxy.example'],
    ['ZUBRELL_KEYS', 'dG9vIHNob3J0'],
    ['ZUBRELL_KEYS', ''],
    ['ZUBRELL_LOG', 'verbose'],
    ['ZUBRELL_METRICS_TOKEN', 'short'],
    ['ZUBRELL_TODAY', '2026-02-30'],
    ['ZUBRELL_TODAY', '08.04.2026'],
  ])('are refused with words that begin with the name: %s=%s', (name, value) => {
    const problems = settingsProblems({ [name]: value });
    expect(problems).toHaveLength(1);
    expect(problems[0]).toMatch(
      new RegExp(`^${name} (is|has to) .*[^.]\\.$|^${name} .*base64 32\\.$`),
    );
  });

  it('name one that needs another, and a name that is none', () => {
    expect(settingsProblems({ DATABASE_URL: 'postgres://db/zubrell' })).toEqual([
      'With DATABASE_URL, MIGRATION_DATABASE_URL is needed too: the same database as its owner.',
    ]);
    const [problem] = settingsProblems({ ZUBRELL_HOST: 'books.example' });
    expect(problem).toMatch(/^ZUBRELL_HOST is no setting\. There are: .*ZUBRELL_HOSTS, /);
  });

  it('never quote a secret', () => {
    const secret = 'wrong-and-secret';
    const problems = settingsProblems({
      DATABASE_URL: secret,
      MIGRATION_DATABASE_URL: secret,
      ZUBRELL_KEYS: secret,
      ZUBRELL_METRICS_TOKEN: secret.slice(0, 10),
    });
    expect(problems).toHaveLength(4);
    expect(problems.join(' ')).not.toContain('secret');
  });
});
