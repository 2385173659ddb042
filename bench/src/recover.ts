import { execFile } from 'node:child_process';
import { chownSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { chmod } from 'node:fs/promises';
import { tmpdir, userInfo } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { promisify } from 'node:util';
import { machineClock } from '@zubrell/server/clock';
import { beginCommand } from '@zubrell/server/commands/beginCommand';
import { freePort, postgresPrograms } from '@zubrell/server/db/cluster';
import { type Database, inBooks, openBackground, rowsOf } from '@zubrell/server/db/database';
import { keptWrong } from '@zubrell/server/db/keptTables';
import { migrate } from '@zubrell/server/db/migrate';
import { ownerRole, runtimeRole } from '@zubrell/server/db/roles';
import { verifySteps } from '@zubrell/server/modules/audit/verifyChains';
import { createBooks } from '@zubrell/server/modules/books/createBooks';
import { createPayee } from '@zubrell/server/modules/books/makeThings';
import { createUser, openSession } from '@zubrell/server/modules/session/sessions';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { postmasterOf } from './faults/brokenServers.ts';
import { sized } from './sized.ts';

/** So long work is done before the disk is lost, in milliseconds, and so often a step is taken. */
const WORKED = sized(100_000, 4_000);
const A_STEP = 100;
/** PostgreSQL hands its log on at least so often, in seconds. */
const HANDED_ON = sized(30, 2);
/** The most that may be lost, in seconds. */
const MOST_LOST = 60;
const services = { clock: machineClock };
const execute = promisify(execFile);

/**
 * Loses the disk of a database that pgBackRest backs up, in the midst of work, and brings it back from the repository
 * alone: how many seconds of work are gone, and whether what is left is whole.
 */
export async function recover(): Promise<string> {
  const server = await openArchived();
  try {
    const urls = await server.makeDatabase();
    await migrate(urls);
    const work = await workOn(urls.runtime);
    await server.backUp();
    const until = Date.now() + WORKED;
    while (Date.now() < until) {
      await work.step();
      await pause(A_STEP);
    }
    const lostAt = Date.now();
    await server.loseDisk();
    await work.close();
    const began = Date.now();
    await server.restore();
    const took = (Date.now() - began) / 1_000;
    const owner = openBackground(urls.owner, 2);
    try {
      const [row] = await rowsOf(owner, StepsRow, sql`select last_step as steps from books`);
      const steps = row?.steps ?? 0;
      const lost = (lostAt - work.at(steps)) / 1_000;
      const faults = await faultsOf(owner, work.booksId);
      const isGood = lost <= MOST_LOST && faults === 0;
      return (
        `a lost disk, brought back by pgBackRest: ${steps} of ${work.steps()} steps, ` +
        `${lost.toFixed(0)} s of work gone (aim: ${MOST_LOST} at most), ${faults} faults in what is left  ` +
        `${isGood ? 'met' : 'NOT MET'}\n  it took ${took.toFixed(0)} s\n`
      );
    } finally {
      await owner.$client.end();
    }
  } finally {
    await server.remove();
  }
}

const StepsRow = z.object({ steps: z.coerce.number() });

async function faultsOf(owner: Database, booksId: string): Promise<number> {
  const chain = await owner.transaction((tx) => verifySteps(tx, booksId));
  return chain.faults.length + (await keptWrong(owner, null)).length;
}

/** Books in which a payee is made with each step. */
async function workOn(url: string) {
  const database = openBackground(url, 2);
  const person = { name: 'Mo Oakes', email: 'mo@larkmoor.example', password: 'long enough' };
  const user = await createUser(database, services, person);
  const session = await openSession(database, services, user.id);
  const actor = { userId: user.id, name: user.name, session };
  const booksId = await database.transaction((tx) =>
    createBooks(tx, services, actor, { name: 'Larkmoor Kiln Works', currency: 'EUR' }),
  );
  const done = new Map<number, number>();
  return {
    booksId,
    async step(): Promise<void> {
      const { step } = await inBooks(database, booksId, async (tx) =>
        createPayee(await beginCommand(tx, services, booksId, actor), {
          name: `Payee ${done.size}`,
          kind: 'supplier',
        }),
      );
      done.set(step ?? 0, Date.now());
    },
    /** When a step was answered as done, in milliseconds. */
    at: (step: number) => done.get(step) ?? 0,
    steps: () => Math.max(...done.keys()),
    close: () => database.$client.end().catch(() => undefined),
  };
}

/** A PostgreSQL of a system, as docs/deploying.md has it, whose log goes to a repository of pgBackRest. */
async function openArchived() {
  const programs = postgresPrograms('initdb');
  const folder = mkdtempSync(join(tmpdir(), 'zubrell-recover-'));
  const data = join(folder, 'data');
  const port = await freePort();
  const isRoot = process.getuid?.() === 0;
  // PostgreSQL refuses to run as root.
  const asOwner = async (program: string, args: readonly string[]): Promise<void> => {
    const switched = ['--reuid=postgres', '--regid=postgres', '--init-groups', program, ...args];
    await execute(isRoot ? 'setpriv' : program, isRoot ? switched : [...args], { cwd: '/' });
  };
  if (isRoot) {
    const { stdout } = await execute('id', ['-u', 'postgres']);
    chownSync(folder, Number(stdout), Number(stdout));
  }
  await chmod(folder, 0o755);
  for (const part of ['repository', 'log', 'lock']) {
    await asOwner('mkdir', ['-p', join(folder, part)]);
  }
  const settings = join(folder, 'pgbackrest.conf');
  const administrator = isRoot ? 'postgres' : userInfo().username;
  writeFileSync(
    settings,
    [
      '[global]',
      `repo1-path=${folder}/repository\nlog-path=${folder}/log\nlock-path=${folder}/lock`,
      'repo1-retention-full=2\nstart-fast=y\nlog-level-console=off\nlog-level-stderr=error',
      '[zubrell]',
      `pg1-path=${data}\npg1-port=${port}\npg1-socket-path=${folder}\npg1-user=${administrator}`,
    ].join('\n'),
    { mode: 0o644 },
  );
  const backRest = (...args: readonly string[]) =>
    asOwner('pgbackrest', [`--config=${settings}`, '--stanza=zubrell', ...args]);
  const start = () =>
    asOwner(join(programs, 'pg_ctl'), ['-D', data, '-w', '-l', join(folder, 'pg.log'), 'start']);
  await asOwner(join(programs, 'initdb'), ['-D', data, '-U', administrator, '--auth=trust', '-N']);
  const push = `pgbackrest --config=${settings} --stanza=zubrell archive-push %p`;
  const lines = [
    `listen_addresses = '127.0.0.1'`,
    `port = ${port}`,
    `unix_socket_directories = '${folder}'`,
    'archive_mode = on',
    `archive_command = '${push}'`,
    `archive_timeout = ${HANDED_ON}`,
  ];
  await asOwner('sh', [
    '-c',
    `printf '%s\\n' "$@" >> "$0"`,
    join(data, 'postgresql.conf'),
    ...lines,
  ]);
  await start();
  await backRest('stanza-create');
  const url = (role: string, name: string) => `postgres://${role}@127.0.0.1:${port}/${name}`;
  return {
    async makeDatabase() {
      const admin = openBackground(url(administrator, 'postgres'), 1);
      for (const role of [ownerRole, runtimeRole]) {
        await admin.execute(sql.raw(`create role ${role} login`));
      }
      await admin.execute(sql.raw(`create database zubrell owner ${ownerRole}`));
      await admin.$client.end();
      return { owner: url(ownerRole, 'zubrell'), runtime: url(runtimeRole, 'zubrell') };
    },
    backUp: () => backRest('--type=full', 'backup'),
    async loseDisk(): Promise<void> {
      const pid = postmasterOf(join(data, 'postmaster.pid'));
      if (pid !== null) process.kill(pid, 'SIGKILL');
      await pause(1_000);
      rmSync(data, { recursive: true, force: true });
      mkdirSync(data, { mode: 0o700 });
      if (isRoot) await execute('chown', ['postgres:postgres', data]);
    },
    async restore(): Promise<void> {
      await backRest('restore');
      await start();
      const admin = openBackground(url(administrator, 'postgres'), 1);
      while (await isRecovering(admin)) await pause(100);
      await admin.$client.end();
    },
    async remove(): Promise<void> {
      await asOwner(join(programs, 'pg_ctl'), ['-D', data, '-m', 'immediate', 'stop']).catch(
        () => undefined,
      );
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

const RecoveringRow = z.object({ isRecovering: z.boolean() });

async function isRecovering(admin: Database): Promise<boolean> {
  const [row] = await rowsOf(
    admin,
    RecoveringRow,
    sql`select pg_is_in_recovery() as "isRecovering"`,
  );
  return row?.isRecovering ?? true;
}
