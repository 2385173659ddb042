import { execFile, execFileSync, spawnSync } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import {
  chmodSync,
  chownSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  readlinkSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { createServer } from 'node:net';
import { totalmem } from 'node:os';
import { join, resolve } from 'node:path';
import { promisify } from 'node:util';
import pg from 'pg';
import { endOfFile } from './endOfFile.ts';
import { withFolderLock } from './folderLock.ts';
import { ownerRole, runtimeRole } from './roles.ts';

/** Where a database is, for each of the two roles. */
export interface DatabaseUrls {
  /** May create tables; used to migrate. */
  readonly owner: string;
  /** What the running program uses; bound by row-level security. */
  readonly runtime: string;
  /** The same without a pooler between, where there is one. */
  readonly background?: string;
}

/** A PostgreSQL cluster of our own, listening on loopback. */
export interface Cluster {
  /** Makes sure the named database is there, an empty one or a copy of a template that nobody uses. */
  ensureDatabase(name: string, template?: string): Promise<DatabaseUrls>;
  dropDatabase(name: string): Promise<void>;
  /** The named database as somebody who may do everything: for backups. */
  administrator(name: string): string;
  /** Starts PostgreSQL again, at the same port, whenever it is gone. @returns what ends that */
  keepRunning(): () => void;
  stop(): void;
}

/** How a cluster is to run. */
export interface ClusterOptions {
  /** The folder that the project keeps its data in, usually `.data`. */
  readonly dataFolder: string;
  /** Throwaway data: faster, not safe against power loss. */
  readonly isThrowaway?: boolean;
}

const SUPERUSER = 'cluster_admin';
const SET_UP_LOCK = 7_240_117;

/**
 * Makes, starts or finds the project's own PostgreSQL cluster. As root it belongs to the system
 * user `postgres`, below a folder that this user can reach; otherwise to the current user.
 *
 * @throws where PostgreSQL is not installed or can't start; the message says what to look at
 */
export async function openCluster(options: ClusterOptions): Promise<Cluster> {
  const programs = postgresPrograms('initdb');
  const place = clusterPlace(options.dataFolder);
  const data = join(place, 'data');
  const run: Run = (program, args) => runAsOwner(join(programs, program), args);
  const files: ClusterFiles = { data, log: join(place, 'log'), port: join(place, 'port') };
  const isThrowaway = options.isThrowaway === true;
  // Several may start at once on an empty folder.
  await withFolderLock(place, async () => {
    if (!existsSync(join(data, 'PG_VERSION'))) await initialise(run, place, data, isThrowaway);
    if (!isRunning(data)) await start(run, files, isThrowaway);
  });
  const port = portOf(data);
  const url = (role: string, database: string) =>
    `postgres://${role}:${secretOf(place, role)}@127.0.0.1:${port}/${database}`;

  async function asSuperuser(work: (client: pg.Client) => Promise<void>): Promise<void> {
    const client = new pg.Client({ connectionString: url(SUPERUSER, 'postgres') });
    client.on('error', () => undefined);
    await client.connect();
    try {
      // Roles and databases are shared by all that start at once, as tests do.
      await client.query('SELECT pg_advisory_lock($1)', [SET_UP_LOCK]);
      await work(client);
    } finally {
      await client.end();
    }
  }

  async function ensureDatabase(name: string, template = 'template1'): Promise<DatabaseUrls> {
    await asSuperuser(async (client) => {
      for (const role of [ownerRole, runtimeRole]) {
        const found = await client.query('SELECT FROM pg_roles WHERE rolname = $1', [role]);
        if (found.rowCount === 0) {
          await client.query(`CREATE ROLE ${role} LOGIN NOSUPERUSER NOBYPASSRLS`);
        }
        await client.query(`ALTER ROLE ${role} PASSWORD '${secretOf(place, role)}'`);
      }
      const found = await client.query('SELECT FROM pg_database WHERE datname = $1', [name]);
      if (found.rowCount === 0) {
        const [own, from] = [name, template].map(pg.escapeIdentifier);
        await client.query(`CREATE DATABASE ${own} OWNER ${ownerRole} TEMPLATE ${from}`);
      }
    });
    return { owner: url(ownerRole, name), runtime: url(runtimeRole, name) };
  }

  async function dropDatabase(name: string): Promise<void> {
    await asSuperuser(async (client) => {
      await client.query(`DROP DATABASE IF EXISTS ${pg.escapeIdentifier(name)} WITH (FORCE)`);
    });
  }

  return {
    ensureDatabase,
    dropDatabase,
    administrator: (name) => url(SUPERUSER, name),
    keepRunning: () => keepRunning(run, place, files, isThrowaway),
    stop: () => {
      if (isRunning(data)) runAsOwnerNow(join(programs, 'pg_ctl'), ['-D', data, ...STOP]);
    },
  };
}

const STOP = ['-m', 'fast', '-w', 'stop'];
/** How often it is looked whether PostgreSQL still runs, in milliseconds. */
const LOOK_AFTER = 1_000;

/** Runs one of PostgreSQL's programs as the cluster's owner. @throws with what it printed, where it fails */
type Run = (program: string, args: readonly string[]) => Promise<void>;

/** Where a cluster keeps its data, its log and the port that it had. */
interface ClusterFiles {
  readonly data: string;
  readonly log: string;
  readonly port: string;
}

function keepRunning(
  run: Run,
  place: string,
  files: ClusterFiles,
  isThrowaway: boolean,
): () => void {
  let isEnded = false;
  let timer: NodeJS.Timeout | undefined;
  const look = async (): Promise<void> => {
    try {
      if (!isRunning(files.data)) {
        await withFolderLock(place, async () => {
          if (!isEnded && !isRunning(files.data)) await start(run, files, isThrowaway);
        });
      }
    } catch {
      // It is tried again.
    }
    if (!isEnded) lookLater();
  };
  const lookLater = (): void => {
    timer = setTimeout(() => void look(), LOOK_AFTER).unref();
  };
  lookLater();
  return () => {
    isEnded = true;
    clearTimeout(timer);
  };
}

async function initialise(
  run: Run,
  place: string,
  data: string,
  isThrowaway: boolean,
): Promise<void> {
  rmSync(data, { recursive: true, force: true });
  secretOf(place, SUPERUSER);
  await run('initdb', [
    ...['-D', data, '-U', SUPERUSER, '--auth=scram-sha-256'],
    ...[`--pwfile=${secretFile(place, SUPERUSER)}`, '-E', 'UTF8', '--locale=C.UTF-8'],
    ...['--no-instructions', ...(isThrowaway ? ['--no-sync'] : [])],
  ]);
}

/** Each role has a secret of its own, so that the running program's opens nothing but its own role. */
function secretOf(place: string, role: string): string {
  const file = secretFile(place, role);
  if (!existsSync(file)) writeOwned(file, randomBytes(24).toString('hex'));
  return readFileSync(file, 'utf8');
}

function secretFile(place: string, role: string): string {
  return join(place, role === SUPERUSER ? 'secret' : `secret-${role}`);
}

function portOf(data: string): number {
  return Number(readFileSync(join(data, 'postmaster.pid'), 'utf8').split('\n')[3]);
}

/**
 * The folder of the newest installed PostgreSQL that has a program.
 *
 * @throws {Error} where there is none, with the package that brings it
 */
export function postgresPrograms(program: string, itsPackage = 'postgresql-15'): string {
  const root = '/usr/lib/postgresql';
  const versions = existsSync(root) ? readdirSync(root) : [];
  const newest = versions
    .filter((version) => existsSync(join(root, version, 'bin', program)))
    .sort((a, b) => Number(b) - Number(a))[0];
  if (newest === undefined) {
    throw new Error(`PostgreSQL’s ${program} is not installed: apt-get install ${itsPackage}`);
  }
  return join(root, newest, 'bin');
}

/** As root: the system user that the cluster belongs to, as PostgreSQL refuses to run as root. */
function clusterOwner(): { readonly uid: number; readonly gid: number } | null {
  if (process.getuid?.() !== 0) return null;
  const id = (flag: string) => Number(execFileSync('id', [flag, 'postgres'], { encoding: 'utf8' }));
  return { uid: id('-u'), gid: id('-g') };
}

/** The cluster's folder, made if need be: in the data folder, or where its owner can reach it. */
function clusterPlace(dataFolder: string): string {
  const near = resolve(dataFolder, 'postgres');
  const owner = clusterOwner();
  mkdirSync(resolve(dataFolder), { recursive: true });
  let place = near;
  if (owner !== null) {
    const probe = runAsOwnerStatus('test', ['-x', resolve(dataFolder)]);
    if (probe !== 0) {
      const mark = createHash('sha256').update(resolve(dataFolder)).digest('hex').slice(0, 12);
      place = join('/var/lib/postgresql', `zubrell-${mark}`);
    }
  }
  mkdirSync(place, { recursive: true, mode: 0o700 });
  chmodSync(place, 0o700);
  if (owner !== null) chownSync(place, owner.uid, owner.gid);
  return place;
}

function writeOwned(file: string, content: string): void {
  writeFileSync(file, content, { mode: 0o600 });
  const owner = clusterOwner();
  if (owner !== null) chownSync(file, owner.uid, owner.gid);
}

const AS_POSTGRES = [
  ...['--reuid=postgres', '--regid=postgres', '--init-groups', '--no-new-privs', '--reset-env'],
];

function ownerCommand(program: string, args: readonly string[]): [string, string[]] {
  return clusterOwner() === null
    ? [program, [...args]]
    : ['setpriv', [...AS_POSTGRES, program, ...args]];
}

const execute = promisify(execFile);

async function runAsOwner(program: string, args: readonly string[]): Promise<void> {
  const [command, all] = ownerCommand(program, args);
  await execute(command, all, { cwd: '/' }).catch((error) => {
    throw new Error(`${program} failed:\n${error.stdout}${error.stderr}${error.message}`);
  });
}

function runAsOwnerNow(program: string, args: readonly string[]): void {
  const [command, all] = ownerCommand(program, args);
  const done = spawnSync(command, all, {
    cwd: '/',
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  if (done.status !== 0) {
    throw new Error(`${program} failed:\n${done.stdout}${done.stderr}${done.error ?? ''}`);
  }
}

function runAsOwnerStatus(program: string, args: readonly string[]): number | null {
  const [command, all] = ownerCommand(program, args);
  return spawnSync(command, all, { cwd: '/', stdio: 'ignore' }).status;
}

/**
 * Whether this cluster's server runs. A leftover pid file of a killed server does not count, nor
 * one whose number went to another process since.
 */
function isRunning(data: string): boolean {
  const file = join(data, 'postmaster.pid');
  if (!existsSync(file)) return false;
  const pid = readFileSync(file, 'utf8').split('\n')[0]?.trim();
  try {
    if (readlinkSync(`/proc/${pid}/cwd`) === data) return true;
  } catch {
    // No such process, or not ours to look at.
  }
  rmSync(file, { force: true });
  return false;
}

/** So much memory PostgreSQL keeps pages of tables in, in MB: the 128 it begins with are less than a year of busy books. */
function sharedBuffers(): number {
  // A container may have less than its machine.
  const allowed = process.constrainedMemory() || totalmem();
  const ofAll = Math.floor(Math.min(allowed, totalmem()) / 1_048_576 / 8);
  return Math.max(128, Math.min(1_024, ofAll));
}

/** Starts PostgreSQL at the port that it had, if that is free, or at another. */
async function start(
  run: Run,
  { data, log, port: portFile }: ClusterFiles,
  isThrowaway: boolean,
): Promise<void> {
  const attempts = 5;
  for (let attempt = 1; ; attempt += 1) {
    // The port may be taken, or processes of a killed server may still be ending: then it is tried again.
    const known = existsSync(portFile) ? Number(readFileSync(portFile, 'utf8')) : 0;
    const port = known > 0 && attempt < attempts ? known : await freePort();
    const settings =
      `-c listen_addresses=127.0.0.1 -p ${port} -c unix_socket_directories=''` +
      (isThrowaway
        ? ' -c fsync=off -c synchronous_commit=off -c full_page_writes=off'
        : ` -c shared_buffers=${sharedBuffers()}MB`);
    try {
      await run('pg_ctl', ['-D', data, '-w', '-t', '30', '-l', log, '-o', settings, 'start']);
      writeOwned(portFile, String(port));
      return;
    } catch (error) {
      if (attempt === attempts) {
        throw new Error(
          `PostgreSQL does not start. Its log (${log}) ends:\n${await endOfFile(log)}\n${error}`,
        );
      }
      await new Promise((done) => setTimeout(done, 500 * attempt));
    }
  }
}

/** A port that is free on loopback now. */
export function freePort(): Promise<number> {
  return new Promise((found, failed) => {
    const server = createServer();
    server.once('error', failed);
    server.listen(0, '127.0.0.1', () => {
      const address = server.address();
      server.close(() => {
        if (address !== null && typeof address === 'object') found(address.port);
        else failed(new Error('no free port'));
      });
    });
  });
}
