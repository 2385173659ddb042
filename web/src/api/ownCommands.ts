import type { Touched } from '@zubrell/contract/touched';

/** So many of the newest are known. */
const MOST = 200;

const touchedByKey = new Map<string, readonly Touched[]>();

/** Gives a command a key, by which the server knows it when it is sent again, and this browser its echo. */
export function beginCommand(touches: readonly Touched[]): string {
  const key = crypto.randomUUID();
  touchedByKey.set(key, touches);
  const [oldest] = touchedByKey.keys();
  if (touchedByKey.size > MOST && oldest !== undefined) touchedByKey.delete(oldest);
  return key;
}

/** What a command of this browser said that it touches; undefined where it is somebody else's. */
export function ownTouches(key: string | null): readonly Touched[] | undefined {
  return key === null ? undefined : touchedByKey.get(key);
}
