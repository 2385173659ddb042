import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  chmodSync,
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

const project = fileURLToPath(new URL('..', import.meta.url));
const isRoot = process.getuid?.() === 0;
/** A place with a space in it, below a folder that only its owner may enter. */
const place = mkdtempSync(join(tmpdir(), 'only mine '));
const copy = join(place, 'a clone');
/** Where an ordinary user keeps data. */
const home = mkdtempSync(join(tmpdir(), 'at home '));

beforeAll(() => {
  chmodSync(place, 0o700);
  mkdirSync(copy);
  // What git would hand out, with what is not committed yet.
  const files = execFileSync('git', ['ls-files', '-co', '--exclude-standard'], {
    cwd: project,
    encoding: 'utf8',
  });
  for (const file of files.split('\n').filter((name) => existsSync(join(project, name)))) {
    if (file !== '') cpSync(join(project, file), join(copy, file));
  }
});
afterAll(() => {
  run('bin/demo', ['--stop']);
  for (const folder of [place, home, clusterFolder()]) {
    rmSync(folder, { recursive: true, force: true });
  }
});

function run(command: string, args: readonly string[] = []) {
  // From anywhere.
  return spawnSync('bash', [join(copy, command), ...args], { cwd: '/', encoding: 'utf8' });
}

/** Where the copy's database is: root's can't be below a folder that only root may enter. */
function clusterFolder(): string {
  const data = join(copy, '.data');
  const mark = createHash('sha256').update(data).digest('hex').slice(0, 12);
  return isRoot ? `/var/lib/postgresql/zubrell-${mark}` : join(data, 'postgres');
}

/** Where the demo says it is. */
function urlIn(output: string): string {
  return /http:\/\/127\.0\.0\.1:\d+/.exec(output)?.[0] ?? `nowhere: ${output}`;
}

async function isDemoAt(url: string): Promise<boolean> {
  const answer = await fetch(`${url}/api/session`);
  const session = (await answer.json()) as { isDemo: boolean };
  return session.isDemo;
}

describe('the demo command', () => {
  it('sets up a fresh folder, starts there and says where it is; again, it is the same', async () => {
    const first = run('bin/demo');
    expect(first.stderr).toContain('Installing npm packages');
    expect(first.stdout).toContain('Loading the demo data');
    const url = urlIn(first.stdout);
    expect(await isDemoAt(url)).toBe(true);
    const second = run('bin/demo');
    expect(second.stderr).toBe('');
    expect(urlIn(second.stdout)).toBe(url);
  });

  it('comes up again with its data after everything was ended with kill -9', async () => {
    const state = JSON.parse(readFileSync(join(copy, '.data', 'demo.json'), 'utf8')) as {
      readonly [program in 'server' | 'bank']: { readonly pid: number };
    };
    const [database] = readFileSync(join(clusterFolder(), 'data', 'postmaster.pid'), 'utf8').split(
      '\n',
    );
    for (const pid of [state.server.pid, state.bank.pid, Number(database)]) {
      process.kill(pid, 'SIGKILL');
    }
    const again = run('bin/demo');
    expect(again.stdout).not.toContain('Loading the demo data');
    expect(await isDemoAt(urlIn(again.stdout))).toBe(true);
  });

  it.runIf(isRoot)('runs for an ordinary user just as well, beside the other', async () => {
    chmodSync(place, 0o755);
    execFileSync('chown', ['nobody', home]);
    const asNobody = ['--reuid=nobody', '--regid=nogroup', '--clear-groups', '--'];
    const runAsNobody = (...args: readonly string[]) =>
      spawnSync('setpriv', [...asNobody, 'bash', join(copy, 'bin/demo'), ...args], {
        cwd: home,
        encoding: 'utf8',
        env: { ...process.env, HOME: home, TMPDIR: home, ZUBRELL_DATA: join(home, 'data') },
      });
    const done = runAsNobody('--small');
    expect(await isDemoAt(urlIn(done.stdout + done.stderr))).toBe(true);
    expect(runAsNobody('--stop').stdout).toContain('stopped');
  });
});

describe('set-up', () => {
  /** Programs that stand before the real ones. */
  function pretend(programs: Readonly<Record<string, string>>): NodeJS.ProcessEnv {
    const folder = mkdtempSync(join(home, 'bin-'));
    for (const [name, script] of Object.entries(programs)) {
      writeFileSync(join(folder, name), `#!/bin/sh\n${script}\n`, { mode: 0o755 });
    }
    return { PATH: `${folder}:${process.env.PATH}` };
  }

  function setUp(script: string, env: NodeJS.ProcessEnv) {
    const lines = `source '${copy}/bin/setup.sh'\nmissing_packages() { echo postgresql-15; }\n${script}`;
    return spawnSync('bash', ['-c', lines], {
      cwd: '/',
      encoding: 'utf8',
      env: { ...process.env, ...env },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
  }

  it('prints the one command to run where it is neither root nor has sudo', () => {
    const env = pretend({ id: 'echo 1000', sudo: 'exit 1' });
    const { status, stderr } = setUp('need_packages postgresql-15', env);
    expect(status).toBe(1);
    expect(stderr).toContain(
      'apt-get update && apt-get install -y --no-install-recommends postgresql-15',
    );
  });

  it('installs with sudo where that asks for nothing, and as root without it', () => {
    const apt = { 'apt-get': 'echo "apt-get $*" >&2', tee: 'cat >/dev/null', mkdir: 'true' };
    const withSudo = pretend({ ...apt, id: 'echo 1000', sudo: '[ "$1" = -n ] && shift; "$@"' });
    const asRoot = pretend({ ...apt, id: 'echo 0' });
    for (const env of [withSudo, asRoot]) {
      const { status, stderr } = setUp('need_packages postgresql-15', env);
      expect(stderr).toContain('install -y -qq --no-install-recommends postgresql-15');
      expect(status).toBe(0);
    }
  });

  it('says which Node.js it needs', () => {
    const old = setUp('need_node', pretend({ node: 'echo 18.20.0' }));
    expect(old).toMatchObject({ status: 1, stderr: expect.stringContaining('found 18.20.0') });
    expect(setUp('need_node', {}).status).toBe(0);
  });
});
