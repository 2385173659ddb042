import { type ChildProcess, spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { setTimeout as pause } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';

const MAIN = fileURLToPath(new URL('../../../server/dist/main.js', import.meta.url));

/** The bank that feeds are fetched from. */
export const BANK_NAME = 'Wick & Alder';

/** A server process that is started again whenever it was killed, always at the same port. */
export interface BrokenServer {
  readonly url: string;
  readonly pid: () => number;
  kill(): void;
  /** What it said whenever it ended by itself, which it never should. */
  readonly ended: () => readonly string[];
  stop(): Promise<void>;
}

/** So much is kept of what a server says last. */
const LONGEST_WORDS = 600;

/** Starts a server on a cluster of its own below a folder. @param bankUrl the practice bank to fetch from, if any */
export function startServer(
  dataFolder: string,
  port: number,
  bankUrl: string | null,
): BrokenServer {
  let isStopped = false;
  const ended: string[] = [];
  let killed = false;
  let child: ChildProcess;

  function start(): void {
    killed = false;
    child = spawn(process.execPath, ['--enable-source-maps', MAIN], {
      env: {
        ...process.env,
        DATABASE_URL: undefined,
        ZUBRELL_DATA: dataFolder,
        ZUBRELL_DATABASE: 'faults',
        PORT: String(port),
        ...(bankUrl === null ? {} : { PRACTICE_BANK_URL: bankUrl, PRACTICE_BANK_NAME: BANK_NAME }),
      },
      stdio: ['ignore', 'ignore', 'pipe'],
    });
    let said = '';
    child.stderr?.on('data', (bytes: Buffer) => {
      said = `${said}${bytes.toString()}`.slice(-LONGEST_WORDS);
    });
    child.on('exit', () => {
      if (!killed && !isStopped) ended.push(said);
      if (!isStopped) start();
    });
  }

  start();
  return {
    url: `http://127.0.0.1:${port}`,
    pid: () => child.pid ?? 0,
    kill() {
      killed = true;
      child.kill('SIGKILL');
    },
    ended: () => ended,
    async stop() {
      isStopped = true;
      child.kill('SIGTERM');
      await Promise.race([new Promise((done) => child.once('exit', done)), pause(10_000)]);
      child.kill('SIGKILL');
    },
  };
}

/** The memory that a process has now, and the most that it ever had, in MB. */
export function memoryOf(pid: number): { readonly now: number; readonly most: number } {
  const status = readFileSync(`/proc/${pid}/status`, 'utf8');
  const megabytes = (name: string) =>
    Number(new RegExp(`${name}:\\s+(\\d+)`).exec(status)?.[1] ?? 0) / 1_024;
  return { now: megabytes('VmRSS'), most: megabytes('VmHWM') };
}

/** Waits until a server answers. */
export async function untilThere(url: string): Promise<void> {
  for (;;) {
    const answer = await fetch(`${url}/health/ready`).catch(() => null);
    if (answer?.ok) return;
    await pause(100);
  }
}

/** The process of PostgreSQL below a data folder, or null while there is none. */
export function postmasterOf(pidFile: string): number | null {
  try {
    return Number(readFileSync(pidFile, 'utf8').split('\n')[0]) || null;
  } catch {
    return null;
  }
}

/** Sends a request until it is answered: servers and database may be gone at any moment. */
export async function sendUntilAnswered<T>(
  urls: readonly string[],
  path: string,
  init: RequestInit = {},
): Promise<T> {
  for (let tries = 0; ; tries += 1) {
    const url = urls[tries % urls.length] ?? '';
    try {
      const answer = await fetch(`${url}${path}`, { ...init, signal: AbortSignal.timeout(20_000) });
      if (answer.status < 500) return (await answer.json()) as T;
    } catch {
      // Gone just now.
    }
    if (tries > 600) throw new Error(`${path} was never answered`);
    await pause(100);
  }
}
